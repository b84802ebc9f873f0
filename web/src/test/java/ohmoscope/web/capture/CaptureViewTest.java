package ohmoscope.web.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.analysis.StoredAnalysis.StoredCapture;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import ohmoscope.web.store.JobRow;
import org.junit.jupiter.api.Test;

/** What the capture page says, and what its script is given. */
class CaptureViewTest {
    private static final Instant OPENED = Instant.parse("2026-02-01T09:00:00Z");
    private static final int FRAMES = 31;

    private static CaptureSpec spec(List<RegistrationPair> pairs) {
        return Fixtures.capture(92, 72, FRAMES, pairs);
    }

    private static CaptureSpec straight() {
        return spec(Fixtures.corners(40, 30, 2.2));
    }

    private static JobFile.Stored job(CaptureSpec spec) {
        Bundle bundle = new Bundle(
                new Bundle.Job("K-5", "Dead", Optional.of(OPENED)),
                Fixtures.board(),
                RailInQuestion.stated("VSYS"),
                Optional.empty(),
                Optional.of(Fixtures.log(1, 2, 3, 0.2, 2)),
                List.of(new Capture(spec, Fixtures.frames(List.of()))),
                List.of(),
                Map.of());
        return new JobFile.Stored(
                new JobRow(1, "K-5", "Dead", "", 1, 1, Optional.of("VSYS"), OPENED, OPENED), bundle, List.of());
    }

    private static StoredAnalysis analysis(double shakePx) {
        StoredCapture capture = new StoredCapture(
                "top-1",
                Side.TOP,
                0.073,
                shakePx,
                0.28,
                2,
                4,
                List.of(0, -1, 1),
                List.of(0.0, 0.0, 0.4),
                List.of(0.0, 0.0, -0.2),
                List.of(0.0, 0.0, 0.01),
                0.2,
                List.of(0.1, 0.1, 0.1, 0.1),
                -1,
                OptionalDouble.empty(),
                3,
                2,
                List.of());
        return new StoredAnalysis(
                Verdict.PART,
                List.of(new StoredSuspect("C3", 0.9, 0.1), new StoredSuspect("C2", 0.05, 4)),
                0,
                0,
                Optional.empty(),
                Optional.empty(),
                new EnumMap<>(Warning.class),
                List.of(capture),
                SlabParameters.expected(Fixtures.board()),
                List.of(),
                1,
                Optional.empty(),
                OptionalDouble.empty());
    }

    private static String fact(CaptureView view, String name) {
        return view.facts().stream()
                .filter(f -> f.name().equals(name))
                .map(f -> f.value() + ", " + f.words())
                .findFirst()
                .orElse("");
    }

    @Test
    void theCameraIsToldAsMeasured() {
        CaptureView view = CaptureView.of(job(straight()), straight(), Optional.of(analysis(0.02)));
        assertThat(view.size()).isEqualTo("92×72 pixels, 31 frames, 3.0 s");
        assertThat(fact(view, "Pixel")).isEqualTo("0.45 mm, on the board, in the middle");
        assertThat(fact(view, "Noise")).isEqualTo("73 mK, one frame to the next");
        assertThat(fact(view, "Drift")).startsWith("0.28 K");
        assertThat(fact(view, "Shake")).isEqualTo("0.02 px, steady");
        assertThat(fact(view, "Re-zeroed or nudged")).isEqualTo("1×, 4 repeated frames left out");
        assertThat(view.lastFrame()).isEqualTo(FRAMES - 1);
        CaptureView shaken = CaptureView.of(job(straight()), straight(), Optional.of(analysis(0.9)));
        assertThat(fact(shaken, "Shake")).isEqualTo("0.90 px, frames laid over each other, turned back by 0.33°");
    }

    @Test
    void beforeAnyAnalysisOnlyGeometryIsKnown() {
        CaptureView view = CaptureView.of(job(straight()), straight(), Optional.empty());
        assertThat(view.facts()).extracting(CaptureView.Fact::name).containsExactly("Pixel");
    }

    @Test
    void pairsCarryTheirResiduals() {
        CaptureView view = CaptureView.of(job(straight()), straight(), Optional.empty());
        assertThat(view.pairs()).hasSize(4).allSatisfy(p -> {
            assertThat(p.residual()).isEqualTo("0.00 mm");
            assertThat(p.leftOut()).isFalse();
        });
        assertThat(view.pairs().get(3).place()).isEqualTo("40.0, 30.0 mm");
        assertThat(view.registrationWords()).startsWith("The pairs agree");
    }

    @Test
    void aPairThatWasLeftOutIsMarked() {
        List<RegistrationPair> pairs = new ArrayList<>(Fixtures.corners(40, 30, 2.2));
        pairs.add(new RegistrationPair(2 + 20 * 2.2, 2 + 15 * 2.2, 20, 15));
        pairs.add(new RegistrationPair(40, 10, 10, 8));
        CaptureView view = CaptureView.of(job(spec(pairs)), spec(pairs), Optional.empty());
        assertThat(view.pairs().get(5).leftOut()).isTrue();
        assertThat(view.pairs()).filteredOn(CaptureView.Pair::leftOut).hasSize(1);
        assertThat(view.registrationWords()).contains("set the worst again");
    }

    @Test
    void theScriptIsGivenTheMapThePowerAndTheShake() {
        CaptureAbout about = CaptureAbout.of(job(straight()), straight(), Optional.of(analysis(0.4)));
        double[] m = about.toPx();
        double w = m[6] * 40 + m[7] * 30 + m[8];
        assertThat((m[0] * 40 + m[1] * 30 + m[2]) / w).isCloseTo(90, within(1e-6));
        assertThat((m[3] * 40 + m[4] * 30 + m[5]) / w).isCloseTo(2, within(1e-6));
        assertThat(about.box()).containsExactly(0, 0, 40, 30);
        assertThat(about.bottom()).isFalse();
        assertThat(about.steps()).extracting(CaptureAbout.Step::on).containsExactly(true, false);
        assertThat(about.steps().get(0).t()).isCloseTo(1, within(0.1));
        assertThat(about.segment()).containsExactly(0, -1, 1);
        assertThat(about.shiftX()).containsExactly(0.0, 0.0, 0.4);
        assertThat(about.turn()).containsExactly(0.0, 0.0, 0.01);
        assertThat(about.suspects())
                .singleElement()
                .satisfies(p -> assertThat(p).containsExactly(20, 14));
        assertThat(about.times()).hasSize(FRAMES);
    }

    @Test
    void withoutAnAnalysisTheScriptStillDraws() {
        CaptureAbout about = CaptureAbout.of(job(straight()), straight(), Optional.empty());
        assertThat(about.segment()).isEmpty();
        assertThat(about.suspects()).isEmpty();
        assertThat(about.pairs()).isEqualTo(straight().registration());
    }
}
