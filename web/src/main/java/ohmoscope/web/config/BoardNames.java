package ohmoscope.web.config;

import ohmoscope.formats.layout.GenericBoards;

/** How a board is called on the pages. */
public final class BoardNames {
    private BoardNames() {}

    /** Whether nobody has seen the board itself, so that every place on it is made up. */
    public static boolean ofClass(String revision) {
        return revision.startsWith(GenericBoards.CLASS);
    }

    public static String of(String name, String revision) {
        if (revision.startsWith(GenericBoards.MAPPED)) {
            return name + ", mapped from photographs";
        }
        if (ofClass(revision)) {
            return name + ", as "
                    + revision.substring(GenericBoards.CLASS.length()).toLowerCase(java.util.Locale.ROOT);
        }
        return revision.isEmpty() ? name : name + ", rev " + revision;
    }
}
