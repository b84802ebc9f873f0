package ohmoscope.core.locate;

import ohmoscope.core.board.Check;

/**
 * The part of the rail that stands out most of the pictures by themselves, without any model of the board.
 *
 * @param times how far it rises above its surroundings, in units of how far the picture does so anywhere
 */
public record StandsOut(String ref, double times) {
    /** From here on no eye would miss it. */
    private static final double PLAINLY = 8;

    public StandsOut {
        Check.positive("times", times);
    }

    /** Whether it stands out so far that it may not be passed over in silence. */
    public boolean plainly() {
        return times >= PLAINLY;
    }
}
