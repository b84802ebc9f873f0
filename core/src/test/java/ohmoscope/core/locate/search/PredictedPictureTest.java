package ohmoscope.core.locate.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.SlabResponse;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.locate.FittedHeat;
import org.junit.jupiter.api.Test;

class PredictedPictureTest {
    private static final SlabParameters SLAB = SlabParameters.expected(Fixtures.board());

    private static FittedHeat heat(double xMm, double yMm, double watts) {
        return new FittedHeat("C1", true, xMm, yMm, Side.TOP, 0.2, 0.02, watts, OptionalDouble.empty());
    }

    private static BoardField picture(Outline outline, Side side, double tS, FittedHeat... heats) {
        return PredictedPicture.of(bare(outline), SLAB, Waveform.stepAt(1), 0, List.of(heats), side, tS, 0.3);
    }

    private static Board bare(Outline outline) {
        return new Board("bare", "", outline, 1, 4, 18, List.of(Fixtures.ground()), List.of(), List.of(), List.of());
    }

    @Test
    void aLidIsOfOneTemperature() {
        Board board = Fixtures.board();
        Part chip = board.part("U1").orElseThrow();
        FittedHeat own = heat(chip.xMm(), chip.yMm(), 0.3);
        BoardField field = PredictedPicture.of(board, SLAB, Waveform.stepAt(0), 0, List.of(own), Side.TOP, 3, 0.3);
        float first = Float.NaN;
        for (int c = 0; c < field.values().length; c++) {
            if (chip.covers(field.xMm(c), field.yMm(c), 0)) {
                first = Float.isNaN(first) ? field.values()[c] : first;
                assertThat(field.values()[c]).isEqualTo(first);
            }
        }
        assertThat(first).isPositive();
    }

    @Test
    void farFromEdgesItIsTheSlabsResponse() {
        BoardField field = picture(Fixtures.rectangle(120, 90), Side.TOP, 5, heat(60, 45, 0.2));
        for (int c = 0; c < field.values().length; c++) {
            double r = Math.hypot(field.xMm(c) - 60, field.yMm(c) - 45);
            if (r < 12) {
                double exact = 0.2 * SlabResponse.step(SLAB, true, r, 4, 0.3);
                double top = 0.2 * SlabResponse.step(SLAB, true, 0, 4, 0.3);
                assertThat((double) field.values()[c]).as("at %s mm", r).isCloseTo(exact, within(0.03 * top));
            }
        }
    }

    @Test
    void beforePowerItIsColdAndTheFarSideIsCoolerAtFirst() {
        Outline outline = Fixtures.rectangle(40, 30);
        for (float v : picture(outline, Side.TOP, 0.5, heat(20, 15, 1)).values()) {
            assertThat(v).isZero();
        }
        float near = warmest(picture(outline, Side.TOP, 1.6, heat(20, 15, 1)));
        float far = warmest(picture(outline, Side.BOTTOM, 1.6, heat(20, 15, 1)));
        assertThat(far).isPositive().isLessThan(0.5f * near);
    }

    @Test
    void edgesMirrorAndPicturesAdd() {
        Outline outline = Fixtures.rectangle(40, 30);
        assertThat(warmest(picture(outline, Side.TOP, 6, heat(0.4, 15, 1))))
                .isGreaterThan(1.2f * warmest(picture(outline, Side.TOP, 6, heat(20, 15, 1))));
        BoardField both = picture(outline, Side.TOP, 6, heat(10, 10, 1), heat(30, 20, 0.5));
        BoardField one = picture(outline, Side.TOP, 6, heat(10, 10, 1));
        BoardField other = picture(outline, Side.TOP, 6, heat(30, 20, 0.5));
        for (int c = 0; c < both.values().length; c++) {
            assertThat(both.values()[c]).isCloseTo(one.values()[c] + other.values()[c], within(1e-4f));
        }
    }

    @Test
    void offTheBoardThereIsNoNumber() {
        Outline corner = new Outline(List.of(
                new PointMm(0, 0),
                new PointMm(40, 0),
                new PointMm(40, 15),
                new PointMm(20, 15),
                new PointMm(20, 30),
                new PointMm(0, 30)));
        BoardField field = picture(corner, Side.TOP, 4, heat(10, 10, 1));
        for (int c = 0; c < field.values().length; c++) {
            boolean cutOut = field.xMm(c) > 20.5 && field.yMm(c) > 15.5;
            assertThat(Float.isNaN(field.values()[c]) || !cutOut).isTrue();
        }
    }

    private static float warmest(BoardField field) {
        float most = 0;
        for (float v : field.values()) {
            most = Math.max(most, v);
        }
        return most;
    }
}
