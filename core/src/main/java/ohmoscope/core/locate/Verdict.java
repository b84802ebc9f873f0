package ohmoscope.core.locate;

/** How far the picture carries. */
public enum Verdict {
    /** A suspect may be acted on. */
    PART,
    /** A place, but no single part yet. */
    AREA,
    /** Nothing in the frames beyond what the leads and the series parts explain. */
    NONE
}
