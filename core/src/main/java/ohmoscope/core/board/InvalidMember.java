package ohmoscope.core.board;

/** A value that its record refuses. Readers put the file and the path in front of {@link #member()}. */
public final class InvalidMember extends IllegalArgumentException {
    private static final long serialVersionUID = 1L;

    private final String member;
    private final String what;

    /**
     * @param member the member's name as the bundle contract spells it, such as {@code w_mm}
     * @param what what is expected and what was found, such as {@code must be above 0 mm, was -1.0}
     */
    public InvalidMember(String member, String what) {
        super(member + " " + what);
        this.member = member;
        this.what = what;
    }

    public String member() {
        return member;
    }

    public String what() {
        return what;
    }
}
