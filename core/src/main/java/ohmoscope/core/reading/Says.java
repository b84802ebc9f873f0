package ohmoscope.core.reading;

/** What a reading says about the net it was taken on. */
public enum Says {
    /** Joined to ground by next to nothing. */
    SHORTED,
    /** Well below what a good board reads, yet no dead short. */
    LOW,
    /** As a good board reads. */
    GOOD,
    /** Low, and that is what this rail reads. */
    BY_DESIGN,
    /** No short; more is not known. */
    CLEAR,
    /** Above what a good board reads, or over-range. */
    HIGH,
    /** Powered: about its voltage. */
    PRESENT,
    /** Powered: next to nothing. */
    ABSENT,
    /** Powered: something between. */
    HALF,
    /** Powered from where it should not be. */
    BACKFED,
    /** The injected current met the leads alone. */
    INTO_GROUND,
    /** No current flowed although the rail is shorted. */
    NO_CONTACT;

    /** How a page marks it. */
    public enum Concern {
        NONE,
        LOOK,
        WRONG
    }

    public boolean unpowered() {
        return ordinal() <= HIGH.ordinal();
    }

    public boolean notShorted() {
        return this == GOOD || this == BY_DESIGN || this == CLEAR || this == HIGH;
    }

    /** Whether a repair is proven by it: over range is not in range. */
    public boolean right() {
        return this == GOOD || this == BY_DESIGN || this == CLEAR;
    }

    public Concern concern() {
        return switch (this) {
            case SHORTED, LOW, ABSENT, HALF, BACKFED, INTO_GROUND, NO_CONTACT -> Concern.WRONG;
            case HIGH -> Concern.LOOK;
            case GOOD, BY_DESIGN, CLEAR, PRESENT -> Concern.NONE;
        };
    }
}
