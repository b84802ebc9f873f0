package ohmoscope.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Experience;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.job.Likeness.By;
import org.junit.jupiter.api.Test;

class LikenessTest {
    private static PastCase of(String number, long model, String rail, double volts, String words, double ohms) {
        return new PastCase(
                number,
                model,
                Optional.of(rail),
                OptionalDouble.of(volts),
                words,
                "C1 shorted",
                "C1",
                Optional.of(Hypothesis.Code.SHORT),
                OptionalDouble.of(ohms),
                OptionalDouble.empty());
    }

    private final PastCase now = of("K-9", 1, "VMAIN", 12, "does not charge since yesterday", 0.02);

    @Test
    void theSameModelOnTheSameRailWithLikeOhmsStandsFirstAndSaysWhy() {
        List<Likeness> near = Likeness.nearest(
                now,
                List.of(
                        of("K-1", 1, "VMAIN", 12, "dead", 0.025),
                        of("K-2", 1, "V3", 3.3, "dead", 8),
                        of("K-3", 2, "VSYS", 12, "does not charge", 0.02),
                        of("K-4", 2, "VCORE", 0.9, "no picture", 900)),
                3);
        assertThat(near).extracting(l -> l.then().number()).containsExactly("K-1", "K-3", "K-2");
        assertThat(near.get(0).by()).containsOnlyKeys(By.MODEL, By.RAIL, By.OHMS);
        assertThat(near.get(1).by()).containsOnlyKeys(By.VOLTS, By.OHMS, By.WORDS);
    }

    @Test
    void aJobIsNotLikeItselfAndWhatIsNotKnownCountsNeitherWay() {
        PastCase unknown = new PastCase(
                "K-8",
                1,
                Optional.empty(),
                OptionalDouble.empty(),
                "",
                "U1 shorted",
                "U1",
                Optional.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty());
        List<Likeness> near = Likeness.nearest(now, List.of(now, unknown), 5);
        assertThat(near).singleElement().satisfies(l -> assertThat(l.by()).containsOnlyKeys(By.MODEL));
    }

    @Test
    void ofManyAsNearTheNewestStandFirst() {
        List<PastCase> many = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            many.add(of(String.format("K-%04d", i), 1, "VMAIN", 12, "", 0.02));
        }
        assertThat(Likeness.nearest(now, many, 3))
                .extracting(l -> l.then().number())
                .containsExactly("K-0039", "K-0038", "K-0037");
    }

    /** Counts are of the model; what the complaint or the rail says against a case takes some of it. */
    @Test
    void casesOfTheModelCountByHowLikeTheyAre() {
        Experience counts = Likeness.experience(
                now,
                List.of(
                        of("K-5", 1, "VMAIN", 12, "does not charge", 0.02),
                        of("K-4", 1, "V3", 3.3, "does not charge", 0.02),
                        of("K-3", 1, "VMAIN", 12, "screen stays black", 0.02),
                        of("K-2", 2, "VMAIN", 12, "does not charge", 0.02),
                        now));
        assertThat(counts.cases()).extracting(Experience.Case::target).containsOnly("C1");
        assertThat(counts.cases()).extracting(Experience.Case::weight).containsExactly(1.0, 0.5, 0.7);
    }
}
