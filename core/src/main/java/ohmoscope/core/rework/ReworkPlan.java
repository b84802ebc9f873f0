package ohmoscope.core.rework;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;

/**
 * How a part comes off.
 *
 * @param ways safe ones first, then by what they may be expected to cost; at least one
 * @param first cans and covers that have to come off before, references
 * @param bridges pairs of neighbouring pads that are listened to afterwards: they must not beep
 */
public record ReworkPlan(Part part, List<Way> ways, List<String> first, List<Bridge> bridges) {
    /** Two pads side by side on different nets. */
    public record Bridge(String pinA, String netA, String pinB, String netB) {
        /** Farther than so many pitches apart solder does not run from one to the other. */
        private static final double PITCHES = 1.3;

        /** Neighbouring pads on different nets. O(pins squared). */
        public static List<Bridge> of(Part part) {
            List<Bridge> bridges = new ArrayList<>();
            List<Pin> pins = part.pins();
            double reach = PITCHES * pitchMm(pins);
            for (int i = 0; i < pins.size(); i++) {
                for (int j = i + 1; j < pins.size(); j++) {
                    Pin a = pins.get(i);
                    Pin b = pins.get(j);
                    if (!a.net().equals(b.net()) && apartMm(a, b) <= reach) {
                        bridges.add(new Bridge(a.name(), a.net(), b.name(), b.net()));
                    }
                }
            }
            return bridges;
        }

        private static double pitchMm(List<Pin> pins) {
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < pins.size(); i++) {
                for (int j = i + 1; j < pins.size(); j++) {
                    least = Math.min(least, apartMm(pins.get(i), pins.get(j)));
                }
            }
            return least;
        }

        private static double apartMm(Pin a, Pin b) {
            return Math.hypot(a.xMm() - b.xMm(), a.yMm() - b.yMm());
        }
    }

    public ReworkPlan {
        ways = List.copyOf(ways);
        first = List.copyOf(first);
        bridges = List.copyOf(bridges);
    }

    /** The best way, where it is safe. */
    public Optional<Way> best() {
        return ways.stream().findFirst().filter(Way::safe);
    }
}
