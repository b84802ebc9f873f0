package ohmoscope.formats.frames;

/** What a pixel's number is. */
public enum Depth {
    /** A picture for the eye, 256 steps of unknown size: only its shape can be used. */
    EIGHT_BIT,
    /** A camera's counts. */
    SIXTEEN_BIT,
    /** Numbers with a fraction: most often temperatures. */
    FLOAT
}
