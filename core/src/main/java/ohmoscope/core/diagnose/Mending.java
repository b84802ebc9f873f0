package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.reading.Says;

/**
 * What was wrong before the last repair, each with what the same test says since: a repair is proven where it was wrong
 * before, in the way it was wrong.
 *
 * @param repair the last part taken off, put in, replaced or cleaned
 * @param run how the device behaved when it was last tried since
 */
public record Mending(Change repair, List<Wrong> wrongs, Optional<Run> run) {
    /** What was tested. */
    public enum Test {
        UNPOWERED,
        POWERED,
        ACROSS,
        DRAW,
        RUN
    }

    /**
     * One thing that was wrong.
     *
     * @param place the net, part or port; empty for the whole device
     * @param before the last entry before the repair that said so
     * @param after the last entry since that tells; empty when nobody has tried again
     * @param right whether that one says that all is well
     */
    public record Wrong(Test test, String place, Observation before, Optional<Observation> after, boolean right) {}

    public Mending {
        wrongs = List.copyOf(wrongs);
    }

    /** Whether all that was wrong has been seen to be right. */
    public boolean proven() {
        return !wrongs.isEmpty() && wrongs.stream().allMatch(Wrong::right);
    }

    /** Whether every reading and draw that was wrong is right; the device need not have been started. */
    public boolean readsWell() {
        return !wrongs.isEmpty() && wrongs.stream().allMatch(w -> w.right() || w.test() == Test.RUN);
    }

    /** Whether the device has been seen to work since. */
    public boolean runs() {
        return run.map(r -> r.finding().well()).orElse(false);
    }

    /** What nobody has tried again. */
    public List<Wrong> missing() {
        return wrongs.stream().filter(w -> w.after().isEmpty()).toList();
    }

    /** What is wrong still. */
    public List<Wrong> remaining() {
        return wrongs.stream().filter(w -> w.after().isPresent() && !w.right()).toList();
    }

    /** Empty while nothing has been repaired. */
    static Optional<Mending> of(Timeline timeline, RailBook book) {
        Optional<Change> repair = timeline.all(Change.class)
                .filter(c -> c.action().usuallyHot() || c.heat())
                .reduce((a, b) -> b);
        return repair.map(change -> new Mending(
                change,
                wrongs(timeline, book, firstOfRepair(timeline, change)),
                timeline.all(Run.class).filter(r -> r.seq() > change.seq()).reduce((a, b) -> b)));
    }

    /** Taking off, fitting and replacing the same part are one repair. */
    private static Change firstOfRepair(Timeline timeline, Change last) {
        return timeline.all(Change.class)
                .filter(c -> c.target().equals(last.target()) && c.action().usuallyHot())
                .findFirst()
                .orElse(last);
    }

    private record Key(Test test, String place) {}

    /** One entry as a test with its verdict. */
    private record Tried(Key key, Observation entry, boolean right) {}

    private static List<Wrong> wrongs(Timeline timeline, RailBook book, Change repair) {
        Map<Integer, Sign> signs = book.bySeq();
        Map<Key, Tried> before = new LinkedHashMap<>();
        Map<Key, Tried> after = new LinkedHashMap<>();
        for (Moment moment : timeline.moments()) {
            boolean earlier = moment.seq() < repair.seq();
            boolean ofOneHalf = moment.state().takenAway().isPresent();
            tried(timeline, moment, Optional.ofNullable(signs.get(moment.seq())))
                    // That one half is free says nothing of the whole before the repair.
                    .filter(t -> !(earlier && ofOneHalf && t.right()))
                    .ifPresent(t -> (earlier ? before : after).put(t.key(), t));
        }
        injected(timeline, book, signs, repair.seq(), before, after);
        List<Wrong> wrongs = new ArrayList<>();
        for (Tried wrong : before.values()) {
            if (!wrong.right()) {
                Optional<Tried> again = Optional.ofNullable(after.get(wrong.key()))
                        .filter(Tried::right)
                        .or(() -> stands(wrong, signs, before, after))
                        .or(() -> Optional.ofNullable(after.get(wrong.key())));
                wrongs.add(new Wrong(
                        wrong.key().test(),
                        wrong.key().place(),
                        wrong.entry(),
                        again.map(Tried::entry),
                        again.map(Tried::right).orElse(false)));
            }
        }
        return wrongs;
    }

    /**
     * Where nobody held a meter, what a supply showed is what was wrong there: into a feed, it may have flowed through
     * whatever joins it to the rail. What a meter says of that net, or of one that conducts to it, goes before it.
     */
    private static void injected(
            Timeline timeline,
            RailBook book,
            Map<Integer, Sign> signs,
            int repairSeq,
            Map<Key, Tried> before,
            Map<Key, Tried> after) {
        timeline.all(Inject.class).filter(i -> signs.containsKey(i.seq())).forEach(inject -> {
            Key key = new Key(Test.UNPOWERED, inject.net());
            boolean right = signs.get(inject.seq()).says().concern() != Says.Concern.WRONG;
            boolean metered = before.values().stream()
                    .filter(t -> t.key().test() == Test.UNPOWERED && t.entry() instanceof Read)
                    .anyMatch(t -> book.joinedTo(inject.net()).contains(t.key().place()));
            if (!metered) {
                (inject.seq() < repairSeq ? before : after)
                        .merge(
                                key,
                                new Tried(key, inject, right),
                                (a, b) -> a.entry().seq() > b.entry().seq() ? a : b);
            }
        });
    }

    /** A rail that read low and stands at its voltage only since is well. */
    private static Optional<Tried> stands(
            Tried wrong, Map<Integer, Sign> signs, Map<Key, Tried> before, Map<Key, Tried> after) {
        boolean low = wrong.key().test() == Test.UNPOWERED
                && Optional.ofNullable(signs.get(wrong.entry().seq()))
                        .map(s -> s.says() == Says.LOW)
                        .orElse(false);
        Key powered = new Key(Test.POWERED, wrong.key().place());
        // Where it stood with the fault in place, that it stands says nothing.
        boolean stoodBefore =
                Optional.ofNullable(before.get(powered)).map(Tried::right).orElse(false);
        return Optional.ofNullable(after.get(powered)).filter(t -> low && !stoodBefore && t.right());
    }

    private static Optional<Tried> tried(Timeline timeline, Moment moment, Optional<Sign> sign) {
        if (moment.observation() instanceof Read read) {
            return read(timeline, read, sign);
        }
        if (moment.observation() instanceof Power power) {
            boolean battery = power.battery()
                    .map(b -> b == BatteryState.IN)
                    .orElse(moment.state().battery());
            return Draw.of(timeline.board(), timeline.tree(), power)
                    .map(d -> new Tried(new Key(Test.DRAW, battery ? Timeline.BATTERY : ""), power, d == Draw.NORMAL));
        }
        if (moment.observation() instanceof Run run) {
            return Optional.of(
                    new Tried(new Key(Test.RUN, ""), run, run.finding().well()));
        }
        return Optional.empty();
    }

    private static Optional<Tried> read(Timeline timeline, Read read, Optional<Sign> sign) {
        if (read.across().isPresent()) {
            Optional<Part> part = timeline.board().part(read.across().get());
            return part.filter(p -> read.power().isEmpty())
                    .map(p -> new Tried(
                            new Key(Test.ACROSS, p.ref()),
                            read,
                            timeline.interpreter().across(p, read).isEmpty()));
        }
        boolean powered = read.mode() == ReadMode.VOLTS;
        return timeline.netOf(read)
                .filter(net -> powered || sign.isPresent())
                .map(net -> new Tried(
                        new Key(powered ? Test.POWERED : Test.UNPOWERED, net),
                        read,
                        sign.map(s -> s.says().concern() != Says.Concern.WRONG).orElse(true)));
    }
}
