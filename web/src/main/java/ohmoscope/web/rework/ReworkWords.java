package ohmoscope.web.rework;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.rework.HeatLimit;
import ohmoscope.core.rework.LeaveOff;
import ohmoscope.core.rework.Way;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.ReworkStore;

/** A plan in words. */
final class ReworkWords {
    /** So many parts are named before the rest is counted. */
    private static final int NAMED = 6;

    private ReworkWords() {}

    static String method(Way.Method method) {
        return switch (method) {
            case COLD_LEVER -> "Lever it off cold";
            case IRON -> "Iron on both ends";
            case AIR -> "Hot air";
            case AIR_PREHEATED -> "Hot air, board warmed from below";
            case LOW_MELT -> "Low-melt alloy";
        };
    }

    static String reason(Way.Method method) {
        return switch (method) {
            case COLD_LEVER ->
                "No heat near anything and done in a minute, but one pad in ten or so tears: only for a part that is dead anyway.";
            case IRON -> "The heat stays in two pads: the board and what stands round it hardly warm.";
            case AIR -> "Reaches every joint at once. What stands near is blown at too.";
            case AIR_PREHEATED ->
                "The air has less left to do, so it can be cooler; but all that stands round starts warm.";
            case LOW_MELT ->
                "Joints stay liquid far below their usual heat. Takes the longest: mix it in, wick it off, clean.";
        };
    }

    static String limit(HeatLimit.Why why) {
        return switch (why) {
            case SENSITIVE -> "not to be overheated";
            case PLASTIC -> "plastic softens";
            case LIQUID -> "swells";
            case MOVES -> "its joints melt, it moves";
            case FLOATS -> "its solder melts: do not touch or blow it away";
            case FALLS -> "it hangs below and would fall";
        };
    }

    static String leaveOff(LeaveOff of, String ref) {
        String share =
                of.share().isPresent() ? ", " + Eng.percent(of.share().getAsDouble()) + " % of its capacitance" : "";
        if (of.regulator().isPresent()) {
            return ref + " is the only capacitor at " + of.regulator().get() + " on " + of.rail()
                    + ": it is the regulator's own. Put back the same value, size and voltage.";
        }
        String rest = of.others() == 1 ? "one capacitor stays" : of.others() + " capacitors stay";
        return of.verdict() == LeaveOff.Verdict.MAY_STAY_OFF
                ? ref + " may stay off: " + rest + " on " + of.rail() + share
                        + " goes. Above all beside a large chip that must not be heated again."
                : "Put back the same value, size and voltage: " + rest + " on " + of.rail() + share + " goes with "
                        + ref + ".";
    }

    private static String few(List<String> refs) {
        int more = refs.size() - NAMED;
        return more < 2
                ? String.join(", ", refs)
                : String.join(", ", refs.subList(0, NAMED)) + " and " + more + " more";
    }

    /** What is done before and while, in order. */
    static List<String> steps(Way way, String ref, List<String> first) {
        List<String> steps = new ArrayList<>();
        steps.add("Battery out and away, supply off. A picture of the part and its neighbours as they are.");
        first.forEach(can -> steps.add(can + " stands over it: it comes off first."));
        if (!way.screened().isEmpty()) {
            steps.add("Sheet metal or foil over " + String.join(", ", way.screened()) + ".");
        }
        if (!way.taped().isEmpty()) {
            steps.add("Tape over " + few(way.taped())
                    + ", filled on the picture: their solder melts too, and tape keeps the air from moving them. It comes"
                    + " off when all is cold.");
        }
        switch (way.method()) {
            case COLD_LEVER -> {
                steps.add("A blade under one end, along the board, never across a trace; press, do not jerk.");
                steps.add("What is left of it comes off with the iron; look at both pads.");
            }
            case IRON -> {
                steps.add("Flux. A broad tip, or two, at " + celsius(way) + " with fresh solder on both ends.");
                steps.add("Push it sideways when both are liquid: about " + seconds(way) + " s.");
            }
            case LOW_MELT -> {
                steps.add("Flux, then alloy into every joint with the iron until all of them are mixed.");
                steps.add(
                        way.nozzleMm().isPresent()
                                ? air(way)
                                : "Keep both ends liquid with the tip at " + celsius(way) + " and push it sideways.");
            }
            case AIR_PREHEATED -> {
                steps.add("Warm the board from below to "
                        + Eng.fixed(way.preheatC().orElse(0), 0) + " °C, slowly.");
                steps.add("Flux. " + air(way));
            }
            case AIR -> steps.add("Flux. " + air(way));
        }
        steps.add("Lift " + ref + " straight up when it gives to a nudge; never pull.");
        if (way.method() == Way.Method.LOW_MELT) {
            steps.add("Wick every trace of the alloy off the pads, then tin them with the usual solder.");
        }
        return steps;
    }

    private static String air(Way way) {
        return "Nozzle of " + ReworkView.millimetres(way.nozzleMm().orElse(0))
                + " mm upright, two diameters above it, at " + celsius(way) + ": the last joint melts after about "
                + seconds(way) + " s.";
    }

    private static String celsius(Way way) {
        return Eng.fixed(way.setC().orElse(0), 0) + " °C";
    }

    private static String seconds(Way way) {
        return way.meltsAtS().isPresent() ? Eng.fixed(way.meltsAtS().getAsDouble(), 0) : "?";
    }

    /** How a part came off on another board of the model, in a line. */
    static String earlier(ReworkStore.Earlier earlier) {
        ReworkStore.Done done = earlier.done();
        String set =
                done.setC().isPresent() ? ", set to " + Eng.fixed(done.setC().getAsDouble(), 0) + " °C" : "";
        String nozzle = done.nozzleMm().isPresent()
                ? ", nozzle " + Eng.significant(done.nozzleMm().getAsDouble(), 2) + " mm"
                : "";
        String took = done.tookS().isPresent()
                ? ", off after " + Eng.fixed(done.tookS().getAsDouble(), 0) + " s"
                : "";
        return done.ref() + " on " + earlier.job() + set + nozzle + took;
    }
}
