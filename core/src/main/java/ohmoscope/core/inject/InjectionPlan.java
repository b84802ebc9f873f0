package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.heat.SlabParameters;

/**
 * How to put current into a shorted rail: a ladder of steps from harmless upward, each with what to expect and when to
 * stop. Nothing on it exceeds what the rail, or anything that conducts to it, may bear, nor what leads and supply carry.
 *
 * @param ceilingVolts never more than this
 * @param ceilingNet the net whose nominal voltage it is
 * @param spot the picture of a watt after one long exposure
 * @param rungs lowest first
 * @param enough the first rung that is sharp enough; empty when none is
 */
public record InjectionPlan(
        double ceilingVolts,
        String ceilingNet,
        Estimate fault,
        WarmSpot spot,
        List<Rung> rungs,
        Optional<Integer> enough) {
    private static final double[] AMPS = {0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 3, 4.5, 6};
    /** One long exposure. */
    public static final double SECONDS = 8;

    private static final double FOOTPRINT_MM = 0.4;
    private static final double SILENT_VOLTS = 0.3;
    /** Above what the fault's watts would unsolder it or scorch the board. */
    private static final double MOST_RISE_K = 60;

    private static final double HEADROOM = 1.15;
    /** Steps that warm nothing visible are passed over. */
    private static final double WORTH_K = 0.1;

    private static final int PULSES = 10;
    private static final double PULSE_S = 1;
    private static final double LIMIT_AT_RAIL_AMPS = 1;

    /** Why a rung is where the climbing ends. */
    public enum StopWhen {
        SHARP_ENOUGH,
        ANYTHING_WARMS,
        LEADS_AT_THEIR_RATING,
        SUPPLY_AT_ITS_END,
        CEILING_REACHED,
        HOT_ENOUGH
    }

    /** The short as far as it is known. @param ohms likeliest @param low one end of two sigma @param high the other */
    public record Estimate(double ohms, double low, double high) {
        public Estimate {
            if (!(low >= 0 && low <= ohms && ohms <= high)) {
                throw new IllegalArgumentException("must be 0 ≤ low ≤ ohms ≤ high");
            }
        }
    }

    /**
     * One step.
     *
     * @param pulses 0 for one long exposure of {@code seconds}; else so many of a second on, a second off
     * @param volts what the supply will show
     * @param amps likewise
     * @param watts released at the fault, for the likeliest resistance
     * @param wattsLow for the low end; a harder short is colder
     * @param silent whether nothing but the short conducts at these volts
     * @param sigmaMm of the place, one sigma, for the hard end of the resistance
     * @param surety signal over noise and clutter of the picture; 5 is seen
     */
    public record Rung(
            double setVolts,
            double limitAmps,
            double seconds,
            int pulses,
            double volts,
            double amps,
            double watts,
            double wattsLow,
            double riseK,
            double sigmaMm,
            double surety,
            boolean silent,
            StopWhen stopWhen) {}

    public InjectionPlan {
        rungs = List.copyOf(rungs);
    }

    /** What a setting would do. */
    public record Expected(double volts, double amps, double watts, double wattsLow, boolean limited) {}

    /** The supply holds the lower of its two limits. */
    public static Expected expect(Estimate fault, double leadOhms, double setVolts, double limitAmps) {
        double amps = Math.min(limitAmps, setVolts / (fault.ohms() + leadOhms));
        double ampsLow = Math.min(limitAmps, setVolts / (fault.low() + leadOhms));
        return new Expected(
                amps * (fault.ohms() + leadOhms),
                amps,
                amps * amps * fault.ohms(),
                Math.min(amps * amps * fault.ohms(), ampsLow * ampsLow * fault.low()),
                amps >= limitAmps * 0.999);
    }

    /**
     * @param rail the shorted net
     * @param joined the nets that anything conducts to from it
     * @param wantedMm how sharply the place must be told, one sigma
     */
    public static InjectionPlan of(
            BoardIndex board,
            String rail,
            Set<String> joined,
            Estimate fault,
            Means.Leads leads,
            Means.Bench bench,
            Means.Camera camera,
            double wantedMm,
            Schools.Injection school) {
        String ceilingNet = rail;
        double ceiling = nominal(board, rail).orElse(1);
        for (String net : joined) {
            OptionalDouble volts = nominal(board, net);
            if (volts.isPresent() && volts.getAsDouble() < ceiling) {
                ceiling = volts.getAsDouble();
                ceilingNet = net;
            }
        }
        SlabParameters slab = SlabParameters.expected(board.board());
        WarmSpot spot = new WarmSpot(slab, camera, true, SECONDS, FOOTPRINT_MM);
        List<Rung> rungs = new ArrayList<>();
        double mostVolts = Math.min(ceiling, bench.mostVolts());
        if (school == Schools.Injection.RAIL_VOLTAGE) {
            for (double amps : new double[] {0.5, LIMIT_AT_RAIL_AMPS, 2}) {
                if (amps <= Math.min(leads.ratedAmps(), bench.mostAmps())) {
                    rungs.add(rung(fault, leads, mostVolts, amps, spot, 0, wantedMm, StopWhen.ANYTHING_WARMS));
                }
            }
        } else {
            climb(rungs, fault, leads, bench, mostVolts, spot, wantedMm);
        }
        Optional<Integer> enough = firstSharp(rungs);
        if (enough.isEmpty() && !rungs.isEmpty()) {
            Rung last = rungs.get(rungs.size() - 1);
            WarmSpot pulse = new WarmSpot(slab, camera, true, PULSE_S, FOOTPRINT_MM);
            rungs.add(rung(
                    fault, leads, last.setVolts(), last.limitAmps(), pulse, PULSES, wantedMm, StopWhen.ANYTHING_WARMS));
            enough = firstSharp(rungs);
        }
        return new InjectionPlan(ceiling, ceilingNet, fault, spot, rungs, enough);
    }

    private static Optional<Integer> firstSharp(List<Rung> rungs) {
        for (int i = 0; i < rungs.size(); i++) {
            if (rungs.get(i).stopWhen() == StopWhen.SHARP_ENOUGH) {
                return Optional.of(i);
            }
        }
        return Optional.empty();
    }

    private static OptionalDouble nominal(BoardIndex board, String net) {
        return board.net(net).map(Net::nominalVolts).orElse(OptionalDouble.empty());
    }

    private static void climb(
            List<Rung> rungs,
            Estimate fault,
            Means.Leads leads,
            Means.Bench bench,
            double mostVolts,
            WarmSpot spot,
            double wantedMm) {
        for (double amps : AMPS) {
            StopWhen stop = StopWhen.ANYTHING_WARMS;
            double limit = amps;
            if (limit >= leads.ratedAmps()) {
                limit = leads.ratedAmps();
                stop = StopWhen.LEADS_AT_THEIR_RATING;
            }
            if (limit >= bench.mostAmps()) {
                limit = bench.mostAmps();
                stop = StopWhen.SUPPLY_AT_ITS_END;
            }
            double needed = HEADROOM * limit * (fault.high() + leads.ohms());
            double volts = Math.min(mostVolts, Math.max(SILENT_VOLTS, round(needed)));
            if (volts >= mostVolts) {
                stop = stop == StopWhen.ANYTHING_WARMS ? StopWhen.CEILING_REACHED : stop;
            }
            Rung rung = rung(fault, leads, volts, limit, spot, 0, wantedMm, stop);
            if (rung.riseK() > MOST_RISE_K) {
                return;
            }
            if (rung.riseK() < WORTH_K && stop == StopWhen.ANYTHING_WARMS) {
                continue;
            }
            boolean same =
                    !rungs.isEmpty() && Math.abs(rungs.get(rungs.size() - 1).amps() - rung.amps()) < 0.05 * rung.amps();
            if (!same) {
                rungs.add(rung);
            }
            if (stop != StopWhen.ANYTHING_WARMS || rung.stopWhen() == StopWhen.SHARP_ENOUGH) {
                return;
            }
        }
    }

    private static double round(double volts) {
        return Math.ceil(volts * 20) / 20;
    }

    private static Rung rung(
            Estimate fault,
            Means.Leads leads,
            double setVolts,
            double limitAmps,
            WarmSpot spot,
            int pulses,
            double wantedMm,
            StopWhen stop) {
        Expected e = expect(fault, leads.ohms(), setVolts, limitAmps);
        int exposures = Math.max(1, pulses);
        double sigma = spot.expectedSigmaMm(e.wattsLow(), exposures);
        double surety = spot.expectedSurety(e.wattsLow(), exposures);
        boolean sharp = sigma <= wantedMm && surety >= WarmSpot.SEEN;
        double rise = spot.riseK(e.watts());
        return new Rung(
                setVolts,
                limitAmps,
                pulses > 0 ? PULSE_S : SECONDS,
                pulses,
                e.volts(),
                e.amps(),
                e.watts(),
                e.wattsLow(),
                rise,
                sigma,
                surety,
                e.volts() < SILENT_VOLTS,
                sharp ? StopWhen.SHARP_ENOUGH : rise > MOST_RISE_K / 2 ? StopWhen.HOT_ENOUGH : stop);
    }
}
