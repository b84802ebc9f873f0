package ohmoscope.core.locate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.Grids;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.MovieTime;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.model.OwnWarmth;
import ohmoscope.core.locate.model.ResponseTables;
import org.junit.jupiter.api.Test;

/** The regression on movies made from its own model, where the right answer is known. */
class MovieFitTest {
    private static final int ROWS = 60;
    private static final int COLUMNS = 80;
    private static final double PITCH = 0.5;
    private static final double NOISE = 0.05;
    private static final HeatSource TRUE = new HeatSource(17, 12, Side.TOP, 0.2, 0.1);
    private static final WattsPrior BROAD = WattsPrior.normal(0, 0.5);

    private final Outline outline = Fixtures.rectangle(40, 30);
    private final SlabParameters slab = SlabParameters.expected(Fixtures.board());
    private final MovieTime time = Grids.time(slab, 2, 70, 0.12);

    private Pixels pixels() {
        return Grids.of(ROWS, COLUMNS, PITCH, 0);
    }

    private CaptureModel capture(float[] data) {
        return CaptureModel.of(Side.TOP, pixels(), data, NOISE, time, PITCH, outline, LocateSettings.DEFAULT, 100_000);
    }

    /** Data of a source, with noise and stripes. */
    private float[] data(HeatModel model, double watts, double stripesK, long seed) {
        int k = time.components();
        Random random = new Random(seed);
        CaptureModel empty = capture(new float[ROWS * COLUMNS * k]);
        float[] column = empty.column(List.of(TRUE), empty.tables(model)).values();
        float[] data = new float[column.length];
        double[] rows = random.doubles(ROWS, -stripesK, stripesK + 1e-12).toArray();
        double[] columns = random.doubles(COLUMNS, -stripesK, stripesK + 1e-12).toArray();
        for (int i = 0; i < data.length; i++) {
            int p = i % (ROWS * COLUMNS);
            data[i] = (float)
                    (watts * column[i] + NOISE * random.nextGaussian() + rows[p / COLUMNS] + columns[p % COLUMNS]);
        }
        return data;
    }

    private MovieFit fit(CaptureModel capture) {
        return new MovieFit(List.of(capture), List.of(), BROAD, HeatModel.of(slab));
    }

    @Test
    void theAmplitudeAndThePlaceAreFoundBack() {
        MovieFit fit = fit(capture(data(HeatModel.of(slab), 0.05, 0, 1)));
        Score score = fit.score(TRUE);
        assertThat(score.watts()).isCloseTo(0.05, within(0.002));
        assertThat(score.snr()).isGreaterThan(20);
        for (double[] off : new double[][] {{0.6, 0}, {-0.6, 0}, {0, 0.6}, {0, -0.6}, {2, 1}}) {
            assertThat(fit.score(TRUE.moved(off[0], off[1])).logLikelihood())
                    .as("moved by %s, %s", off[0], off[1])
                    .isLessThan(score.logLikelihood());
        }
    }

    @Test
    void stripesOfRowsAndColumnsDoNotMatter() {
        Score clean = fit(capture(data(HeatModel.of(slab), 0.05, 0, 2))).score(TRUE);
        Score striped = fit(capture(data(HeatModel.of(slab), 0.05, 0.05, 2))).score(TRUE);
        assertThat(striped.watts()).isCloseTo(clean.watts(), within(1e-4));
        assertThat(striped.logLikelihood()).isCloseTo(clean.logLikelihood(), withinPercentage(20));
        // What is taken out is trusted a little less.
        Score badly = fit(capture(data(HeatModel.of(slab), 0.05, 3, 2))).score(TRUE);
        assertThat(badly.watts()).isCloseTo(clean.watts(), within(2e-3));
        assertThat(badly.snr()).isLessThan(clean.snr());
    }

    @Test
    void theOtherSideIsToldByItsDelay() {
        MovieFit fit = fit(capture(data(HeatModel.of(slab), 0.05, 0, 3)));
        HeatSource below = new HeatSource(17, 12, Side.BOTTOM, 0.2, 0.1);
        assertThat(fit.score(TRUE).logLikelihood())
                .isGreaterThan(fit.score(below).logLikelihood() + 5);
    }

    @Test
    void noiseAloneGainsNothing() {
        Score score = fit(capture(data(HeatModel.of(slab), 0, 0, 4))).score(TRUE);
        assertThat(score.logLikelihood()).isLessThan(2);
        assertThat(score.watts()).isBetween(0.0, 0.004);
    }

    @Test
    void aNuisanceTakesWhatIsItsOwn() {
        float[] data = data(HeatModel.of(slab), 0.05, 0, 5);
        Nuisance own = new Nuisance(Nuisance.Kind.CONTACT, "lead", List.of(TRUE), 0, 0.2);
        MovieFit fit = new MovieFit(List.of(capture(data)), List.of(own), BROAD, HeatModel.of(slab));
        HeatSource elsewhere = new HeatSource(30, 20, Side.TOP, 0.2, 0.1);
        assertThat(fit.score(elsewhere).logLikelihood()).isLessThan(2);
        assertThat(fit.solved(elsewhere).amplitudes()[0]).isCloseTo(0.05, within(0.004));
    }

    @Test
    void whatTheSupplyPromisesPullsTheAmplitude() {
        CaptureModel capture = capture(data(HeatModel.of(slab), 0.001, 0, 6));
        MovieFit strict =
                new MovieFit(List.of(capture), List.of(), WattsPrior.normal(0.02, 0.0002), HeatModel.of(slab));
        assertThat(strict.score(TRUE).watts())
                .isGreaterThan(fit(capture).score(TRUE).watts());
        assertThat(strict.score(TRUE).logLikelihood())
                .isLessThan(fit(capture).score(TRUE).logLikelihood());
    }

    @Test
    void binnedPixelsKeepWhatTheFineOnesTell() {
        CaptureModel whole = capture(data(HeatModel.of(slab), 0.05, 0, 7));
        CaptureModel coarse = whole.binned(1300);
        assertThat(coarse.count()).isBetween(1000, 1300);
        assertThat(fit(coarse).score(TRUE).logLikelihood())
                .isCloseTo(
                        fit(whole).score(TRUE).logLikelihood(),
                        within(0.07 * fit(whole).score(TRUE).logLikelihood()));
        assertThat(whole.binned(100_000).count()).isEqualTo(whole.count());
    }

    @Test
    void twoCapturesCountTogether() {
        CaptureModel one = capture(data(HeatModel.of(slab), 0.02, 0, 8));
        CaptureModel two = capture(data(HeatModel.of(slab), 0.02, 0, 9));
        MovieFit both = new MovieFit(List.of(one, two), List.of(), BROAD, HeatModel.of(slab));
        assertThat(both.score(TRUE).logLikelihood())
                .isGreaterThan(1.5 * fit(one).score(TRUE).logLikelihood());
        assertThat(both.score(TRUE).watts()).isCloseTo(0.02, within(0.002));
    }

    @Test
    void weighingAgainDropsWhatNeighboursShare() {
        int k = time.components();
        float[] data = data(HeatModel.of(slab), 0.05, 0, 10);
        Random random = new Random(3);
        // Blocks of 10 × 10 pixels wander together: a hundred pixels, one piece of news.
        float[] blocks = new float[8 * 6 * k];
        for (int i = 0; i < blocks.length; i++) {
            blocks[i] = (float) (0.3 * random.nextGaussian());
        }
        for (int i = 0; i < data.length; i++) {
            int p = i % (ROWS * COLUMNS);
            data[i] += blocks[(p / COLUMNS / 10 * 8 + p % COLUMNS / 10) * k + i / (ROWS * COLUMNS)];
        }
        CaptureModel naive = capture(data);
        CaptureModel fair = fit(naive).reweighed(TRUE).get(0);
        assertThat(fit(fair).score(TRUE).logLikelihood())
                .isLessThan(0.3 * fit(naive).score(TRUE).logLikelihood());
        CaptureModel clean = capture(data(HeatModel.of(slab), 0.05, 0, 10));
        CaptureModel cleanFair = fit(clean).reweighed(TRUE).get(0);
        assertThat(fit(cleanFair).score(TRUE).logLikelihood())
                .isGreaterThan(0.6 * fit(clean).score(TRUE).logLikelihood());
    }

    @Test
    void theMovieDecidesTheDiffusivity() {
        HeatModel fast = new HeatModel(slab.scaled(1.35, 1), 0.04, 1, 0.8);
        CaptureModel capture = capture(data(fast, 0.2, 0, 11)).binned(2000);
        ModelRefiner.Refined refined = ModelRefiner.refine(
                List.of(capture), List.of(), BROAD, HeatModel.of(slab), TRUE, ModelRefiner.unmoved());
        double factor = refined.model().slab().diffusivityMm2PerS() / slab.diffusivityMm2PerS();
        assertThat(factor).isCloseTo(1.35, within(0.12));
        MovieFit before = new MovieFit(List.of(capture), List.of(), BROAD, HeatModel.of(slab));
        MovieFit after = new MovieFit(List.of(capture), List.of(), BROAD, refined.model());
        assertThat(after.total(TRUE)).isGreaterThan(before.total(TRUE));
        ModelRefiner.Refined again =
                ModelRefiner.refine(List.of(capture), List.of(), BROAD, HeatModel.of(slab), TRUE, refined.point());
        MovieFit twice = new MovieFit(List.of(capture), List.of(), BROAD, again.model());
        assertThat(twice.total(TRUE)).isGreaterThanOrEqualTo(after.total(TRUE) - 0.5);
    }

    @Test
    void edgesMirrorHeat() {
        CaptureModel empty = capture(new float[ROWS * COLUMNS * time.components()]);
        HeatSource edge = new HeatSource(0.3, 15, Side.TOP, 0.2, 0.1);
        HeatSource centre = new HeatSource(20, 15, Side.TOP, 0.2, 0.1);
        assertThat(square(empty, edge)).isGreaterThan(1.2 * square(empty, centre));
    }

    private double square(CaptureModel capture, HeatSource source) {
        CaptureModel.Column column = capture.column(List.of(source), capture.tables(HeatModel.of(slab)));
        return column.with(column);
    }

    @Test
    void columnsAreLinear() {
        CaptureModel empty = capture(new float[ROWS * COLUMNS * time.components()]);
        HeatSource beside = new HeatSource(TRUE.xMm() + 4, TRUE.yMm(), Side.TOP, 0.2, 0.1);
        ResponseTables tables = empty.tables(HeatModel.of(slab));
        CaptureModel.Column one = empty.column(List.of(TRUE), tables);
        CaptureModel.Column both = empty.column(List.of(TRUE, beside), tables);
        double product = one.with(one);
        double half = (product + empty.column(List.of(beside), tables).with(one)) / 2;
        assertThat(both.with(one)).isCloseTo(half, within(1e-3 * product));
        float[] column = one.values();
        List<Double> sums = new ArrayList<>();
        for (int j = 0; j < time.components(); j++) {
            double sum = 0;
            for (int p = 0; p < ROWS * COLUMNS; p++) {
                sum += column[j * ROWS * COLUMNS + p];
            }
            sums.add(sum);
        }
        assertThat(sums).allSatisfy(s -> assertThat(Math.abs(s)).isLessThan(1e-2 * Math.sqrt(product)));
    }

    private final Part part = Fixtures.twoPin("C9", PartKind.CAPACITOR, 17, 12, "VBAT", "GND");
    private final HeatSource inBody = new HeatSource(17, 12, Side.TOP, 0.2, 0.1, Optional.of(part));

    /** Heat released in the part's body, which looks by some kelvin warmer than the board under it, or cooler. */
    private CaptureModel bodyCapture(double watts, double bodyK, long seed) {
        float[] data = data(HeatModel.of(slab), watts, 0, seed);
        CaptureModel empty = capture(new float[data.length]);
        OwnWarmth own =
                empty.ownWarmth(inBody, empty.tables(HeatModel.of(slab))).orElseThrow();
        own.addTo(data, own.values(), ROWS * COLUMNS, (float) bodyK);
        return capture(data);
    }

    @Test
    void aBodyThatStandsAboveItsBoardSpeaksForItsPart() {
        MovieFit fit = fit(bodyCapture(0.02, 0.8, 21));
        assertThat(fit.solved(inBody).bodyK()).isCloseTo(0.8, within(0.2));
        assertThat(fit.score(inBody).watts()).isCloseTo(0.02, within(0.002));
        assertThat(fit.score(inBody).logLikelihood())
                .isGreaterThan(fit.score(TRUE).logLikelihood() + 20);
    }

    /** A body that warms by itself, whatever the supply does, warms no board. */
    @Test
    void aBodyFarWarmerThanItsWattsAllowSpeaksLessForItsPart() {
        MovieFit fit = fit(bodyCapture(0, 0.2, 27));
        assertThat(fit.solved(inBody).bodyK()).isLessThan(0.1);
        // Were that much allowed it, its body would speak for it by 95 nats.
        assertThat(fit.score(inBody).logLikelihood()).isLessThan(fit.score(TRUE).logLikelihood() + 60);
    }

    @Test
    void aShinyBodyLooksCoolerAndDoesNotHideItsHeat() {
        MovieFit fit = fit(bodyCapture(0.05, -0.5, 22));
        assertThat(fit.solved(inBody).bodyK()).isCloseTo(-0.5, within(0.1));
        assertThat(fit.score(inBody).watts()).isCloseTo(0.05, within(0.003));
    }

    @Test
    void aBodyLikeItsBoardCostsItsPartLittle() {
        MovieFit fit = fit(bodyCapture(0.05, 0, 23));
        double without = fit.score(TRUE).logLikelihood();
        assertThat(fit.score(inBody).logLikelihood()).isBetween(without - 1, without + 3);
    }

    @Test
    void aBodyOnTheOtherFaceIsNotSeen() {
        CaptureModel capture = bodyCapture(0.05, 0.5, 24);
        HeatSource below = new HeatSource(17, 12, Side.BOTTOM, 0.2, 0.1, Optional.of(part));
        assertThat(capture.ownWarmth(below, capture.tables(HeatModel.of(slab)))).isEmpty();
        assertThat(capture.ownWarmth(TRUE, capture.tables(HeatModel.of(slab)))).isEmpty();
        assertThat(fit(capture).solved(below).bodyK()).isZero();
    }

    @Test
    void weighingAgainTakesTheBodysOwnWarmthOff() {
        double warm = again(bodyCapture(0.05, 2, 25)).watts();
        double alike = again(bodyCapture(0.05, 0, 25)).watts();
        assertThat(warm).isCloseTo(0.05, within(0.003));
        assertThat(warm).isCloseTo(alike, within(0.003));
        // What the body adds is not taken for activity of the picture.
        assertThat(again(bodyCapture(0.05, 2, 25)).snr()).isGreaterThan(100);
    }

    private Score again(CaptureModel capture) {
        return fit(fit(capture).reweighed(inBody).get(0)).score(inBody);
    }

    @Test
    void whatIsExplainedIsTheDataButForTheNoise() {
        CaptureModel capture = bodyCapture(0.05, 0.8, 26);
        MovieFit fit = fit(capture);
        MovieFit.Explained explained = fit.explained(inBody);
        double square = MovieFit.Explained.product(explained.columns(), explained.columns());
        double withData = capture.withData(explained.columns().get(0));
        assertThat(withData).isCloseTo(square, withinPercentage(2));
        assertThat(explained.logLikelihood()).isCloseTo(fit.total(inBody), withinPercentage(0.01));
        assertThat(fit.total(inBody)).isCloseTo(square / 2, withinPercentage(3));
    }

    @Test
    void theMovieDecidesEveryUnknownOfTheModel() {
        HeatModel truth = new HeatModel(slab.scaled(0.8, 1.3), -0.05, 1.5, 1.1);
        CaptureModel capture = capture(data(truth, 0.3, 0, 27)).binned(2400);
        HeatSource beside = TRUE.moved(0.4, -0.3);
        ModelRefiner.Refined refined = ModelRefiner.refine(
                List.of(capture), List.of(), BROAD, HeatModel.of(slab), beside, ModelRefiner.unmoved());
        double[] point = refined.point();
        assertThat(point[0]).isCloseTo(Math.log(0.8), within(0.1));
        assertThat(point[2]).isCloseTo(-0.05, within(0.02));
        assertThat(point[5]).isCloseTo(-0.4, within(0.08));
        assertThat(point[6]).isCloseTo(0.3, within(0.08));
        MovieFit there = new MovieFit(List.of(capture), List.of(), BROAD, refined.model());
        MovieFit atTruth = new MovieFit(List.of(capture), List.of(), BROAD, truth);
        assertThat(there.total(TRUE)).isGreaterThan(atTruth.total(TRUE) - 0.002 * atTruth.total(TRUE));
    }

    @Test
    void eachCapturesClockIsItsOwn() {
        HeatModel early = new HeatModel(slab, -0.06, 1, 0.8);
        HeatModel late = new HeatModel(slab, 0.07, 1, 0.8);
        List<CaptureModel> captures = List.of(
                capture(data(early, 0.2, 0, 31)).binned(2000),
                capture(data(late, 0.2, 0, 32)).binned(2000));
        ModelRefiner.Refined refined =
                ModelRefiner.refine(captures, List.of(), BROAD, HeatModel.of(slab), TRUE, ModelRefiner.unmoved());
        assertThat(refined.model().by(0).offsetS()).isCloseTo(-0.06, within(0.025));
        assertThat(refined.model().by(1).offsetS()).isCloseTo(0.07, within(0.025));
        assertThat(refined.model().by(2).offsetS()).isEqualTo(refined.model().offsetS());
        HeatModel oneClock = new HeatModel(refined.model().slab(), 0.005, 1, 0.8);
        assertThat(new MovieFit(captures, List.of(), BROAD, refined.model()).total(TRUE))
                .isGreaterThan(new MovieFit(captures, List.of(), BROAD, oneClock).total(TRUE) + 20);
    }
}
