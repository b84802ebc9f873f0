package ohmoscope.core.diagnose;

import java.util.EnumMap;
import java.util.Map;
import ohmoscope.core.evidence.Observation.LookFinding;

/** What damage that is seen on a part says of a fault in it: likelihood ratios. */
final class Harm {
    private static final Map<LookFinding, Double> SEEN = new EnumMap<>(Map.of(
            LookFinding.BURNT, 14.0,
            LookFinding.HOLE, 20.0,
            LookFinding.CRACKED, 14.0,
            LookFinding.CHIPPED, 8.0,
            LookFinding.CORRODED, 6.0,
            LookFinding.DISCOLOURED, 6.0,
            LookFinding.WET_MARK, 2.5,
            LookFinding.EARLIER_WORK, 2.5,
            LookFinding.LOOSE, 4.0));

    /** A place that is empty is neither shorted nor leaking. */
    private static final double NOT_THERE = 0.1;

    private Harm() {}

    static double seen(LookFinding finding) {
        if (finding == LookFinding.CLEAN) {
            return FaultKind.CLEAN_PART;
        }
        return finding == LookFinding.MISSING ? NOT_THERE : SEEN.getOrDefault(finding, 1.0);
    }

    /** Of faults that show on the outside half as often. */
    static double seldomSeen(LookFinding finding) {
        boolean plain = finding == LookFinding.CLEAN || finding == LookFinding.MISSING;
        return plain ? seen(finding) : Math.sqrt(seen(finding));
    }
}
