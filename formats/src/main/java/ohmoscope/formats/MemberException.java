package ohmoscope.formats;

/** A JSON member that is missing or of the wrong kind. */
final class MemberException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String path;
    private final String what;

    MemberException(String path, String what) {
        super(path + " " + what);
        this.path = path;
        this.what = what;
    }

    String path() {
        return path;
    }

    String what() {
        return what;
    }
}
