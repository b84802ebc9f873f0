package ohmoscope.core.reading;

/** Why a reading says what it says. */
public enum Reason {
    /** Within what the board's data or the shop's good board states, with what good boards differ by. */
    IN_RANGE,
    /** Below that. */
    UNDER_RANGE,
    /** Above that, or nothing conducts. */
    ABOVE_RANGE,
    /** Below what anything but a short reads. */
    UNDER_ANY_PART,
    /** Nothing is stated for the net, and it reads less than such nets do. */
    UNDER_USUAL,
    /** Nothing is stated for the net, and nothing is odd. */
    NOTHING_STATED,
    /** A core's rail, or one whose range is that low. */
    LOW_BY_DESIGN,
    /** Joined by a coil to a rail that is low by design. */
    BESIDE_CORE,
    /** Judged by the voltage that should be there. */
    NOMINAL_VOLTS
}
