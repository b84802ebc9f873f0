package ohmoscope.web.config;

/** Something that was asked for by name is not stored. The message says what. */
public final class NotFoundException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public NotFoundException(String what) {
        super(what);
    }
}
