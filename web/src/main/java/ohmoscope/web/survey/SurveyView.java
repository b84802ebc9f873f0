package ohmoscope.web.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.GoNoGo;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.diagnose.Survey;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/**
 * The survey sheet: the point to read now, those to come in walking order, and what was read.
 *
 * @param skipped nets passed over in this round, kept so that they come last
 */
public record SurveyView(
        JobHead head,
        Optional<Point> now,
        List<Point> coming,
        List<Done> done,
        Few few,
        List<AdviceView.StopLine> stops,
        List<BoardPicture> pictures,
        Side side,
        String mode,
        String skipped) {
    private static final int SHOWN = 12;

    /**
     * @param start the entry line up to the number
     * @param turn whether the board has to be turned over for it
     */
    public record Point(String net, String where, String side, String expect, String why, String start, boolean turn) {}

    /** The few readings that decide whether power may come. @param verdict go, no-go or not-yet */
    public record Few(String verdict, String words, List<Done> lines) {}

    /** @param mark the shape of the verdict @param good what good boards read there, and how many stand behind it */
    public record Done(String net, String value, String words, String mark, String markWord, String good) {}

    static SurveyView of(OpenJobs.Open open, PowerTree tree, List<String> skipped) {
        Board board = open.job().board();
        Advice advice = open.advice();
        ReadMode mode = open.schools().readMode();
        Set<String> late = Set.copyOf(skipped);
        List<Survey.Point> points = new ArrayList<>(advice.survey().points());
        points.sort(Comparator.comparing(p -> late.contains(p.net())));
        List<Point> lines = new ArrayList<>();
        Optional<Side> at = Optional.empty();
        for (Survey.Point p : points.subList(0, Math.min(SHOWN + 1, points.size()))) {
            boolean turn = at.isPresent() && at.get() != p.place().side();
            at = Optional.of(p.place().side());
            lines.add(line(p, mode, turn));
        }
        Optional<Survey.Point> first = points.stream().findFirst();
        return new SurveyView(
                open.head(),
                lines.stream().findFirst(),
                lines.subList(Math.min(1, lines.size()), lines.size()),
                done(open.job(), advice),
                few(GoNoGo.of(new BoardIndex(board), tree, advice.signs())),
                AdviceView.stops(open),
                pictures(board, points),
                first.map(p -> p.place().side()).orElse(Side.TOP),
                Words.plain(mode),
                String.join(" ", skipped));
    }

    private static Point line(Survey.Point p, ReadMode mode, boolean turn) {
        String pad = p.place().pin().map(pin -> "." + pin).orElse("");
        Optional<Range> good = mode == ReadMode.DIODE ? p.diodeVolts() : p.ohms();
        return new Point(
                p.net(),
                p.place().ref() + pad,
                Words.plain(p.place().side()),
                good.map(r -> Words.range(r, mode)).orElse("not known"),
                why(p.why()),
                p.place().ref() + pad + " " + p.net() + (mode == ReadMode.DIODE ? " d" : " ohm"),
                turn);
    }

    private static String why(Survey.Why why) {
        return switch (why) {
            case MAIN_RAIL -> "the main rail: it decides what follows";
            case TELLS_MUCH -> "tells much about what is left";
            case RAIL -> "each rail once";
            case PORT_LINE -> "lines of a port read alike";
        };
    }

    private static List<Done> done(JobFile.Stored job, Advice advice) {
        return advice.signs().stream()
                .filter(s -> s.says().unpowered())
                .sorted(Comparator.comparingInt(Sign::seq).reversed())
                .map(s -> done(s, good(job, s)))
                .toList();
    }

    /** Good against bad: what good boards read in the same mode; empty where nobody knows. */
    private static String good(JobFile.Stored job, Sign sign) {
        ReadMode mode = sign.unit() == Unit.OHMS ? ReadMode.OHMS : ReadMode.DIODE;
        Optional<Range> range = job.board()
                .net(sign.net())
                .flatMap(Net::expect)
                .flatMap(e -> mode == ReadMode.OHMS ? e.ohms() : e.diodeVolts());
        String boards = Optional.ofNullable(job.behind().get(sign.net()))
                .map(b -> b.boards() == 1 ? ", 1 board" : ", " + b.boards() + " boards")
                .orElse("");
        return range.map(r -> "good: " + Words.range(r, mode) + boards).orElse("");
    }

    private static Done done(Sign sign, String good) {
        Says.Concern concern = sign.says().concern();
        return new Done(
                sign.net(), value(sign), AdviceWords.sign(sign), Words.mark(concern), Words.markWord(concern), good);
    }

    private static Few few(GoNoGo go) {
        long read = go.items().stream().filter(i -> i.sign().isPresent()).count();
        String wrong = go.wrong().stream().map(GoNoGo.Item::net).collect(Collectors.joining(", "));
        return new Few(
                go.verdict().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                switch (go.verdict()) {
                    case GO -> "Go: none of these holds power down. From outside, battery out, at a low limit.";
                    case NO_GO -> "No go: " + wrong + " first. No power before that is gone.";
                    case NOT_YET ->
                        read + " of " + go.items().size() + " read; the rest decides whether power may come.";
                },
                go.items().stream()
                        .map(i -> i.sign()
                                .map(s -> done(s, ""))
                                .orElseGet(() -> new Done(i.net(), "", "", "plain", "not read", "")))
                        .toList());
    }

    private static String value(Sign sign) {
        if (Double.isInfinite(sign.value())) {
            return "over range";
        }
        return sign.unit() == Unit.OHMS
                ? Eng.prefixed(sign.value(), "Ω").toString()
                : Eng.fixed(sign.value(), 3) + " V";
    }

    private static List<BoardPicture> pictures(Board board, List<Survey.Point> points) {
        List<BoardPicture.Spot> spots = new ArrayList<>();
        for (int i = 0; i < Math.min(4, points.size()); i++) {
            Survey.Place place = points.get(i).place();
            spots.add(new BoardPicture.Spot(
                    place.side(), place.xMm(), place.yMm(), i == 0 ? "probe here" : String.valueOf(i + 1)));
        }
        String rail = points.isEmpty() ? "" : points.get(0).net();
        return List.of(
                BoardPicture.pointing(board, rail, Side.TOP, spots),
                BoardPicture.pointing(board, rail, Side.BOTTOM, spots));
    }
}
