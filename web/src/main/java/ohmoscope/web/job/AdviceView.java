package ohmoscope.web.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Cooling;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Precaution;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.diagnose.Survey;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.prove.Posterior;
import ohmoscope.formats.AdviceWords;
import ohmoscope.formats.Texts;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.EvidenceStore;

/**
 * Advice as the sheet shows it.
 *
 * @param stops what must not be done now
 * @param next the step to take, when the evidence suggests one
 * @param others its alternatives
 * @param remaining the faults that would explain the evidence, most probable first
 */
public record AdviceView(List<StopLine> stops, Optional<StepLine> next, List<Other> others, List<Fault> remaining) {
    private static final int OTHERS = 4;
    private static final int LISTED = 5;
    private static final double LISTED_FROM = 0.01;
    /** Of a stop that are named. */
    private static final int PLACES = 5;

    private static final double FLAGGED_FROM = 0.08;

    /** A stop in a sentence. */
    public record StopLine(String code, String sentence) {}

    /** Another way on. @param fill what the entry line is filled with for it */
    public record Other(String sentence, String why, String fill) {}

    /** A fault that remains. @param ref the part to point at, empty when it is none */
    public record Fault(int rank, String ref, String words, String percent) {}

    public static AdviceView of(OpenJobs.Open open) {
        Advice advice = open.advice();
        ReadMode mode = open.schools().readMode();
        Board board = open.job().board();
        List<StopLine> stops = stops(open);
        boolean hot = stops.stream().anyMatch(s -> s.code().equals(code(Stop.Code.HOT_BOARD)));
        boolean cooling = advice.next().size() > 1 && advice.next().get(0).action() == Step.Action.COOL;
        List<Step> steps = cooling ? advice.next().subList(1, advice.next().size()) : advice.next();
        List<Other> others = steps.stream()
                .skip(1)
                .limit(OTHERS)
                .map(s -> new Other(sentence(s, advice, mode), AdviceWords.why(s, advice), fill(s, mode)))
                .toList();
        return new AdviceView(
                stops,
                steps.stream()
                        .findFirst()
                        .map(s -> cooling && hot ? cooled(step(board, s, advice, mode)) : step(board, s, advice, mode)),
                others,
                remaining(board, advice, open.together()));
    }

    /** What the evidence and the way it came in forbid. */
    public static List<StopLine> stops(OpenJobs.Open open) {
        JobFile.Stored job = open.job();
        List<StopLine> stops = new ArrayList<>();
        Precaution.of(
                        job.hazards(),
                        job.board(),
                        job.bundle().observations(),
                        open.advice().next().stream().findFirst())
                .forEach(p -> stops.add(new StopLine(code(p.code()), precaution(p))));
        for (Stop stop : open.advice().stops()) {
            Optional<Duration> since = sinceHeat(open, stop);
            boolean cold = since.map(d -> Cooling.left(d).isZero()).orElse(false);
            if (!cold) {
                String more = since.map(AdviceView::cooling).orElse("");
                stops.add(new StopLine(code(stop.code()), AdviceWords.stop(stop) + more));
            }
        }
        return stops;
    }

    private static String precaution(Precaution precaution) {
        String places = precaution.places().stream().limit(PLACES).collect(Collectors.joining(", "));
        int more = precaution.places().size() - PLACES;
        String named = places + (more > 0 ? " and " + more + " more" : "");
        return switch (precaution.code()) {
            case ONLY_COPY ->
                Texts.of(
                        "precaution.only-copy",
                        places.isEmpty()
                                ? Texts.of("precaution.only-copy.end")
                                : Texts.of("precaution.only-copy.near", named));
            default -> Texts.of("precaution", precaution.code(), named);
        };
    }

    private static String cooling(Duration sinceHeat) {
        long minutes = (Cooling.left(sinceHeat).toSeconds() + 59) / 60;
        long celsius = 10 * Math.round(Cooling.celsius(sinceHeat) / 10);
        return " About " + celsius + " °C by now in still air; " + minutes + " min more.";
    }

    /** Empty where nobody knows when it was heated. */
    private static Optional<Duration> sinceHeat(OpenJobs.Open open, Stop stop) {
        if (stop.code() != Stop.Code.HOT_BOARD) {
            return Optional.empty();
        }
        return open.job().entries().stream()
                .filter(e -> stop.because().contains(e.observation().seq()))
                .map(EvidenceStore.Entry::madeAt)
                .filter(at -> at.isAfter(open.job().row().importedAt()))
                .findFirst()
                .map(at -> Duration.between(at, open.at()));
    }

    /** What the entry line completes: nets, test points and parts. */
    public static List<String> words(Board board) {
        List<String> words = new ArrayList<>();
        board.nets().forEach(n -> words.add(n.name()));
        board.testPoints().forEach(t -> words.add(t.ref()));
        board.parts().forEach(p -> words.add(p.ref()));
        return words;
    }

    /** Waiting is no step of its own where another follows. */
    private static StepLine cooled(StepLine then) {
        return new StepLine(
                "Let the board cool. Then: " + then.sentence().substring(0, 1).toLowerCase(Locale.ROOT)
                        + then.sentence().substring(1),
                "Warm junctions read low. " + then.why(),
                then.act(),
                then.target(),
                then.cautions());
    }

    /** One of the steps that the advice has, in words. */
    public static StepLine line(OpenJobs.Open open, Step step) {
        return step(open.job().board(), step, open.advice(), open.schools().readMode());
    }

    private static StepLine step(Board board, Step step, Advice advice, ReadMode mode) {
        boolean lift = step.action() == Step.Action.REMOVE
                && step.target().flatMap(board::part).isPresent();
        return new StepLine(
                sentence(step, advice, mode),
                AdviceWords.why(step, advice),
                lift ? "lift" : fill(step, mode).isEmpty() ? "none" : "fill",
                lift ? step.target().orElseThrow() : fill(step, mode),
                Cautions.of(step, board, advice));
    }

    /** A reading is told with the easiest place for the probe. */
    private static String sentence(Step step, Advice advice, ReadMode mode) {
        if (step.action() != Step.Action.READ) {
            return AdviceWords.sentence(step);
        }
        String target = step.target().orElse("the main rail");
        ReadMode how = mode(step, mode);
        if (step.probe().map(Step.Probe::across).orElse(false)) {
            String ways = how == ReadMode.DIODE ? " mode, the leads both ways" : "";
            return "Read across " + target + " in " + Words.plain(how) + ways + ", board off.";
        }
        String place = step.target().flatMap(net -> place(advice.survey(), net)).orElse("");
        String power = step.probe()
                .flatMap(Step.Probe::power)
                .map(p -> ", powered from the " + Words.plain(p))
                .orElse("");
        return "Read " + target + " in " + Words.plain(how) + (how == ReadMode.DIODE ? " mode" : "") + power
                + (place.isEmpty() ? "" : ", at " + place) + ".";
    }

    private static ReadMode mode(Step step, ReadMode usual) {
        return step.probe().flatMap(Step.Probe::mode).orElse(usual);
    }

    static Optional<String> place(Survey survey, String net) {
        return survey.points().stream()
                .filter(p -> p.net().equals(net))
                .findFirst()
                .map(p -> p.place().ref());
    }

    public static String fill(Step step) {
        return fill(step, ReadMode.DIODE);
    }

    /** What the entry line is begun with, so that only the number is left to type. */
    private static String fill(Step step, ReadMode mode) {
        String target = step.target().orElse("");
        String letter = Words.typed(mode(step, mode));
        Optional<Step.Probe> probe = step.probe();
        return switch (step.action()) {
            case LOOK -> step.reason() == Step.Reason.CLEAN_FIRST ? "cleaned " + target : "look " + target + " ";
            case READ -> (probe.map(Step.Probe::across).orElse(false) ? "across " : "") + target + letter;
            case PROVE -> target.isEmpty() ? "boots" : target + letter;
            case INJECT ->
                "inj " + target
                        + (" " + volts(step)).stripTrailing()
                        + step.limitAmps().stream()
                                .mapToObj(a -> " " + Eng.significant(a, 2) + "A ")
                                .findFirst()
                                .orElse(" ");
            case IMAGE -> "warm ";
            case REMOVE -> "removed " + target;
            case REPLACE -> "replaced " + target;
            case FIT -> "fitted " + target;
            case DISCONNECT -> "unplugged " + target;
            case CHECK_FITTED -> "plugged " + target;
            case SEPARATE -> "separated " + (target.endsWith("lower") ? "lower" : "upper");
            case COMPARE_GOOD_BOARD -> "good " + target + letter;
            case POWER ->
                probe.flatMap(Step.Probe::power)
                                .map(Words::plain)
                                .orElse(step.setVolts().isPresent() ? "bench" : "charger")
                        + (target.isEmpty() ? " " : " " + target + " ")
                        + volts(step)
                        + (probe.map(Step.Probe::battery).orElse(false) ? "battery in " : "");
            default -> "";
        };
    }

    private static String volts(Step step) {
        return step.setVolts().isPresent() ? Eng.significant(step.setVolts().getAsDouble(), 2) + "V " : "";
    }

    /**
     * Nothing where nothing of the board is known: that no fault remains would only say that none can be told.
     *
     * @param beside where the frames speak of all that warms, and only the rest is listed here
     */
    private static List<Fault> remaining(Board board, Advice advice, Optional<Posterior> beside) {
        if (unknown(board)) {
            return List.of();
        }
        List<Fault> faults = new ArrayList<>();
        for (Hypothesis h : advice.hypotheses()) {
            double probability = h.probability() * beside.map(Posterior::others).orElse(1.0);
            if (beside.isPresent() && Posterior.warms(h)) {
                continue;
            }
            if (faults.size() == LISTED || probability < LISTED_FROM) {
                break;
            }
            Optional<Part> part = board.part(h.target());
            faults.add(new Fault(
                    faults.size() + 1,
                    part.map(Part::ref).orElse(""),
                    part.map(p -> withoutRef(AdviceWords.fault(h), p.ref()) + ", " + about(p))
                            .orElse(AdviceWords.fault(h)),
                    Eng.percent(probability)));
        }
        return faults;
    }

    /** Whether no part of the board stands on a rail. */
    private static boolean unknown(Board board) {
        return board.nets().stream()
                .filter(n -> n.kind() == NetKind.POWER)
                .noneMatch(n -> board.partsOn(n.name()).findAny().isPresent());
    }

    /** How much of the board there is to suspect; empty where all of it is there. */
    public static String known(Board board) {
        if (unknown(board)) {
            return "Nothing is known of this board yet, so nothing can be suspected: put its parts on photographs, or add the points that you meet on Rails.";
        }
        return board.revision().startsWith(GenericBoards.MAPPED)
                ? "Only the " + board.parts().size()
                        + " parts that are on the map can be named; the fault may be one that is not."
                : "";
    }

    /** The reference stands beside the words already. */
    private static String withoutRef(String words, String ref) {
        String rest = words.startsWith(ref) ? words.substring(ref.length()) : words;
        return (rest.startsWith(":") ? rest.substring(1) : rest).strip();
    }

    private static String about(Part part) {
        return Words.of(part.kind()) + (part.value().isEmpty() ? "" : " " + part.value()) + ", "
                + Words.plain(part.side());
    }

    /** Parts to flag on the board when the frames name none. */
    public static List<BoardPicture.Named> named(Board board, Advice advice) {
        return advice.hypotheses().stream()
                .filter(h -> board.part(h.target()).isPresent() && h.probability() >= FLAGGED_FROM)
                .map(h -> new BoardPicture.Named(h.target(), h.probability()))
                .toList();
    }

    private static String code(Enum<?> code) {
        return code.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
