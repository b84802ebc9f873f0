package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.ReadPoint;
import ohmoscope.core.reading.Interpretation;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;

/**
 * The proof that a short is gone. Readings before and after the last change are compared at the same point in the same
 * mode, as a short that is gone at one point may still be there at another. Plugging something in is no such change, nor
 * is taking the battery out or, once the short is gone, unplugging anything: they undo no proof.
 *
 * @param rail the net that was shorted: the job's own, or the one that was found so
 * @param change the last part taken off, put in or replaced
 * @param culprit what had been taken away just before the short was gone; stays it, whatever is done afterwards
 * @param before the reading of the short: the last wrong one before the change
 * @param after the last reading of the same point and mode after it
 * @param innocent what had been taken away when the short was still there
 * @param run how the device behaved when it was last tried since the change
 */
public record Proof(
        State state,
        String rail,
        Optional<Change> change,
        Optional<Change> culprit,
        Optional<Read> before,
        Optional<Read> after,
        List<String> innocent,
        Optional<Run> run) {
    /** How far it has come. */
    public enum State {
        /** Nothing has been changed yet. */
        NOTHING_CHANGED,
        /** No reading from before the change shows the short. */
        NO_READING_BEFORE,
        /** The same reading after the change is wanted. */
        READING_WANTED,
        /** The short is gone. */
        CLEARED,
        /** It is still there. */
        STILL_THERE,
        /** The reading has moved but is not in range; a board that is still warm reads low. */
        WARM_OR_PARTIAL,
        /** It reads above what a good board does, or over range: the probe is off, or something that conducts is missing. */
        ABOVE_RANGE
    }

    public Proof {
        innocent = List.copyOf(innocent);
    }

    /** The change that the report speaks of: the culprit's, else the last one. */
    public Optional<Change> repair() {
        return culprit.or(() -> change);
    }

    /** Whether the device does what it should again. */
    public boolean runs() {
        return run.map(r -> r.finding().well()).orElse(false);
    }

    /** Whether the short is gone and something else is wrong still. */
    public boolean illOtherwise() {
        return state == State.CLEARED && run.isPresent() && !runs();
    }

    /**
     * @param rail the net complained of; another net that was found shorted takes its place when this one never was
     */
    public static Proof of(Board board, String rail, List<Observation> observations) {
        Interpreter interpreter = new Interpreter(board);
        return new Walker(board, interpreter, shorted(board, interpreter, rail, observations)).walk(observations);
    }

    /** The power net that a reading shows shorted or low: this one where it is among them, else the first. */
    static Optional<String> shortedRail(Board board, String rail, List<Observation> observations) {
        return wrongRails(board, new Interpreter(board), rail, observations);
    }

    private static String shorted(Board board, Interpreter interpreter, String rail, List<Observation> observations) {
        return wrongRails(board, interpreter, rail, observations).orElse(rail);
    }

    private static Optional<String> wrongRails(
            Board board, Interpreter interpreter, String rail, List<Observation> observations) {
        Map<String, Boolean> power = new HashMap<>();
        List<String> wrong = observations.stream()
                .filter(Read.class::isInstance)
                .map(Read.class::cast)
                .filter(read -> wrong(interpreter, read))
                .flatMap(read ->
                        ReadPoint.netOf(board, read)
                                .filter(net -> power.computeIfAbsent(net, n -> power(board, n)))
                                .stream())
                .toList();
        return wrong.contains(rail) ? Optional.of(rail) : wrong.stream().findFirst();
    }

    private static boolean power(Board board, String net) {
        return board.net(net).map(n -> n.kind() == NetKind.POWER).orElse(false);
    }

    private static boolean wrong(Interpreter interpreter, Read read) {
        return says(interpreter, read)
                .map(s -> s == Says.SHORTED || s == Says.LOW)
                .orElse(false);
    }

    private static Optional<Says> says(Interpreter interpreter, Read read) {
        return interpreter.unpowered(read).map(Interpretation::says);
    }

    private static double shown(Read read) {
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        return read.mode() == ReadMode.CONTINUITY ? Interpreter.beep(value) : value;
    }

    /** Goes through the entries in order. */
    private static final class Walker {
        private final Board board;
        private final Interpreter interpreter;
        private final String rail;
        private final List<Read> earlier = new ArrayList<>();
        private Optional<Change> change = Optional.empty();
        private Optional<Change> takenAway = Optional.empty();
        private Optional<Change> culprit = Optional.empty();
        private Optional<Read> before = Optional.empty();
        private Optional<Read> after = Optional.empty();
        private Optional<Run> run = Optional.empty();
        private final Set<String> innocent = new LinkedHashSet<>();

        Walker(Board board, Interpreter interpreter, String rail) {
            this.board = board;
            this.interpreter = interpreter;
            this.rail = rail;
        }

        Proof walk(List<Observation> observations) {
            for (Observation observation : observations) {
                if (observation instanceof Change c && counts(c)) {
                    change(c);
                } else if (observation instanceof Read read && ofRail(read)) {
                    read(read);
                } else if (observation instanceof Run tried && change.isPresent()) {
                    run = Optional.of(tried);
                }
            }
            return new Proof(state(), rail, change, culprit, before, after, List.copyOf(innocent), run);
        }

        private boolean counts(Change c) {
            return c.altersCircuit() && (culprit.isEmpty() || c.heat());
        }

        private void change(Change c) {
            change = Optional.of(c);
            boolean takes = c.action() != ChangeAction.FITTED;
            takenAway = takes ? change : takenAway;
            before = wrong(earlier);
            after = Optional.empty();
            run = Optional.empty();
        }

        /** The last that was wrong; one that nobody can judge when there is none. */
        private Optional<Read> wrong(List<Read> reads) {
            return reads.stream()
                    .filter(r -> Proof.wrong(interpreter, r))
                    .reduce((a, b) -> b)
                    .or(() -> reads.stream()
                            .filter(r -> interpreter.expected(r).isEmpty())
                            .reduce((a, b) -> b));
        }

        private boolean ofRail(Read read) {
            return interpreter.comparable(read)
                    && ReadPoint.netOf(board, read).map(rail::equals).orElse(false);
        }

        private void read(Read read) {
            earlier.add(read);
            if (change.isEmpty()) {
                return;
            }
            int since = change.get().seq();
            ReadPoint point = ReadPoint.of(board, read);
            Optional<Read> same = wrong(earlier.stream()
                    .filter(r -> r.seq() < since && point.answers(ReadPoint.of(board, r)))
                    .toList());
            if (same.isEmpty()) {
                return;
            }
            before = same;
            after = Optional.of(read);
            State state = state();
            if (state == State.STILL_THERE && culprit.isEmpty()) {
                takenAway.map(Change::target).ifPresent(innocent::add);
            }
            culprit = state == State.CLEARED
                    ? culprit.or(() -> takenAway)
                    : state == State.STILL_THERE ? Optional.empty() : culprit;
        }

        private State state() {
            if (change.isEmpty()) {
                return State.NOTHING_CHANGED;
            }
            if (before.isEmpty()) {
                return State.NO_READING_BEFORE;
            }
            if (after.isEmpty()) {
                return State.READING_WANTED;
            }
            Read now = after.get();
            Says says = says(interpreter, now).orElse(Says.CLEAR);
            if (says == Says.HIGH) {
                return State.ABOVE_RANGE;
            }
            boolean wasWrong = Proof.wrong(interpreter, before.get());
            if (says.right() && (wasWrong || shown(now) > Thresholds.TELLING_FACTOR * shown(before.get()))) {
                return State.CLEARED;
            }
            boolean risen = before.get().value().isEmpty()
                    || shown(now) > Thresholds.RISEN_FACTOR * Math.max(1e-3, shown(before.get()));
            return says == Says.SHORTED && !risen ? State.STILL_THERE : State.WARM_OR_PARTIAL;
        }
    }
}
