package ohmoscope.web.boards;

import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.layout.Distances;
import ohmoscope.core.layout.Distances.Distance;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.GoodStore;
import org.jspecify.annotations.Nullable;

/** What the library's pages show. */
final class BoardsView {
    private static final int MOST_PARTS = 300;
    /** Neighbours that are listed. */
    private static final int AROUND = 12;

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM yyyy, HH:mm", Locale.ENGLISH);

    private BoardsView() {}

    /** A board in the list. */
    record Card(long id, String name, String facts, Thumbnail picture) {}

    /** A version of it. */
    record Version(long id, String when, String jobs, boolean offered, boolean shown) {}

    /** A net. @param good what good boards of its kind were read at */
    record NetLine(String name, NetKind kind, String volts, String expected, String good, long parts) {}

    /** A part. */
    record PartLine(
            String ref, String kind, String role, String value, String side, String at, String nets, String guessed) {}

    /** The page of one board. @param more parts that match and are not shown */
    record Page(
            long id,
            String name,
            String facts,
            List<Version> versions,
            List<String> notes,
            List<NetLine> nets,
            List<PartLine> parts,
            int more,
            List<BoardPicture> pictures,
            List<Apart> apart,
            List<GoodLine> good,
            boolean fromFiles) {}

    /** What good boards read at one point, in one mode, one way round, with one meter. */
    record GoodLine(String net, String point, String mode, String lead, String meter, String spread, int count) {}

    /** How far a part stands from another. */
    record Apart(String ref, String what, String gap, String centres, String side) {}

    /**
     * What the picture of a board shows besides.
     *
     * @param find words that a part's reference, kind, value or nets must have
     * @param net the net that is inked; empty for none
     * @param from a part that distances are taken from; empty for none
     * @param to the part that they are taken to; empty for those around
     */
    record Asked(String find, String net, String from, String to) {
        static final Asked NOTHING = new Asked("", "", "", "");
    }

    static Card card(BoardStore.Row row, Board board) {
        return new Card(row.id(), BoardNames.of(row.name(), row.revision()), facts(row, board), Thumbnail.of(board));
    }

    private static String facts(BoardStore.Row row, Board board) {
        List<String> facts = new ArrayList<>();
        facts.add(board.parts().size() + " parts");
        facts.add(board.nets().size() + " nets");
        facts.add(row.jobs() == 1 ? "1 job" : row.jobs() + " jobs");
        if (row.good() > 0) {
            facts.add(row.good() == 1 ? "1 good reading" : row.good() + " good readings");
        }
        return String.join(", ", facts);
    }

    static Page page(
            BoardStore boards,
            long id,
            List<Good> good,
            Map<String, GoodStore.Behind> behind,
            Asked asked,
            Instant now,
            ZoneId zone)
            throws IOException {
        Board board = boards.board(id);
        BoardStore.Row row = boards.row(id);
        Map<String, String> guessed = guessed(row.notes());
        List<PartLine> matching = board.parts().stream()
                .map(p -> line(board, p, guessed))
                .filter(l -> matches(l, asked.find()))
                .toList();
        return new Page(
                id,
                BoardNames.of(row.name(), row.revision()),
                facts(row, board) + ", " + Eng.significant(board.thicknessMm(), 2) + " mm, " + board.copperLayers()
                        + " copper layers",
                boards.versions(id).stream()
                        .map(v -> new Version(
                                v.id(),
                                DAY.format(v.recordedAt().atZone(zone)),
                                v.jobs() == 1 ? "1 job" : v.jobs() + " jobs",
                                v.offered(),
                                v.id() == id))
                        .toList(),
                row.notes(),
                nets(board, good, behind, now),
                matching.stream().limit(MOST_PARTS).toList(),
                Math.max(0, matching.size() - MOST_PARTS),
                List.of(
                        BoardPicture.pointing(board, asked.net(), Side.TOP, spots(board, asked)),
                        BoardPicture.pointing(board, asked.net(), Side.BOTTOM, spots(board, asked))),
                apart(board, asked),
                good(good),
                boards.hasFiles(id));
    }

    private static List<BoardPicture.Spot> spots(Board board, Asked asked) {
        return Stream.of(asked.from(), asked.to())
                .flatMap(ref -> board.part(ref).stream())
                .map(p -> new BoardPicture.Spot(p.side(), p.xMm(), p.yMm(), p.ref()))
                .toList();
    }

    /** @throws InvalidMember naming a part that the board does not have */
    private static List<Apart> apart(Board board, Asked asked) {
        if (asked.from().isBlank()) {
            return List.of();
        }
        List<Distance> distances = asked.to().isBlank()
                ? Distances.around(board, asked.from(), AROUND)
                : List.of(Distances.between(board, asked.from(), asked.to()));
        return distances.stream()
                .map(d -> new Apart(
                        d.to().ref(),
                        Words.of(d.to().kind()),
                        Eng.fixed(d.gapMm(), 2),
                        Eng.fixed(d.centresMm(), 2),
                        d.through() ? "through the board" : "same side"))
                .toList();
    }

    private static boolean matches(PartLine line, String find) {
        String all = String.join(
                        " ",
                        line.ref(),
                        line.kind(),
                        line.role(),
                        line.value(),
                        line.nets(),
                        line.guessed().isEmpty() ? "" : "guessed")
                .toLowerCase(Locale.ROOT);
        return find.toLowerCase(Locale.ROOT).strip().isEmpty()
                || List.of(find.toLowerCase(Locale.ROOT).strip().split("\\s+")).stream()
                        .allMatch(all::contains);
    }

    private static PartLine line(Board board, Part part, Map<String, String> guessed) {
        return new PartLine(
                part.ref(),
                Words.of(part.kind()),
                Words.plain(board.role(part)),
                part.value(),
                Words.plain(part.side()),
                Eng.fixed(part.xMm(), 1) + ", " + Eng.fixed(part.yMm(), 1),
                part.pins().stream().map(p -> p.net()).distinct().limit(6).collect(Collectors.joining(" ")),
                guessed.getOrDefault(part.ref(), ""));
    }

    /** What the notes of how the board came about say was guessed, by what they name. */
    private static Map<String, String> guessed(List<String> notes) {
        Map<String, String> guessed = new TreeMap<>();
        for (String note : notes) {
            int names = note.lastIndexOf(": ");
            if (note.startsWith("guessed: ") && names > "guessed: ".length()) {
                String what = note.substring("guessed: ".length(), names);
                for (String name : note.substring(names + 2).split(", ")) {
                    guessed.merge(name.strip(), what, (a, b) -> a + "; " + b);
                }
            }
        }
        return guessed;
    }

    private static List<NetLine> nets(Board board, List<Good> good, Map<String, GoodStore.Behind> behind, Instant now) {
        Map<String, Long> parts = board.parts().stream()
                .flatMap(p -> p.pins().stream().map(q -> q.net()).distinct())
                .collect(Collectors.groupingBy(n -> n, Collectors.counting()));
        Map<String, List<Good>> byNet =
                good.stream().collect(Collectors.groupingBy(Good::net, TreeMap::new, Collectors.toList()));
        return board.nets().stream()
                .sorted(Comparator.comparing((Net n) -> n.kind() == NetKind.SIGNAL))
                .map(n -> new NetLine(
                        n.name(),
                        n.kind(),
                        n.nominalVolts().isPresent()
                                ? Eng.significant(n.nominalVolts().getAsDouble(), 3)
                                : "",
                        n.expect()
                                .map(e -> e.diodeVolts()
                                                .map(r -> Words.range(r, ReadMode.DIODE))
                                                .orElse("")
                                        + e.ohms()
                                                .map(r -> " " + Words.range(r, ReadMode.OHMS))
                                                .orElse(""))
                                .orElse(""),
                        Optional.ofNullable(byNet.get(n.name()))
                                .map(g -> spread(g) + of(behind.get(n.name()), now))
                                .orElse(""),
                        parts.getOrDefault(n.name(), 0L)))
                .toList();
    }

    /** How many boards stand behind it, and how old the newest reading is. */
    private static String of(GoodStore.@Nullable Behind behind, Instant now) {
        if (behind == null) {
            return "";
        }
        long days = Duration.between(behind.newest(), now).toDays();
        String age = days < 1 ? "today" : days == 1 ? "a day ago" : days + " days ago";
        return ", " + (behind.boards() == 1 ? "1 board" : behind.boards() + " boards") + ", the newest " + age;
    }

    private static List<GoodLine> good(List<Good> readings) {
        Map<List<String>, List<Good>> alike = readings.stream()
                .collect(Collectors.groupingBy(
                        g -> List.of(
                                g.net(),
                                g.point().orElse(""),
                                Words.plain(g.mode()),
                                g.redOnGround() ? "red" : "black",
                                g.meter().orElse("")),
                        LinkedHashMap::new,
                        Collectors.toList()));
        return alike.entrySet().stream()
                .map(e -> new GoodLine(
                        e.getKey().get(0),
                        e.getKey().get(1),
                        e.getKey().get(2),
                        e.getKey().get(3),
                        e.getKey().get(4),
                        spread(e.getValue()),
                        e.getValue().size()))
                .limit(MOST_PARTS)
                .toList();
    }

    /** Mode by mode: how many, from where to where. */
    private static String spread(List<Good> readings) {
        List<String> all = new ArrayList<>();
        for (ReadMode mode : List.of(ReadMode.DIODE, ReadMode.OHMS)) {
            double[] values = readings.stream()
                    .filter(g -> g.mode() == mode)
                    .mapToDouble(Good::value)
                    .sorted()
                    .toArray();
            if (values.length > 0) {
                String unit = mode == ReadMode.DIODE ? " V" : " Ω";
                String from = Eng.significant(values[0], 3);
                String to = Eng.significant(values[values.length - 1], 3);
                all.add((from.equals(to) ? from : from + "–" + to) + unit + " (" + values.length + ")");
            }
        }
        return String.join(", ", all);
    }
}
