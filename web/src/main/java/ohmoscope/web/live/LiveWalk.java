package ohmoscope.web.live;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.inject.MillivoltWalk;
import ohmoscope.core.live.SteadyReading;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;

/**
 * A walk along the rail with the meter, under way. Used by the bench's thread; points and what they come to are replaced
 * whole, and read by others.
 */
final class LiveWalk {
    private static final double METER_VOLTS = 1e-4;
    private static final int SHOWN_SUSPECTS = 5;

    private final MillivoltWalk.Copper copper;
    private final SteadyReading steady = new SteadyReading(SteadyReading.MILLIVOLTS);
    private final Deque<Read> unkept = new ArrayDeque<>();
    private volatile List<MillivoltWalk.Point> points = List.of();
    private volatile MillivoltWalk found;
    private volatile boolean lifted;

    LiveWalk(MillivoltWalk.Copper copper) {
        this.copper = copper;
        this.found = MillivoltWalk.of(copper, 1, METER_VOLTS, List.of());
    }

    /** The part to be read next; empty where all were. */
    Optional<String> asked() {
        return found.next();
    }

    /** What the probe shows; where it rests on a new point, that is the one that was asked for. @return whether it does */
    boolean probed(double volts, double amps) {
        OptionalDouble rests = steady.next(volts);
        lifted = steady.lifted();
        Optional<String> ref = asked();
        if (rests.isEmpty() || ref.isEmpty()) {
            return false;
        }
        List<MillivoltWalk.Point> more = new ArrayList<>(points);
        more.add(new MillivoltWalk.Point(ref.get(), rests.getAsDouble()));
        points = List.copyOf(more);
        found = MillivoltWalk.of(copper, amps, METER_VOLTS, more);
        unkept.add(new Read(
                0,
                ReadMode.VOLTS,
                Optional.empty(),
                ref,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(Math.round(rests.getAsDouble() * 1e5) / 1e5),
                Optional.empty(),
                Optional.of(PowerSource.BENCH)));
        return true;
    }

    /** What was read and is no entry yet; from now on it is. */
    List<Read> unkept() {
        List<Read> reads = new ArrayList<>(unkept);
        unkept.clear();
        return reads;
    }

    static Observation numbered(Read read, int seq) {
        return new Read(
                seq,
                read.mode(),
                read.net(),
                read.ref(),
                read.pin(),
                read.across(),
                read.to(),
                read.value(),
                read.lead(),
                read.power());
    }

    static String point(String ref, double volts) {
        return ref + " " + Eng.fixed(1000 * volts, 2) + " mV";
    }

    LiveState.Walked state() {
        List<String> said = new ArrayList<>();
        points.forEach(p -> said.add(0, point(p.ref(), p.volts())));
        MillivoltWalk now = found;
        return new LiveState.Walked(
                now.next().orElse(""),
                said,
                now.suspects().stream()
                        .limit(SHOWN_SUSPECTS)
                        .map(s -> new LiveState.Suspect(s.ref(), s.probability()))
                        .toList(),
                now.called()
                        .map(ref -> Texts.of("live.walk-names", ref))
                        .orElseGet(() -> Texts.of(lifted ? "live.walk-rest" : "live.walk-lift")));
    }
}
