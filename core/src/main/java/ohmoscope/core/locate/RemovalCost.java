package ohmoscope.core.locate;

import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;

/**
 * What it costs to lift a part that turns out to be good, against what one more look costs. A part may be acted on when
 * the expected cost of being wrong is the smaller of the two.
 *
 * @param minutes of work, with what the board's risk is worth in minutes, when the part was good
 * @param lookMinutes injecting and looking once more
 */
public record RemovalCost(double minutes, double lookMinutes) {
    private static final double LARGE_MM2 = 9;

    /**
     * What a bench takes each to cost, minutes above 0: work, and what the risk is worth in work. More minutes for lifting
     * ask for more certainty before it, more for a look ask for less.
     *
     * @param look injecting and looking once more
     * @param twoPads a part on two pads
     * @param small one with more legs
     * @param large one of more than 9 mm²
     * @param connector a connector, or a can by itself
     * @param can more, where a can has to come off first and everything under it gets hot
     */
    public record Minutes(double look, double twoPads, double small, double large, double connector, double can) {
        /** Of a bench with air, iron and a camera at hand. */
        public static final Minutes USUAL = new Minutes(8, 32, 50, 110, 90, 60);

        private static final double MOST = 10_000;

        public Minutes {
            double[] all = {look, twoPads, small, large, connector, can};
            String[] names = {"look", "two_pads", "small", "large", "connector", "can"};
            for (int i = 0; i < all.length; i++) {
                Check.positive(names[i], all[i]);
                Check.within(names[i], all[i], 0, MOST);
            }
        }
    }

    /** For a part where it stands, by the usual minutes. */
    public static RemovalCost on(Board board, Part part) {
        return on(board, part, Minutes.USUAL);
    }

    /** For a part where it stands. */
    public static RemovalCost on(Board board, Part part, Minutes minutes) {
        return of(
                part,
                board.parts().stream()
                        .anyMatch(p -> p.kind() == PartKind.SHIELD
                                && p.side() == part.side()
                                && !p.ref().equals(part.ref())
                                && p.covers(part.xMm(), part.yMm(), 0)),
                minutes);
    }

    /** By the usual minutes. @param underCan whether a can must come off first */
    public static RemovalCost of(Part part, boolean underCan) {
        return of(part, underCan, Minutes.USUAL);
    }

    /** @param underCan whether a can must come off first */
    public static RemovalCost of(Part part, boolean underCan, Minutes minutes) {
        double own = switch (part.kind()) {
            case CONNECTOR, SHIELD -> minutes.connector();
            default -> {
                boolean large = part.wMm() * part.hMm() > LARGE_MM2;
                yield large ? minutes.large() : part.pins().size() <= 2 ? minutes.twoPads() : minutes.small();
            }
        };
        return new RemovalCost(own + (underCan ? minutes.can() : 0), minutes.look());
    }

    /** The probability from which lifting it costs less, on the whole, than another look; 0 where it always does. */
    public double probabilityFrom() {
        return Math.max(0, 1 - lookMinutes / minutes);
    }

    /** Minutes to be expected for being wrong. */
    public double expectedMinutes(double probability) {
        return (1 - probability) * minutes;
    }
}
