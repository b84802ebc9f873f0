package ohmoscope.core.locate.posterior;

/** How a camera sees heat that starts somewhere. The less directly, the less its picture tells of the place. */
public enum Visibility {
    OPEN(0, 1),
    UNDER_A_CAN(0.4, 1),
    THROUGH_THE_BOARD(0.4, 1.3),
    /** Through the board, and a large body stands there: it takes up heat here and gives it back there. */
    BEHIND_A_BODY(0.9, 2.5);

    private final double placeMm;
    private final double doubt;

    Visibility(double placeMm, double doubt) {
        this.placeMm = placeMm;
        this.doubt = doubt;
    }

    /** How far the place may be off by this alone, one sigma. Measured on simulated hunts. */
    public double placeMm() {
        return placeMm;
    }

    /** By how much likelihoods of neighbours seen like this differ too much. Likewise. */
    public double doubt() {
        return doubt;
    }
}
