package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CellGridTest {
    private static final double CELL_MM = 0.7;
    private final CellGrid grid = new CellGrid(Fixtures.rectangle(30, 20), CELL_MM);

    private double[] middle(CellGrid.Footprint at) {
        double x = 0;
        double y = 0;
        for (int i = 0; i < at.cells().length; i++) {
            x += at.share()[i] * grid.xMm(at.cells()[i]);
            y += at.share()[i] * grid.yMm(at.cells()[i]);
        }
        return new double[] {x, y};
    }

    private void standsAt(CellGrid.Footprint at, double xMm, double yMm) {
        assertThat(Arrays.stream(at.share()).sum()).isCloseTo(1, within(1e-9));
        assertThat(middle(at)[0]).isCloseTo(xMm, within(1e-9));
        assertThat(middle(at)[1]).isCloseTo(yMm, within(1e-9));
    }

    @ParameterizedTest
    @CsvSource({"8.13, 5.55", "8.4, 5.6", "17.01, 12.99", "0.9, 0.36"})
    void whatALyingPartAndAPlaceHoldStandsWhereTheyStand(double xMm, double yMm) {
        standsAt(grid.at(xMm, yMm), xMm, yMm);
        if (xMm > 1.2) {
            standsAt(grid.under(Fixtures.twoPin("C1", PartKind.CAPACITOR, xMm, yMm, "A", "B")), xMm, yMm);
        }
    }

    @Test
    void aLargePartIsSharedOutEvenlyOverItsCells() {
        Part chip = Part.of("U1", PartKind.IC, Side.TOP, 15.2, 9.9, 7, 4.2, List.of());
        CellGrid.Footprint under = grid.under(chip);
        standsAt(under, 15.2, 9.9);
        assertThat(under.largestShare()).isCloseTo(CELL_MM * CELL_MM / (7 * 4.2), within(0.02 * under.largestShare()));
    }

    @Test
    void offTheBoardTheNearestCellTakesAll() {
        CellGrid.Footprint off = grid.at(-3, 5.0);
        standsAt(off, CELL_MM / 2, middle(off)[1]);
        assertThat(middle(off)[1]).isCloseTo(5.0, within(CELL_MM));
    }

    @Test
    void aFieldIsReadWhereItWasWritten() {
        float[] slope = new float[grid.count()];
        for (int c = 0; c < slope.length; c++) {
            slope[c] = (float) (2 * grid.xMm(c) - grid.yMm(c));
        }
        assertThat(grid.between(slope, 12.34, 7.89)).isCloseTo(2 * 12.34 - 7.89, within(1e-4));
    }
}
