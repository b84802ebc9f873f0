package ohmoscope.core.prove;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * The state of a proof. Readings before and after the last change are compared at the same point in the same mode, as a
 * short that is gone at one point may still be there at another.
 *
 * @param change the last part taken off, put in or replaced
 * @param before the last unpowered reading of the rail before it
 * @param after the last reading of the same point and mode after it
 */
public record Proof(State state, Optional<Change> change, Optional<Read> before, Optional<Read> after) {
    /** How far it has come. */
    public enum State {
        /** Nothing has been changed yet. */
        NOTHING_CHANGED,
        /** There is no reading before the change to compare with. */
        NO_READING_BEFORE,
        /** The same reading after the change is wanted. */
        READING_WANTED,
        /** The short is gone. */
        CLEARED,
        /** It is still there. */
        STILL_THERE,
        /** The reading has moved but is not in range; a board that is still warm reads low. */
        WARM_OR_PARTIAL
    }

    /** In diode mode, volts; below it a rail is shorted whatever it is. */
    private static final double SHORT_DIODE_VOLTS = 0.1;

    private static final double SHORT_OHMS = 2;
    /** A good reading may stray this far outside its range, of the range's ends. */
    private static final double RANGE_SLACK = 0.1;

    private static final double RISEN_FACTOR = 5;

    /**
     * @param rail the net that was shorted
     */
    public static Proof of(Board board, String rail, List<Observation> observations) {
        Optional<Change> change = Optional.empty();
        Optional<Read> before = Optional.empty();
        Optional<Read> latest = Optional.empty();
        Optional<Read> after = Optional.empty();
        for (Observation observation : observations) {
            if (observation instanceof Change c) {
                change = Optional.of(c);
                before = latest.isPresent() ? latest : before;
                after = Optional.empty();
            } else if (observation instanceof Read read && ofRail(board, rail, read)) {
                if (change.isPresent() && before.isPresent() && before.get().samePoint(read)) {
                    after = Optional.of(read);
                } else if (change.isEmpty()) {
                    latest = Optional.of(read);
                }
            }
        }
        return new Proof(state(board, rail, change, before, after), change, before, after);
    }

    private static boolean ofRail(Board board, String rail, Read read) {
        boolean unpowered = read.power().isEmpty()
                && read.mode() != ReadMode.VOLTS
                && read.mode() != ReadMode.VOLTS_AC
                && read.across().isEmpty();
        boolean named = read.net().map(rail::equals).orElse(false);
        boolean touches = read.net().isEmpty()
                && read.ref().flatMap(board::part).map(p -> p.touches(rail)).orElse(false);
        return unpowered && (named || touches);
    }

    private static State state(
            Board board, String rail, Optional<Change> change, Optional<Read> before, Optional<Read> after) {
        if (change.isEmpty()) {
            return State.NOTHING_CHANGED;
        }
        if (before.isEmpty()) {
            return State.NO_READING_BEFORE;
        }
        if (after.isEmpty()) {
            return State.READING_WANTED;
        }
        return judged(board, rail, before.get(), after.get());
    }

    private static State judged(Board board, String rail, Read before, Read after) {
        if (after.value().isEmpty()) {
            return State.CLEARED;
        }
        double now = after.value().getAsDouble();
        boolean diode = after.mode() == ReadMode.DIODE;
        Optional<Range> expected =
                board.net(rail).flatMap(Net::expect).flatMap(diode ? Expectation::diodeVolts : Expectation::ohms);
        if (expected.isPresent()) {
            Range range = expected.get();
            if (now >= range.low() * (1 - RANGE_SLACK)) {
                return State.CLEARED;
            }
        }
        boolean low = now < (diode ? SHORT_DIODE_VOLTS : SHORT_OHMS);
        boolean risen = before.value().isEmpty()
                || now > RISEN_FACTOR * Math.max(1e-3, before.value().getAsDouble());
        if (low && !risen) {
            return State.STILL_THERE;
        }
        return expected.isPresent() || low ? State.WARM_OR_PARTIAL : State.CLEARED;
    }
}
