package ohmoscope.core.locate;

/** What speaks against trusting the picture, or what to mend. Words for people are the reader's affair. */
public enum Warning {
    INJECTED_INTO_GROUND,
    NO_CONTACT,
    LEAD_IS_HOTTEST,
    OTHER_SIDE,
    CAMERA_MOVED,
    CAMERA_DRIFT,
    TOO_LITTLE_POWER,
    SATURATED,
    REGISTRATION_POOR,
    SERIES_PART_WARM,
    CURRENT_LIMITED_OUT
}
