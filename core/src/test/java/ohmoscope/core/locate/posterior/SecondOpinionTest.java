package ohmoscope.core.locate.posterior;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.HeatSource;
import org.junit.jupiter.api.Test;

/** The pictures by themselves, and how much of them goes into the probabilities. */
class SecondOpinionTest {
    private static final int W = 92;
    private static final int H = 72;
    private static final int FRAMES = 40;
    private static final double ON_S = 1.5;

    private final Board board = Fixtures.board();
    private final CaptureSpec spec = Fixtures.capture(W, H, FRAMES, Fixtures.corners(40, 30, 2.2));
    private final List<Candidate> candidates = IntStream.rangeClosed(1, 6)
            .mapToObj(i -> new Candidate(board.part("C" + i).orElseThrow(), 1))
            .toList();

    /** A spot over a part that warms while power flows, in a picture that drifts and is brighter at one edge. */
    private CaptureModel capture(Part part, double riseK) throws IOException {
        Random random = new Random(11);
        var frames = IntStream.range(0, FRAMES)
                .mapToObj(f -> {
                    double on = -Math.expm1(-Math.max(0, spec.timesS().get(f) - ON_S));
                    char[] counts = new char[W * H];
                    for (int p = 0; p < counts.length; p++) {
                        double x = (p % W - 2) / 2.2 - part.xMm();
                        double y = 30 - (p / W - 2) / 2.2 - part.yMm();
                        double kelvin = riseK * on * Math.exp(-(x * x + y * y) / 2) + 0.05 * f / FRAMES * (p % W) / W;
                        counts[p] = (char) Math.round(29500 + 100 * kelvin + 4 * random.nextGaussian());
                    }
                    return counts;
                })
                .toList();
        return new CapturePreparer(
                        board,
                        SlabParameters.expected(board),
                        Waveform.stepAt(ON_S),
                        Optional.empty(),
                        LocateSettings.DEFAULT,
                        CapturePreparer.Scans.whole())
                .prepare(new LocateInput.Capture(spec, Fixtures.frames(frames)))
                .model()
                .orElseThrow();
    }

    private static double[] evenly() {
        // Six parts, nothing, something else.
        return new double[] {0.15, 0.15, 0.15, 0.15, 0.15, 0.15, 0.07, 0.03};
    }

    @Test
    void whatRisesBesideAFlatModelLeadsAndNothingIsLostInAll() throws IOException {
        Part warm = board.part("C4").orElseThrow();
        SecondOpinion second = SecondOpinion.of(List.of(capture(warm, 0.3)), candidates, List.of());
        assertThat(second.strongest().orElseThrow().ref()).isEqualTo("C4");
        double[] p = second.sharedOut(evenly());
        assertThat(p[3]).isGreaterThan(2.5 * p[0]);
        assertThat(Arrays.stream(p).sum()).isCloseTo(1, within(1e-12));
        assertThat(p[6]).isEqualTo(0.07);
        assertThat(p[7]).isEqualTo(0.03);
    }

    @Test
    void aModelThatIsSureIsHardlyMoved() throws IOException {
        Part warm = board.part("C4").orElseThrow();
        SecondOpinion second = SecondOpinion.of(List.of(capture(warm, 0.3)), candidates, List.of());
        double[] p = second.sharedOut(new double[] {0.95, 0.01, 0.01, 0.01, 0, 0, 0.01, 0.01});
        assertThat(p[0]).isGreaterThan(0.947);
    }

    @Test
    void whatAProbeWarmsSpeaksForNoPart() throws IOException {
        Part warm = board.part("C4").orElseThrow();
        HeatSource tip = new HeatSource(warm.xMm(), warm.yMm() + 1, warm.side(), 0.25, 0.1);
        Nuisance lead = new Nuisance(Kind.CONTACT, "lead", List.of(tip), 0, 0.1);
        SecondOpinion second = SecondOpinion.of(List.of(capture(warm, 2)), candidates, List.of(lead));
        assertThat(second.strongest().map(StandsOut::ref)).isNotEqualTo(Optional.of("C4"));
        assertThat(second.sharedOut(evenly())[3]).isLessThan(0.16);
    }

    /** Heat that comes through the board is broad: a narrow spot on a part that was seen speaks against the other face. */
    @Test
    void aNarrowSpotOnASeenPartTakesFromTheOtherFace() throws IOException {
        Part warm = board.part("C4").orElseThrow();
        List<Candidate> both = new ArrayList<>(candidates);
        both.set(0, new Candidate(behind(board.part("C1").orElseThrow()), 1));
        CaptureModel clear = capture(warm, 6);
        double[] sure = {0.9, 0, 0, 0.05, 0, 0, 0.03, 0.02};
        double[] p = SecondOpinion.of(List.of(clear), both, List.of()).sharedOut(sure.clone());
        assertThat(p[3]).isGreaterThan(0.7);
        assertThat(p[0]).isLessThan(0.1);
        assertThat(Arrays.stream(p).sum()).isCloseTo(1, within(1e-12));
        assertThat(p[6]).isEqualTo(0.03);
        // Seen with it, the same part keeps what the model gives it.
        double[] seen = SecondOpinion.of(List.of(clear), candidates, List.of()).sharedOut(sure.clone());
        assertThat(seen[0]).isGreaterThan(0.85);
        // A faint spot says too little.
        double[] faint =
                SecondOpinion.of(List.of(capture(warm, 0.3)), both, List.of()).sharedOut(sure.clone());
        assertThat(faint[0]).isGreaterThan(0.85);
    }

    private static Part behind(Part part) {
        return PartEdit.of(part)
                .at(part.side().opposite(), part.xMm(), part.yMm(), part.rotDeg())
                .done();
    }

    @Test
    void withoutPicturesTheyAreSharedAsBefore() {
        SecondOpinion second = SecondOpinion.of(List.of(), candidates, List.of());
        assertThat(second.strongest()).isEmpty();
        assertThat(second.sharedOut(evenly())).containsExactly(evenly(), within(1e-12));
    }
}
