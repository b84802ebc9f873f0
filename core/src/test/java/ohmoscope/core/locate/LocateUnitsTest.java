package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.concurrent.CancellationException;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.fit.NonNegativeFit;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Candidates;
import ohmoscope.core.locate.search.ByEye;
import ohmoscope.core.locate.search.Locator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LocateUnitsTest {
    private final Board board = Fixtures.board();

    private List<Candidate> candidates(Observation... observations) {
        return Candidates.on(board, Rail.between(board, "VIN", "VSYS"), List.of(observations), Map.of());
    }

    private static double prior(List<Candidate> candidates, String ref) {
        return candidates.stream()
                .filter(c -> c.part().ref().equals(ref))
                .mapToDouble(Candidate::prior)
                .findFirst()
                .orElse(0);
    }

    @Test
    void candidatesAreThePartsThatCanPullTheRailDown() {
        List<Candidate> all = candidates();
        assertThat(all)
                .extracting(c -> c.part().ref())
                .contains("C1", "C6", "U1", "C7")
                .doesNotContain("R1", "F1", "L1");
        assertThat(prior(all, "C7")).isLessThan(0.5 * prior(all, "C1"));
    }

    @Test
    void otherEvidenceWeighsOnThePrior() {
        List<Candidate> plain = candidates();
        List<Candidate> leaning =
                Candidates.on(board, Rail.between(board, "VIN", "VSYS"), List.of(), Map.of("C2", 12.0, "C3", 0.5));
        assertThat(prior(leaning, "C2")).isEqualTo(12 * prior(plain, "C2"));
        assertThat(prior(leaning, "C3")).isEqualTo(0.5 * prior(plain, "C3"));
        assertThat(prior(leaning, "C1")).isEqualTo(prior(plain, "C1"));
    }

    @Test
    void whatWasOffBeforeTheInjectionIsNoCandidate() {
        Inject inject = new Inject(
                2,
                "VSYS",
                Optional.empty(),
                OptionalDouble.of(1),
                OptionalDouble.of(1),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Optional.empty(),
                Optional.empty());
        assertThat(prior(candidates(Fixtures.removed(1, "C2"), inject), "C2")).isZero();
        assertThat(prior(candidates(inject, Fixtures.removed(3, "C2")), "C2")).isPositive();
    }

    @Test
    void smallBodiesWarmAtOnePlaceLargeOnesAnywhere() {
        Candidate small = new Candidate(board.part("C1").orElseThrow(), 1);
        assertThat(small.spots()).hasSize(1);
        assertThat(small.spotsAndSlow()).hasSize(2).allSatisfy(s -> {
            assertThat(s.xMm()).isEqualTo(small.part().xMm());
            assertThat(s.yMm()).isEqualTo(small.part().yMm());
        });
        assertThat(small.spotsAndSlow().get(1).lagS())
                .as("handed on slowly")
                .isGreaterThan(2 * small.spots().get(0).lagS());
        Candidate large = new Candidate(board.part("U1").orElseThrow(), 1);
        assertThat(large.spotsAndSlow()).isEqualTo(large.spots());
        assertThat(large.spots()).hasSizeGreaterThan(8).allSatisfy(s -> {
            assertThat(large.part().covers(s.xMm(), s.yMm(), 0)).isTrue();
            assertThat(s.side()).isEqualTo(Side.TOP);
        });
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void nonNegativeFitMeetsTheConditionsOfAnOptimum(long seed) {
        Random random = new Random(seed);
        int n = 5;
        double[][] a = new double[12][n];
        double[] y = new double[12];
        for (int i = 0; i < 12; i++) {
            y[i] = random.nextGaussian();
            for (int j = 0; j < n; j++) {
                a[i][j] = random.nextGaussian();
            }
        }
        double[][] gram = new double[n][n];
        double[] rhs = new double[n];
        for (int i = 0; i < 12; i++) {
            for (int j = 0; j < n; j++) {
                rhs[j] += a[i][j] * y[i];
                for (int k = 0; k < n; k++) {
                    gram[j][k] += a[i][j] * a[i][k];
                }
            }
        }
        double[] x = new double[n];
        double gain = NonNegativeFit.solve(gram, rhs, x);
        assertThat(gain).isNotNegative();
        for (int j = 0; j < n; j++) {
            double slope = rhs[j];
            for (int k = 0; k < n; k++) {
                slope -= gram[j][k] * x[k];
            }
            assertThat(x[j]).isNotNegative();
            // Zero slope where the amplitude is free, none upwards where it is held at zero.
            if (x[j] > 1e-9) {
                assertThat(slope).isCloseTo(0, within(1e-5));
            } else {
                assertThat(slope).isLessThan(1e-5);
            }
        }
    }

    @Test
    void theBaselineTakesThePartNearestTheHottestPixel() throws IOException {
        CaptureSpec spec = Fixtures.capture(92, 72, 20, Fixtures.corners(40, 30, 2.2));
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < 20; f++) {
            char[] frame = new char[spec.pixels()];
            java.util.Arrays.fill(frame, (char) 29500);
            // Board place (24, 14) is at pixel (54.8, 37.2): C4.
            frame[37 * 92 + 55] += (char) (10 * f);
            frames.add(frame);
        }
        LocateInput input = new LocateInput(
                board,
                "VSYS",
                Optional.empty(),
                SupplyLog.empty(),
                List.of(new LocateInput.Capture(spec, Fixtures.frames(frames))),
                List.of());
        assertThat(ByEye.ranked(input).get(0).ref()).isEqualTo("C4");
    }

    @Test
    void withoutPowerOrFramesNothingIsFound() throws IOException {
        LocateInput bare = new LocateInput(board, "VSYS", Optional.empty(), SupplyLog.empty(), List.of(), List.of());
        LocateResult result = new Locator().locate(bare, Progress.SILENT);
        assertThat(result.verdict()).isEqualTo(Verdict.NONE);
        assertThat(result.source()).isEmpty();
        assertThat(result.heats()).isEmpty();
    }

    @Test
    void framesThatCannotTellLeaveEverySuspectAsLikelyAsBefore() throws IOException {
        LocateInput bare = new LocateInput(board, "VSYS", Optional.empty(), SupplyLog.empty(), List.of(), List.of());
        LocateResult result = new Locator().locate(bare, Progress.SILENT);
        assertThat(result.blind()).isTrue();
        assertThat(result.noneProbability()).isEqualTo(LocateSettings.DEFAULT.nonePrior());
        double sum =
                result.suspects().stream().mapToDouble(Suspect::probability).sum();
        assertThat(sum + result.noneProbability() + result.elsewhereProbability())
                .isCloseTo(1, within(1e-9));
        List<Candidate> all = Candidates.on(board, Rail.between(board, "VSYS", "VSYS"), List.of(), Map.of());
        Suspect first = result.suspects().get(0);
        Suspect last = result.suspects().get(result.suspects().size() - 1);
        assertThat(first.probability() / last.probability())
                .isCloseTo(
                        prior(all, first.part().ref()) / prior(all, last.part().ref()), within(1e-9));
        assertThat(LocateResult.blind(Verdict.NONE, 0.9)).isFalse();
        assertThat(LocateResult.blind(Verdict.AREA, 0.08)).isFalse();
    }

    @Test
    void noCurrentIsAWarning() throws IOException {
        LocateInput input =
                new LocateInput(board, "VSYS", Optional.empty(), Fixtures.log(1, 3, 4, 1, 0.001), List.of(), List.of());
        assertThat(new Locator().locate(input, Progress.SILENT).warnings()).containsKey(Warning.NO_CONTACT);
    }

    @Test
    void aCancelledSearchStops() {
        LocateInput input = new LocateInput(board, "VSYS", Optional.empty(), SupplyLog.empty(), List.of(), List.of());
        assertThatThrownBy(() -> new Locator().locate(input, share -> {
                    throw new CancellationException();
                }))
                .isInstanceOf(CancellationException.class);
    }

    @Test
    void refusesARailThatTheBoardDoesNotHave() {
        assertThatThrownBy(
                        () -> new LocateInput(board, "V99", Optional.empty(), SupplyLog.empty(), List.of(), List.of()))
                .hasMessageContaining("rail names the net V99");
    }

    @Test
    void settingsRefuseNonsense() {
        assertThatThrownBy(() -> new LocateSettings(0, 1, 0.1, 0.1, 0.7)).hasMessageContaining("boardError");
        assertThatThrownBy(() -> new LocateSettings(0.1, 1, 0.1, 0.1, 0.2)).hasMessageContaining("partFrom");
    }

    @Test
    void shieldsAreNoSuspects() {
        Part can = Part.of(
                "SH1",
                PartKind.SHIELD,
                Side.TOP,
                20,
                10,
                8,
                8,
                List.of(new Pin("1", "GND", 16, 10), new Pin("2", "VSYS", 24, 10)));
        List<Part> parts = new ArrayList<>(board.parts());
        parts.add(can);
        Board shielded = new Board("x", "", board.outline(), 1, 4, 18, board.nets(), parts, List.of(), List.of());
        assertThat(Candidates.on(shielded, Rail.between(shielded, "VSYS", "VSYS"), List.of(), Map.of()))
                .extracting(c -> c.part().ref())
                .doesNotContain("SH1");
    }

    @Test
    void nothingMayBeCalledForWantOfAnythingBetter() {
        assertThat(LocateResult.onlyNothingStandsOut(Verdict.NONE, 0.3)).isTrue();
        assertThat(LocateResult.onlyNothingStandsOut(Verdict.NONE, 0.9)).isFalse();
        assertThat(LocateResult.onlyNothingStandsOut(Verdict.NONE, 0.08))
                .as("blind")
                .isFalse();
        assertThat(LocateResult.onlyNothingStandsOut(Verdict.AREA, 0.3)).isFalse();
    }
}
