package ohmoscope.core.locate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import ohmoscope.core.Fixtures;
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
import ohmoscope.core.locate.model.CaptureModel.Column;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.model.ResponseTables;
import ohmoscope.core.locate.model.SourceProducts;
import org.junit.jupiter.api.Test;

/** Many sources together say what they say one by one. */
class SourceBatchTest {
    private static final int ROWS = 26;
    private static final int COLUMNS = 34;
    private static final double PITCH = 1.1;

    private final SlabParameters slab = SlabParameters.expected(Fixtures.board());
    private final HeatModel model = HeatModel.of(slab);
    private final Random random = new Random(8);
    private final MovieTime time = Grids.time(slab, 1.5, 50, 0.15);
    private final CaptureModel capture = capture();
    private final ResponseTables tables = capture.tables(model);

    /** Still pictures, a lid, a row that says nothing, pixels cut by a body, and warm noise. */
    private CaptureModel capture() {
        Pixels pixels = Grids.of(ROWS, COLUMNS, PITCH, 3);
        for (int p = 0; p < pixels.count(); p++) {
            int row = p / COLUMNS;
            int column = p % COLUMNS;
            pixels.still()[0][p] = column - COLUMNS / 2f;
            pixels.still()[1][p] = (float) Math.sin(0.7 * row + 0.4 * column);
            pixels.still()[2][p] = random.nextFloat();
            pixels.boardError()[p] = 0.1f;
            boolean underLid = row > 12 && row < 18 && column > 20 && column < 27;
            pixels.lid()[p] = underLid ? 0 : -1;
            pixels.patch()[p] = underLid ? 30 : 0;
            pixels.share()[p] = row == 3 ? 0 : 0.5f + 0.5f * random.nextFloat();
        }
        float[] data = new float[pixels.count() * time.components()];
        for (int i = 0; i < data.length; i++) {
            data[i] = (float) (0.05 * random.nextGaussian());
        }
        return CaptureModel.of(
                Side.TOP,
                pixels,
                data,
                0.05,
                time,
                PITCH,
                Fixtures.rectangle(COLUMNS * PITCH, ROWS * PITCH),
                LocateSettings.DEFAULT,
                100_000);
    }

    /** On either side, of all sizes and lags, some near an edge; each third one is a part's. */
    private List<HeatSource> sources(int count) {
        List<HeatSource> sources = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            double x = COLUMNS * PITCH * random.nextDouble();
            double y = ROWS * PITCH * random.nextDouble();
            Part part = Fixtures.twoPin("C" + i, PartKind.CAPACITOR, x, y, "VBAT", "GND");
            sources.add(new HeatSource(
                    x,
                    y,
                    i % 4 == 0 ? Side.BOTTOM : Side.TOP,
                    0.1 + 2 * random.nextDouble(),
                    0.05 + random.nextDouble(),
                    i % 3 == 0 ? Optional.of(part) : Optional.empty()));
        }
        return sources;
    }

    private List<Nuisance> nuisances() {
        return List.of(
                new Nuisance(Nuisance.Kind.CONTACT, "lead", List.of(new HeatSource(3, 4, Side.TOP, 0.2, 0.1)), 0, 0.1),
                new Nuisance(
                        Nuisance.Kind.COPPER,
                        "copper",
                        List.of(new HeatSource(9, 9, Side.TOP, 4, 0.1), new HeatSource(20, 20, Side.TOP, 4, 0.1)),
                        0,
                        0.05));
    }

    private List<Column> columns() {
        return nuisances().stream()
                .map(nuisance -> capture.column(nuisance.sources(), tables))
                .toList();
    }

    private SourceProducts oneByOne(HeatSource source) {
        return capture.products(capture.column(List.of(source), tables), capture.ownWarmth(source, tables), columns());
    }

    @Test
    void productsAreThoseOfTheColumns() {
        List<HeatSource> sources = sources(37);
        List<SourceProducts> together = SourceBatch.of(capture, sources, tables, columns());
        assertThat(together).hasSameSizeAs(sources);
        for (int i = 0; i < sources.size(); i++) {
            SourceProducts alone = oneByOne(sources.get(i));
            SourceProducts batch = together.get(i);
            double size = Math.sqrt(alone.square());
            assertThat(batch.square()).isCloseTo(alone.square(), within(2e-4 * alone.square()));
            assertThat(batch.data()).isCloseTo(alone.data(), within(1e-3 * size));
            for (int q = 0; q < 2; q++) {
                assertThat(batch.nuisances()[q]).isCloseTo(alone.nuisances()[q], within(1e-3 * size * 100));
            }
        }
    }

    @Test
    void aBodysProductsAreThoseOfItsPixels() {
        List<HeatSource> sources = sources(24);
        List<SourceProducts> together = SourceBatch.of(capture, sources, tables, columns());
        int seen = 0;
        for (int i = 0; i < sources.size(); i++) {
            Optional<SourceProducts.Own> alone = oneByOne(sources.get(i)).own();
            Optional<SourceProducts.Own> batch = together.get(i).own();
            assertThat(batch.isPresent()).isEqualTo(alone.isPresent());
            if (alone.isPresent()) {
                seen++;
                assertThat(batch.get().square()).isEqualTo(alone.get().square());
                assertThat(batch.get().data()).isEqualTo(alone.get().data());
                double size = Math.sqrt(alone.get().square() * together.get(i).square());
                assertThat(batch.get().source()).isCloseTo(alone.get().source(), within(1e-4 * size + 1e-9));
            }
        }
        assertThat(seen).isGreaterThan(3);
    }

    @Test
    void aSourceOnTheOtherSideHasNoBodyToSee() {
        Part part = Fixtures.twoPin("C1", PartKind.CAPACITOR, 9, 9, "VBAT", "GND");
        HeatSource below = new HeatSource(9, 9, Side.BOTTOM, 0.2, 0.1, Optional.of(part));
        assertThat(SourceBatch.of(capture, List.of(below), tables, List.of())
                        .get(0)
                        .own())
                .isEmpty();
    }

    @Test
    void scoresComeInTheOrderOfTheirSources() {
        MovieFit fit = new MovieFit(List.of(capture), nuisances(), WattsPrior.normal(0.02, 0.1), model);
        // More than are worked out at a time, so that stretches must be put together again.
        List<HeatSource> sources = sources(2 * SourceBatch.MOST + 51);
        List<Score> scores = fit.scores(sources);
        for (int i = 0; i < sources.size(); i += 7) {
            Score alone = fit.score(sources.get(i));
            assertThat(scores.get(i).logLikelihood()).isCloseTo(alone.logLikelihood(), within(0.02));
            assertThat(scores.get(i).watts()).isCloseTo(alone.watts(), within(1e-4));
            assertThat(scores.get(i).snr()).isCloseTo(alone.snr(), within(1e-2 + 1e-3 * alone.snr()));
        }
        assertThat(fit.scores(List.of())).isEmpty();
        assertThat(fit.scores(sources.subList(0, 3))).hasSize(3);
    }
}
