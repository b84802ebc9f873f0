package ohmoscope.core.locate.posterior;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.Grids;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatSource;
import org.junit.jupiter.api.Test;

/** A chip stands on the top at (30, 8), a can at (10, 20). */
class LinesOfSightTest {
    private final Board board = board();

    private static Board board() {
        Board plain = Fixtures.board();
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.add(Part.of("U9", PartKind.IC, Side.TOP, 30, 8, 6, 6, List.of()));
        parts.add(Part.of("SH9", PartKind.SHIELD, Side.TOP, 10, 20, 6, 6, List.of()));
        return Fixtures.with(plain, plain.nets(), parts);
    }

    private LinesOfSight linesOfSight(Side... looked) {
        List<Prepared> prepared = new ArrayList<>(List.of(Grids.prepared(Optional.empty())));
        for (Side side : looked) {
            prepared.add(Grids.prepared(Optional.of(Grids.blank(board, side))));
        }
        return new LinesOfSight(board, prepared);
    }

    private static HeatSource at(double xMm, double yMm, Side side) {
        return new HeatSource(xMm, yMm, side, 0.2, 0.1);
    }

    @Test
    void aCaptureThatTellsNothingDoesNotLook() {
        assertThat(linesOfSight().looked(Side.TOP)).isFalse();
        assertThat(linesOfSight(Side.BOTTOM).looked(Side.TOP)).isFalse();
        assertThat(linesOfSight(Side.BOTTOM).looked(Side.BOTTOM)).isTrue();
    }

    @Test
    void onTheSideThatIsLookedAtOnlyACanHides() {
        LinesOfSight top = linesOfSight(Side.TOP);
        assertThat(top.of(at(30, 8, Side.TOP))).isEqualTo(Visibility.OPEN);
        assertThat(top.of(at(10, 20, Side.TOP))).isEqualTo(Visibility.UNDER_A_CAN);
        assertThat(top.of(at(14, 20, Side.TOP))).isEqualTo(Visibility.UNDER_A_CAN);
        assertThat(top.of(at(16, 20, Side.TOP))).isEqualTo(Visibility.OPEN);
    }

    @Test
    void throughTheBoardALargeBodyHidesToo() {
        LinesOfSight top = linesOfSight(Side.TOP);
        assertThat(top.of(at(30, 8, Side.BOTTOM))).isEqualTo(Visibility.BEHIND_A_BODY);
        assertThat(top.of(at(36, 20, Side.BOTTOM))).isEqualTo(Visibility.THROUGH_THE_BOARD);
    }

    @Test
    void whoLooksAtBothSidesSeesDirectly() {
        assertThat(linesOfSight(Side.TOP, Side.BOTTOM).of(at(30, 8, Side.BOTTOM)))
                .isEqualTo(Visibility.OPEN);
    }

    @Test
    void theLessDirectTheMoreDoubt() {
        Visibility[] from = Visibility.values();
        for (int i = 1; i < from.length; i++) {
            assertThat(from[i].placeMm()).isGreaterThanOrEqualTo(from[i - 1].placeMm());
            assertThat(from[i].doubt()).isGreaterThanOrEqualTo(from[i - 1].doubt());
        }
    }
}
