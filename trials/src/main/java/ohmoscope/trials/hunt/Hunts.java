package ohmoscope.trials.hunt;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import ohmoscope.bench.truth.Hidden;
import ohmoscope.bench.truth.Hidden.Kind;
import ohmoscope.bench.truth.TrueBoard;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Experience;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.evidence.Observation;

/** Plays hunts to the end. Same seed and boards, same hunts. */
public final class Hunts {
    private static final int MOST_STEPS = 40;
    /** What may end a fault. */
    private static final Set<Step.Action> ACTS =
            Set.of(Step.Action.REMOVE, Step.Action.REPLACE, Step.Action.FIT, Step.Action.LEAVE_OFF);

    private final List<Board> boards;

    /** How a hunt ended. */
    public enum End {
        SOLVED,
        /** No step was offered, or none that could be done, while something was wrong. */
        RAN_DRY,
        /** Told to prove, or to hand back, with the fault in place. */
        FALSE_PROOF,
        TOO_LONG
    }

    /** Who leads. */
    public enum Player {
        ADVICE,
        CHECKLIST,
        LIKELIEST_FIRST
    }

    /** A stated probability of the leading hypothesis, and whether it was right. */
    public record Stated(double probability, boolean right) {}

    /**
     * One hunt.
     *
     * @param defects what was wrong, a line each
     * @param minutesToAct until the first part was taken off, put in or exchanged; all of them where none was
     * @param steps what was done, a line each
     * @param proven what the technician wrote down as the fault when the device worked again: all that he knows of it
     */
    public record Told(
            long seed,
            Player player,
            String kind,
            String board,
            List<String> defects,
            End end,
            double minutes,
            double minutesToAct,
            int wrongRemovals,
            int overstress,
            List<Stated> stated,
            List<String> steps,
            Optional<Experience.Case> proven) {}

    /** @param boards to hide faults on; empty: a board is drawn for each hunt */
    public Hunts(List<Board> boards) {
        // A board that its data does not let start cannot show that it was repaired.
        this.boards = boards.stream()
                .filter(b -> !stops(new BoardIndex(b), new Hidden(Kind.SHORTED_CAPACITOR, List.of()), 1))
                .toList();
        if (this.boards.isEmpty() && !boards.isEmpty()) {
            throw new IllegalArgumentException("none of the " + boards.size() + " boards starts when nothing is wrong");
        }
    }

    /** @param seed the hunt; the kinds of fault go round */
    public Told play(long seed, Player player) {
        Random random = new Random(seed * 7_919 + 13);
        Board drawn = boards.isEmpty() ? RandomBoard.draw(seed) : boards.get(random.nextInt(boards.size()));
        BoardIndex board = new BoardIndex(drawn);
        Kind[] kinds = Kind.values();
        Hidden hidden = null;
        for (int i = 0; hidden == null; i++) {
            hidden = Hidden.draw(kinds[(int) Math.floorMod(seed + i, (long) kinds.length)], board, random)
                    .filter(h -> stops(board, h, seed))
                    .orElse(null);
        }
        return play(board, hidden, seed, player, Experience.NONE);
    }

    /** One hunt for what is hidden on a board, with what earlier ones on its like have shown. */
    static Told play(BoardIndex board, Hidden hidden, long seed, Player player, Experience experience) {
        Board drawn = board.board();
        Technician technician = new Technician(board, hidden, new Random(seed * 104_729 + 7));
        List<String> steps = new ArrayList<>();
        List<Stated> stated = new ArrayList<>();
        List<Experience.Case> acts = new ArrayList<>();
        End end = switch (player) {
            case ADVICE -> advised(drawn, technician, experience, steps, stated, acts);
            case CHECKLIST -> new Checklist(board, technician, steps).play();
            case LIKELIEST_FIRST -> likeliest(drawn, technician, steps);
        };
        return new Told(
                seed,
                player,
                hidden.kind().name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'),
                drawn.name(),
                hidden.defects().stream().map(Object::toString).toList(),
                end,
                technician.minutes(),
                technician.minutesToAct().orElse(technician.minutes()),
                technician.wrongRemovals(),
                technician.overstress(),
                stated,
                steps,
                end == End.SOLVED ? proven(acts) : Optional.empty());
    }

    /** A fault that nobody would bring the device in for is none. */
    static boolean stops(BoardIndex board, Hidden hidden, long seed) {
        TrueBoard bench = new TrueBoard(board, hidden, new Random(seed));
        bench.battery(false);
        return PowerTree.of(board).inputs().stream()
                .findFirst()
                .map(p -> !bench.power(p.ref(), true).boots())
                .orElse(false);
    }

    private static End advised(
            Board board,
            Technician technician,
            Experience experience,
            List<String> steps,
            List<Stated> stated,
            List<Experience.Case> acts) {
        Advisor advisor = new Advisor(board);
        for (int i = 0; i < MOST_STEPS; i++) {
            Advice advice = advisor.advise(
                    Optional.empty(), "does not start", technician.entries(), Schools.DEFAULT, experience);
            if (!technician.well()) {
                advice.leading()
                        .ifPresent(h -> stated.add(new Stated(
                                h.probability(), technician.culprits().contains(h.target()))));
            }
            // Waiting is done by going on: nothing is written down for it.
            Optional<Step> first = advice.next().stream()
                    .filter(a -> a.action() != Step.Action.COOL)
                    .findFirst();
            if (first.isEmpty()) {
                return technician.well() ? End.SOLVED : End.RAN_DRY;
            }
            Step step = first.get();
            steps.add(words(step)
                    + advice.leading().map(h -> " [" + words(h) + "]").orElse(""));
            if (step.action() == Step.Action.PROVE) {
                if (!technician.well()) {
                    return End.FALSE_PROOF;
                }
                technician.tries();
                return End.SOLVED;
            }
            boolean ill = !technician.well();
            if (!technician.does(step)) {
                steps.add("cannot be done");
                return End.RAN_DRY;
            }
            if (ill && ACTS.contains(step.action())) {
                step.target()
                        .ifPresent(t ->
                                acts.add(new Experience.Case(advice.about(t).map(Hypothesis::code), t, 1)));
            }
            steps.add("  " + shown(technician.entries().get(technician.entries().size() - 1)));
        }
        return End.TOO_LONG;
    }

    /** The part that was last acted on, for what it was first acted on. */
    private static Optional<Experience.Case> proven(List<Experience.Case> acts) {
        return acts.stream()
                .filter(a -> a.target().equals(acts.get(acts.size() - 1).target()))
                .findFirst();
    }

    /** Exchanges whatever is most probable, and tries. */
    private static End likeliest(Board board, Technician technician, List<String> steps) {
        Advisor advisor = new Advisor(board);
        Set<String> done = new HashSet<>();
        for (int i = 0; i < MOST_STEPS; i++) {
            Advice advice = advisor.advise(Optional.empty(), "does not start", technician.entries());
            Optional<Hypothesis> next = advice.hypotheses().stream()
                    .filter(h -> board.part(h.target()).isPresent() && !done.contains(h.target()))
                    .findFirst();
            if (next.isEmpty()) {
                return End.RAN_DRY;
            }
            done.add(next.get().target());
            steps.add("replace " + next.get().target());
            technician.does(new Step(
                    Step.Action.REPLACE,
                    Optional.of(next.get().target()),
                    java.util.OptionalDouble.empty(),
                    java.util.OptionalDouble.empty(),
                    Step.Reason.LIKELY_FAULT,
                    List.of()));
            technician.tries();
            if (technician.well()) {
                return End.SOLVED;
            }
        }
        return End.TOO_LONG;
    }

    /** What the bench showed, in a few words. */
    private static String shown(Observation entry) {
        if (entry instanceof Observation.Read read) {
            return read.mode() + " "
                    + (read.value().isPresent() ? "" + read.value().getAsDouble() : "over range");
        }
        if (entry instanceof Observation.Power power) {
            return power.volts().orElse(0) + " V, " + power.amps().orElse(0) + " A "
                    + power.shape().map(Enum::name).orElse("");
        }
        if (entry instanceof Observation.Inject inject) {
            return inject.volts().orElse(0) + " V, " + inject.amps().orElse(0) + " A";
        }
        if (entry instanceof Observation.Warm warm) {
            return warm.nothing() ? "nothing warm" : "warm " + warm.ref().orElse("broad");
        }
        return entry instanceof Observation.Look look ? look.finding().name() : "";
    }

    private static String words(Step step) {
        String how = step.probe()
                .map(p -> (p.across() ? " across" : "")
                        + p.mode().map(m -> " " + m).orElse("")
                        + p.power().map(s -> " " + s).orElse(""))
                .orElse("");
        return step.action() + " " + step.target().orElse("") + how + " (" + step.reason() + ")";
    }

    private static String words(Hypothesis h) {
        return h.code() + " " + h.target() + " " + Math.round(100 * h.probability());
    }
}
