package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BoardJson;

/**
 * Boards of a class of device, for a job that begins with nothing: ports, switches, rails and chips that such a device
 * has, at made-up places. Each is a {@code board.json} that a shop can copy, change and give to a job as a file.
 */
public final class GenericBoards {
    private static final List<String> SLUGS = List.of(
            "port-portable",
            "port-portable-one-cell",
            "jack-portable",
            "telephone",
            "telephone-two-storeys",
            "handheld-console",
            "small-instrument");

    /** Before the name of the class, in the place of a revision: nobody has seen the board itself. */
    public static final String CLASS = "class: ";

    /** Before the revision once somebody has put the parts on photographs. */
    public static final String MAPPED = "on photographs, ";

    private GenericBoards() {}

    /** A device's own copy of the board of its class. @throws InvalidMember when there is no such class */
    public static Board of(String slug, String device) {
        Board generic = named(slug).board();
        return generic.called(device, CLASS + generic.name());
    }

    /** One class of device. @param slug its name in addresses and files */
    public record Generic(String slug, Board board) {}

    /** Read when they are first asked for. */
    private static final class Held {
        private static final List<Generic> ALL =
                SLUGS.stream().map(GenericBoards::read).toList();
    }

    /** All of them, the usual ones first. */
    public static List<Generic> all() {
        return Held.ALL;
    }

    /** @throws InvalidMember when there is none of this name */
    public static Generic named(String slug) {
        return all().stream()
                .filter(g -> g.slug().equals(slug))
                .findFirst()
                .orElseThrow(
                        () -> new InvalidMember("board", "is " + slug + "; there are " + String.join(", ", SLUGS)));
    }

    private static Generic read(String slug) {
        String file = slug + ".json";
        try (InputStream in = GenericBoards.class.getResourceAsStream("/ohmoscope/trees/" + file)) {
            return new Generic(slug, BoardJson.read(in, file));
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }
}
