package ohmoscope.core.locate.posterior;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.model.HeatSource;
import org.junit.jupiter.api.Test;

class PositionPriorTest {
    private static final double SIGMA_MM = 0.3;
    private static final HeatSource SPOT = new HeatSource(10, 20, Side.TOP, 0.2, 0.1);

    private static Part part(double wMm, double hMm) {
        return Part.of("U1", PartKind.IC, Side.TOP, 10, 20, wMm, hMm, List.of());
    }

    @Test
    void roundOnePlaceItGrowsWithTheSquare() {
        PositionPrior positionPrior = PositionPrior.of(SPOT, SIGMA_MM);
        assertThat(positionPrior.cost(10, 20)).isZero();
        assertThat(positionPrior.cost(10, 20 - SIGMA_MM)).isCloseTo(0.5, within(1e-9));
        assertThat(positionPrior.cost(10 + 3 * SIGMA_MM, 20)).isCloseTo(4.5, within(1e-9));
    }

    /** However well a place suits the frames: no picture lies five sigmas off. */
    @Test
    void fartherThanPicturesLieItCostsManyTimesAsMuch() {
        PositionPrior positionPrior = PositionPrior.of(SPOT, SIGMA_MM);
        assertThat(positionPrior.cost(10 + 4 * SIGMA_MM, 20)).isCloseTo(8, within(1e-9));
        assertThat(positionPrior.cost(10 + 6 * SIGMA_MM, 20)).isCloseTo(10 + 5 * 8, within(1e-9));
    }

    @Test
    void aSmallPartsHeatStartsAtItsPlaceOnly() {
        Candidate small = new Candidate(part(1.6, 0.8), 1);
        PositionPrior positionPrior = small.positionPrior(small.spots().get(0), SIGMA_MM);
        assertThat(positionPrior.cost(10.6, 20)).isCloseTo(2, within(1e-9));
    }

    @Test
    void insideALargePartItCostsLittleAndOutsideMuch() {
        Candidate large = new Candidate(part(5, 5), 1);
        HeatSource corner = large.spots().get(0);
        PositionPrior positionPrior = large.positionPrior(corner, SIGMA_MM);
        assertThat(positionPrior.cost(corner.xMm(), corner.yMm())).isZero();
        double inwards = positionPrior.cost(corner.xMm() + 1, corner.yMm());
        double outwards = positionPrior.cost(corner.xMm() - 1, corner.yMm());
        assertThat(inwards).isLessThan(0.8);
        assertThat(outwards).isCloseTo(1 / (2 * SIGMA_MM * SIGMA_MM), within(1e-9));
    }

    @Test
    void itTurnsWithThePart() {
        PositionPrior upright = new PositionPrior(SPOT, 10, 20, 2, 0, Math.PI / 2, SIGMA_MM, 1);
        assertThat(upright.cost(10, 21)).isCloseTo(0.5, within(1e-9));
        assertThat(upright.cost(11, 20)).isCloseTo(1 / (2 * SIGMA_MM * SIGMA_MM), within(1e-9));
    }

    @Test
    void whereHeatIsClearAFarShiftCostsLessThanANormalOneAndMoreThanItsShare() {
        PositionPrior positionPrior = PositionPrior.of(SPOT, SIGMA_MM);
        double three = positionPrior.cost(10 + 3 * SIGMA_MM, 20);
        double eight = positionPrior.cost(10 + 8 * SIGMA_MM, 20);
        assertThat(PositionPrior.kept(three, 1)).isEqualTo(three);
        assertThat(PositionPrior.kept(three, 10)).isBetween(three / 2, three);
        assertThat(PositionPrior.kept(eight, 10))
                .isGreaterThan(PositionPrior.kept(three, 10))
                .isLessThan(eight / 5);
    }
}
