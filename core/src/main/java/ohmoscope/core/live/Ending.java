package ohmoscope.core.live;

/** Why current stopped flowing. */
public enum Ending {
    /** The key was let go. */
    RELEASED(true),
    /** The step's time is over. */
    TIME(true),
    /** The place is told as sharply as was wanted. */
    SHARP_ENOUGH(true),
    /** The supply switched itself off: one of its limits. */
    SUPPLY_TRIPPED(false),
    /** Nothing flowed from the start: a lead is not touching. */
    CONTACT_LOST(false),
    /** It flowed, and then did not: the short burned open, or a lead slipped. The meter can tell. */
    CURRENT_GONE(false),
    /** Ohms run away while it flows: something melts, or a contact gets worse. */
    OHMS_RUNNING(false),
    /** Above what the leads carry, or a lead is the warmest thing to be seen. */
    LEAD_HOT(false),
    /** The supply gives more than it was told. */
    OVER_LIMIT(false),
    /** The warmest place is no part of this rail. */
    OTHER_WARMS(false),
    /** The part is as hot as it may get. */
    HOT_ENOUGH(false),
    /** The page was closed, or gives no sign of life. */
    PAGE_GONE(false),
    /** Supply, meter or camera are gone. */
    INSTRUMENT_LOST(false);

    private final boolean asPlanned;

    Ending(boolean asPlanned) {
        this.asPlanned = asPlanned;
    }

    /** Whether the next step may follow without anything being looked into. */
    public boolean asPlanned() {
        return asPlanned;
    }
}
