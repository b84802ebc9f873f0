package ohmoscope.web.live;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.IntFunction;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.inject.BothEnds;
import ohmoscope.core.live.SteadyReading;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;

/**
 * Current into one end of a series part, then into the other: the volts across it and its warmth say on which side the short
 * is. Used by the bench's thread; its state is read by others.
 */
final class LiveEnds {
    /** With a camera the part is given this long to warm; without, the volts alone end it. */
    static final double WITH_CAMERA_S = 12;

    private static final double LEAST_S = 1.5;
    private static final double LEAST_WARMING_S = 8;
    /** What a camera does not see above noise and neighbours. */
    private static final double NOTHING_K = 0.3;

    private final Part part;
    private final List<End> ends;
    private final boolean metered;
    private final List<BothEnds.Fed> fed = new ArrayList<>();
    private SteadyReading steady = new SteadyReading(SteadyReading.MILLIVOLTS);
    private OptionalDouble volts = OptionalDouble.empty();
    private OptionalDouble riseK = OptionalDouble.empty();
    private double amps;
    private volatile LiveState.Ends state;

    /** One end of the part. @param lead where the hot lead goes for it */
    record End(String net, ProbePlace lead, String words) {}

    /** @param ends two, in the order in which they are fed @param metered whether there is a meter across the part */
    LiveEnds(Part part, List<End> ends, boolean metered) {
        this.part = part;
        this.ends = List.copyOf(ends);
        this.metered = metered;
        this.state = told();
    }

    /** The end that is fed next; the last where both were. */
    End end() {
        return ends.get(Math.min(fed.size(), ends.size() - 1));
    }

    Part part() {
        return part;
    }

    boolean over() {
        return fed.size() == ends.size();
    }

    void begin() {
        steady = new SteadyReading(SteadyReading.MILLIVOLTS);
        volts = OptionalDouble.empty();
        riseK = OptionalDouble.empty();
        amps = 0;
    }

    /**
     * What is seen while current flows.
     *
     * @param rise of the part above its surroundings; empty where no camera sees it
     * @return whether this end is told
     */
    boolean seen(OptionalDouble meterVolts, OptionalDouble rise, double flowing, double onSeconds) {
        amps = flowing;
        meterVolts.ifPresent(steady::next);
        volts = steady.resting().map(r -> OptionalDouble.of(r.volts())).orElse(volts);
        // What was held for a moment only has warmed nothing yet; what cools from the last hold has no current either.
        if (rise.isPresent() && onSeconds >= LEAST_WARMING_S) {
            riseK = OptionalDouble.of(Math.max(0, rise.getAsDouble()));
        }
        boolean measured = !metered || volts.isPresent();
        return onSeconds >= (rise.isPresent() ? WITH_CAMERA_S : LEAST_S) && measured;
    }

    /** This end is done, as far as it was told. @return the entries for it; none where nothing was measured */
    List<IntFunction<Observation>> done() {
        List<IntFunction<Observation>> entries = new ArrayList<>();
        if (over() || amps <= 0 || volts.isEmpty() && riseK.isEmpty()) {
            return entries;
        }
        fed.add(new BothEnds.Fed(amps, volts, riseK));
        volts.ifPresent(v -> entries.add(seq -> new Read(
                seq,
                ReadMode.VOLTS,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.of(part.ref()),
                Optional.empty(),
                OptionalDouble.of(Math.round(v * 1e5) / 1e5),
                Optional.empty(),
                Optional.of(PowerSource.BENCH))));
        riseK.ifPresent(k -> entries.add(seq -> warm(seq, k)));
        state = told();
        return entries;
    }

    private Warm warm(int seq, double kelvin) {
        boolean nothing = kelvin < NOTHING_K;
        return new Warm(
                seq,
                Optional.of(part.ref()),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Optional.of(part.side()),
                Optional.of(WarmthMeans.CAMERA),
                nothing ? OptionalDouble.empty() : OptionalDouble.of(Math.round(kelvin * 100) / 100.0),
                OptionalDouble.empty(),
                nothing);
    }

    LiveState.Ends state() {
        return state;
    }

    private LiveState.Ends told() {
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < fed.size(); i++) {
            lines.add(line(ends.get(i), fed.get(i)));
        }
        return new LiveState.Ends(part.ref(), over() ? "" : end().words(), over() ? "" : end().net(), lines, words());
    }

    private static String line(End end, BothEnds.Fed fed) {
        List<String> said = new ArrayList<>();
        fed.dropVolts().ifPresent(v -> said.add(Eng.fixed(1000 * v, 2) + " mV"));
        fed.riseK().ifPresent(k -> said.add(Eng.fixed(k, 2) + " K"));
        return Texts.of("live.end-fed", end.net(), Eng.fixed(fed.amps(), 2) + " A", String.join(", ", said));
    }

    private String words() {
        if (!over()) {
            return Texts.of(fed.isEmpty() ? "live.ends-first" : "live.ends-second", part.ref());
        }
        BothEnds.Side side =
                BothEnds.of(part.resistanceOhms(), fed.get(0), fed.get(1)).side();
        return switch (side) {
            case FIRST -> Texts.of("live.ends-side", ends.get(0).net(), part.ref());
            case SECOND -> Texts.of("live.ends-side", ends.get(1).net(), part.ref());
            case BOTH -> Texts.of("live.ends-both", part.ref());
            case UNTOLD -> Texts.of("live.ends-untold", part.ref());
        };
    }
}
