package ohmoscope.core.board;

/** What a net is for. */
public enum NetKind {
    GROUND,
    POWER,
    SIGNAL
}
