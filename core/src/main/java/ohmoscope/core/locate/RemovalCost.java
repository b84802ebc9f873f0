package ohmoscope.core.locate;

import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;

/**
 * What it costs to lift a part that turns out to be good, against what one more look costs. A part may be acted on when
 * the expected cost of being wrong is the smaller of the two.
 *
 * @param minutes of work, with what the board's risk is worth in minutes, when the part was good
 */
public record RemovalCost(double minutes) {
    /** Injecting and looking once more. */
    public static final double LOOK_MINUTES = 8;

    private static final double TWO_PADS = 32;
    private static final double SMALL = 50;
    private static final double LARGE = 110;
    private static final double CONNECTOR = 90;
    /** A can has to come off first, and everything under it gets hot. */
    private static final double CAN = 60;

    private static final double LARGE_MM2 = 9;

    /** For a part where it stands. */
    public static RemovalCost on(Board board, Part part) {
        return of(
                part,
                board.parts().stream()
                        .anyMatch(p -> p.kind() == PartKind.SHIELD
                                && p.side() == part.side()
                                && !p.ref().equals(part.ref())
                                && p.covers(part.xMm(), part.yMm(), 0)));
    }

    /** @param underCan whether a can must come off first */
    public static RemovalCost of(Part part, boolean underCan) {
        double own = switch (part.kind()) {
            case CONNECTOR, SHIELD -> CONNECTOR;
            default -> {
                boolean large = part.wMm() * part.hMm() > LARGE_MM2;
                yield large ? LARGE : part.pins().size() <= 2 ? TWO_PADS : SMALL;
            }
        };
        return new RemovalCost(own + (underCan ? CAN : 0));
    }

    /** The probability from which lifting it costs less, on the whole, than another look. */
    public double probabilityFrom() {
        return 1 - LOOK_MINUTES / minutes;
    }

    /** Minutes to be expected for being wrong. */
    public double expectedMinutes(double probability) {
        return (1 - probability) * minutes;
    }
}
