package ohmoscope.web.look;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.LookTour;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.formats.Texts;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.Tours;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.IntakeStore;

/**
 * The look tour: the part to look at now, those to come in walking order, and what was seen.
 *
 * @param shown pictures of the part to look at now
 * @param skipped parts passed over in this round, kept so that they come last
 */
public record LookView(
        JobHead head,
        Optional<Tours.First> first,
        Optional<Place> now,
        List<Long> shown,
        List<Place> coming,
        List<Seen> seen,
        List<Choice> findings,
        List<AdviceView.StopLine> stops,
        List<BoardPicture> pictures,
        Side side,
        String skipped) {
    private static final int SHOWN = 12;
    /** Places that are ringed on the board. */
    private static final int AHEAD = 4;

    /** One key a finding; a connector has three of its own. */
    private static final List<Choice> PARTS = List.of(
            new Choice("c", "clean", LookFinding.CLEAN),
            new Choice("k", "cracked", LookFinding.CRACKED),
            new Choice("u", "burnt", LookFinding.BURNT),
            new Choice("h", "hole", LookFinding.HOLE),
            new Choice("o", "corroded", LookFinding.CORRODED),
            new Choice("d", "discoloured", LookFinding.DISCOLOURED),
            new Choice("p", "chipped", LookFinding.CHIPPED),
            new Choice("l", "loose", LookFinding.LOOSE),
            new Choice("m", "missing", LookFinding.MISSING),
            new Choice("w", "wet mark", LookFinding.WET_MARK),
            new Choice("e", "earlier work", LookFinding.EARLIER_WORK));

    private static final List<Choice> PORTS = List.of(
            new Choice("x", "pins touching", LookFinding.PINS_TOUCHING),
            new Choice("b", "pin bent", LookFinding.PIN_BENT),
            new Choice("y", "pin missing", LookFinding.PIN_MISSING));

    /** A finding and its key. */
    public record Choice(String key, String words, LookFinding finding) {}

    /** @param turn whether the board has to be turned over for it */
    public record Place(String ref, String what, String side, String why, boolean turn) {}

    /** @param mark the shape of the finding @param shown its pictures */
    public record Seen(String ref, String what, String words, String mark, List<Long> shown) {
        public Seen {
            shown = List.copyOf(shown);
        }
    }

    private static List<Long> of(String ref, List<IntakeStore.Photo> photos) {
        return photos.stream()
                .filter(p -> p.pinned().map(ref::equals).orElse(false))
                .map(IntakeStore.Photo::id)
                .toList();
    }

    static LookView of(OpenJobs.Open open, List<String> skipped, List<IntakeStore.Photo> photos) {
        Board board = open.job().board();
        LookTour tour = Tours.of(open);
        Set<String> late = Set.copyOf(skipped);
        List<LookTour.Place> left = new ArrayList<>(tour.left());
        left.sort(Comparator.comparing(p -> late.contains(p.part().ref())));
        List<Place> lines = new ArrayList<>();
        Optional<Side> at = Optional.empty();
        for (LookTour.Place p : left.subList(0, Math.min(SHOWN + 1, left.size()))) {
            boolean turn = at.isPresent() && at.get() != p.part().side();
            at = Optional.of(p.part().side());
            lines.add(new Place(
                    p.part().ref(), what(p.part()), Words.plain(p.part().side()), Texts.of("place", p.why()), turn));
        }
        Optional<Part> first = left.stream().findFirst().map(LookTour.Place::part);
        List<Choice> findings = new ArrayList<>(PARTS);
        if (first.map(p -> p.kind() == PartKind.CONNECTOR).orElse(false)) {
            findings.addAll(PORTS);
        }
        return new LookView(
                open.head(),
                Tours.line(tour),
                lines.stream().findFirst(),
                first.map(p -> of(p.ref(), photos)).orElse(List.of()),
                lines.subList(Math.min(1, lines.size()), lines.size()),
                tour.seen().stream()
                        .map(s -> seen(s, of(s.part().ref(), photos)))
                        .toList(),
                findings,
                AdviceView.stops(open),
                pictures(board, left, photos),
                first.map(Part::side).orElse(Side.TOP),
                String.join(" ", skipped));
    }

    private static String what(Part part) {
        String kind = Words.of(part.kind());
        return part.value().isBlank() ? kind : part.value().contains(kind) ? part.value() : kind + " " + part.value();
    }

    private static Seen seen(LookTour.Seen seen, List<Long> shown) {
        LookFinding finding = seen.look().finding();
        String mark = switch (finding) {
            case CLEAN -> "ok";
            case DISCOLOURED, EARLIER_WORK, WET_MARK -> "look";
            default -> "bad";
        };
        return new Seen(seen.part().ref(), what(seen.part()), Words.plain(finding), mark, shown);
    }

    /** Where to look, and where pictures were taken. */
    private static List<BoardPicture> pictures(Board board, List<LookTour.Place> left, List<IntakeStore.Photo> photos) {
        List<BoardPicture.Spot> spots = new ArrayList<>();
        for (int i = 0; i < Math.min(AHEAD, left.size()); i++) {
            Part part = left.get(i).part();
            spots.add(new BoardPicture.Spot(
                    part.side(), part.xMm(), part.yMm(), i == 0 ? "look here" : String.valueOf(i + 1)));
        }
        Set<String> next = left.stream().limit(AHEAD).map(p -> p.part().ref()).collect(Collectors.toSet());
        photos.stream()
                .flatMap(p -> p.pinned().stream())
                .distinct()
                .filter(ref -> !next.contains(ref))
                .flatMap(ref -> board.part(ref).stream())
                .forEach(p -> spots.add(new BoardPicture.Spot(p.side(), p.xMm(), p.yMm(), p.ref() + ", pictured")));
        return List.of(
                BoardPicture.pointing(board, "", Side.TOP, spots),
                BoardPicture.pointing(board, "", Side.BOTTOM, spots));
    }
}
