package ohmoscope.core.board;

/** The half of a two-storey board on which a part is. */
public enum Storey {
    UPPER,
    LOWER
}
