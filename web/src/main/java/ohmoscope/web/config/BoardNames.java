package ohmoscope.web.config;

import ohmoscope.formats.layout.GenericBoards;

/** How a board is called on the pages. */
public final class BoardNames {
    /** Before the name of the class, in the place of a revision: nobody has seen the board itself. */
    public static final String CLASS = GenericBoards.CLASS;

    /** Before it again once somebody has put its parts on photographs. */
    public static final String MAPPED = GenericBoards.MAPPED;

    private BoardNames() {}

    /** Whether nobody has seen the board itself, so that every place on it is made up. */
    public static boolean ofClass(String revision) {
        return revision.startsWith(CLASS);
    }

    public static String of(String name, String revision) {
        if (revision.startsWith(MAPPED)) {
            return name + ", mapped from photographs";
        }
        if (ofClass(revision)) {
            return name + ", as " + revision.substring(CLASS.length()).toLowerCase(java.util.Locale.ROOT);
        }
        return revision.isEmpty() ? name : name + ", rev " + revision;
    }
}
