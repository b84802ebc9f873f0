package ohmoscope.core.board;

/** A face of the board. */
public enum Side {
    TOP,
    BOTTOM;

    public Side opposite() {
        return this == TOP ? BOTTOM : TOP;
    }
}
