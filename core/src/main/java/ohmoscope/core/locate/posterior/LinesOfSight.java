package ohmoscope.core.locate.posterior;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatSource;

/** What stands between the cameras that told something and a place on the board. */
public final class LinesOfSight {
    /** A can hides the board so far beside it too. */
    private static final double BESIDE_A_CAN_MM = 1.5;

    private static final double BESIDE_A_BODY_MM = 0.5;

    private final Board board;
    private final Set<Side> looked = EnumSet.noneOf(Side.class);

    public LinesOfSight(Board board, List<Prepared> prepared) {
        this.board = board;
        prepared.stream()
                .flatMap(p -> p.model().stream())
                .map(CaptureModel::side)
                .forEach(looked::add);
    }

    /** Whether a camera that told something looked at this side. */
    public boolean looked(Side side) {
        return looked.contains(side);
    }

    /** Whether a can that a camera looked at stands over the place or beside it. */
    public boolean underACan(HeatSource at) {
        return standing(at, BESIDE_A_CAN_MM).anyMatch(p -> p.kind() == PartKind.SHIELD);
    }

    public Visibility of(HeatSource at) {
        if (looked(at.side())) {
            return underACan(at) ? Visibility.UNDER_A_CAN : Visibility.OPEN;
        }
        return standing(at, BESIDE_A_BODY_MM).anyMatch(CapturePreparer::isLid)
                ? Visibility.BEHIND_A_BODY
                : Visibility.THROUGH_THE_BOARD;
    }

    /** Parts over the place that a camera looked at. */
    private Stream<Part> standing(HeatSource at, double besideMm) {
        return board.parts().stream().filter(p -> looked(p.side())).filter(p -> p.covers(at.xMm(), at.yMm(), besideMm));
    }
}
