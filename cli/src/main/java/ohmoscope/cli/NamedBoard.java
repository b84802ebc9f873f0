package ohmoscope.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.formats.BoardJson;

/** A board as it is given on the command line: a file, or one of the demo boards by its short name. */
final class NamedBoard {
    private NamedBoard() {}

    static Board of(String given) throws IOException {
        for (Board demo : DemoBoards.all()) {
            if (demo.name().toLowerCase(Locale.ROOT).contains(" " + given.toLowerCase(Locale.ROOT) + " ")) {
                return demo;
            }
        }
        try (InputStream in = Files.newInputStream(Path.of(given))) {
            return BoardJson.read(in, given);
        }
    }
}
