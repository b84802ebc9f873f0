package ohmoscope.web.look;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.LookTour;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Words;

/**
 * The look tour: the part to look at now, those to come in walking order, and what was seen.
 *
 * @param skipped parts passed over in this round, kept so that they come last
 */
public record LookView(
        JobHead head,
        Optional<Place> now,
        List<Place> coming,
        List<Seen> seen,
        List<Choice> findings,
        List<AdviceView.StopLine> stops,
        List<BoardPicture> pictures,
        Side side,
        String skipped) {
    private static final int SHOWN = 12;

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

    /** @param mark the shape of the finding */
    public record Seen(String ref, String what, String words, String mark) {}

    static LookView of(OpenJobs.Open open, PowerTree tree, List<String> skipped) {
        Board board = open.job().board();
        LookTour tour = LookTour.of(
                new BoardIndex(board),
                tree,
                open.job().bundle().rail(),
                open.advice().hypotheses(),
                open.advice().now().absent(),
                open.job().bundle().observations());
        Set<String> late = Set.copyOf(skipped);
        List<LookTour.Place> left = new ArrayList<>(tour.left());
        left.sort(Comparator.comparing(p -> late.contains(p.part().ref())));
        List<Place> lines = new ArrayList<>();
        Optional<Side> at = Optional.empty();
        for (LookTour.Place p : left.subList(0, Math.min(SHOWN + 1, left.size()))) {
            boolean turn = at.isPresent() && at.get() != p.part().side();
            at = Optional.of(p.part().side());
            lines.add(new Place(
                    p.part().ref(), what(p.part()), Words.plain(p.part().side()), why(p.why()), turn));
        }
        Optional<Part> first = left.stream().findFirst().map(LookTour.Place::part);
        List<Choice> findings = new ArrayList<>(PARTS);
        if (first.map(p -> p.kind() == PartKind.CONNECTOR).orElse(false)) {
            findings.addAll(PORTS);
        }
        return new LookView(
                open.head(),
                lines.stream().findFirst(),
                lines.subList(Math.min(1, lines.size()), lines.size()),
                tour.seen().stream().map(LookView::seen).toList(),
                findings,
                AdviceView.stops(open),
                pictures(board, left),
                first.map(Part::side).orElse(Side.TOP),
                String.join(" ", skipped));
    }

    private static String what(Part part) {
        String kind = Words.of(part.kind());
        return part.value().isBlank() ? kind : part.value().contains(kind) ? part.value() : kind + " " + part.value();
    }

    private static String why(LookTour.Why why) {
        return switch (why) {
            case LEADS -> "the evidence points to it";
            case PORT -> "a port: crushed or bent pins, liquid, fluff";
            case CARRIES_POWER -> "power comes through it";
            case SUSPECTED -> "the evidence suspects it";
            case ON_THE_RAIL -> "it hangs on the rail in question";
            case FEEDS_A_CONTROLLER -> "it feeds a chip that decides whether anything starts";
        };
    }

    private static Seen seen(LookTour.Seen seen) {
        LookFinding finding = seen.look().finding();
        String mark = switch (finding) {
            case CLEAN -> "ok";
            case DISCOLOURED, EARLIER_WORK, WET_MARK -> "look";
            default -> "bad";
        };
        return new Seen(seen.part().ref(), what(seen.part()), Words.plain(finding), mark);
    }

    private static List<BoardPicture> pictures(Board board, List<LookTour.Place> left) {
        List<BoardPicture.Spot> spots = new ArrayList<>();
        for (int i = 0; i < Math.min(4, left.size()); i++) {
            Part part = left.get(i).part();
            spots.add(new BoardPicture.Spot(
                    part.side(), part.xMm(), part.yMm(), i == 0 ? "look here" : String.valueOf(i + 1)));
        }
        return List.of(
                BoardPicture.pointing(board, "", Side.TOP, spots),
                BoardPicture.pointing(board, "", Side.BOTTOM, spots));
    }
}
