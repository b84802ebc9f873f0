package ohmoscope.core.instrument;

import java.io.IOException;

/** An instrument did not do what it was asked. The message says which, what, and what to look at. */
public class InstrumentException extends IOException {
    private static final long serialVersionUID = 1L;

    /** What went wrong. */
    public enum Trouble {
        /** Not there, or gone: nothing is known of its output any more. */
        LOST,
        /** No answer in time. */
        SLOW,
        /** An answer that is none. */
        GARBLED,
        /** It said no, or does not stand where it was told to. */
        REFUSED
    }

    private final Trouble trouble;

    public InstrumentException(Trouble trouble, String message) {
        super(message);
        this.trouble = trouble;
    }

    public Trouble trouble() {
        return trouble;
    }
}
