package ohmoscope.core.rework;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/**
 * What a bench has for taking parts off.
 *
 * @param lowMelt low-melting alloy that is mixed into the joints
 * @param screens sheet metal or foil to stand over neighbours
 * @param tape polyimide tape: it holds small parts in their melted solder, and hardly keeps heat from them
 */
public record Kit(
        Optional<Air> air,
        Optional<Iron> iron,
        Optional<Preheater> preheater,
        boolean lowMelt,
        boolean screens,
        boolean tape) {
    /** What most benches have. */
    public static final Kit USUAL = new Kit(
            Optional.of(new Air(List.of(4.0, 6.0, 10.0), 450, 30)),
            Optional.of(new Iron(400)),
            Optional.of(new Preheater(150)),
            true,
            true,
            true);

    /**
     * Hot air.
     *
     * @param nozzlesMm inner diameters, ascending
     * @param mostC highest setting
     * @param litresPerMin what it blows at the setting used for small parts, as cold air
     */
    public record Air(List<Double> nozzlesMm, double mostC, double litresPerMin) {
        private static final int MOST_NOZZLES = 20;

        public Air {
            if (nozzlesMm.isEmpty()) {
                throw new InvalidMember(
                        "air.nozzles_mm", "names no nozzle: give their inner diameters, or leave air out");
            }
            Check.atMost("air.nozzles_mm", nozzlesMm.size(), MOST_NOZZLES);
            nozzlesMm.forEach(d -> Check.within("air.nozzles_mm", d, 1, 40));
            nozzlesMm = nozzlesMm.stream().sorted().distinct().toList();
            Check.within("air.most_c", mostC, 150, 600);
            Check.within("air.litres_per_min", litresPerMin, 2, 200);
        }
    }

    /** An iron, or heated tweezers. @param mostC highest setting */
    public record Iron(double mostC) {
        public Iron {
            Check.within("iron.most_c", mostC, 150, 500);
        }
    }

    /** Heat from below. @param mostC of the board's lower face */
    public record Preheater(double mostC) {
        public Preheater {
            Check.within("preheater.most_c", mostC, 50, 250);
        }
    }
}
