package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ohmoscope.core.heat.SlabParameters;

/**
 * What would tell the place of the heat more sharply, in numbers: how the Cramér–Rao bound of the source's place changes
 * with camera, power and time, carried over to the sigma that this capture reached.
 */
public final class MoreHelp {
    /** The picture lies over the board to about so many pixels. */
    private static final double REGISTRATION_PX = 0.5;

    /** What no picture mends, mm. */
    public static final double UNEVEN_COPPER_MM = 0.25;

    private static final double CLOSER = 2;
    private static final double MORE_AMPS = 1.5;
    private static final double LONGER = 2;
    private static final int PULSES = 10;
    private static final double PULSE_S = 1;
    /** What mends less than this is not worth saying. */
    private static final double WORTH = 0.9;

    private static final double FOOTPRINT_MM = 0.4;
    private static final double NEEDLESS_MM = 0.05;

    private MoreHelp() {}

    /** A way to know more. */
    public enum Way {
        CLOSER,
        MORE_CURRENT,
        LONGER,
        PULSES,
        FLIP
    }

    /**
     * How the capture was taken.
     *
     * @param sigmaMm one sigma of the place as it came out, registration included
     * @param seenMm how much of that is owed to uneven copper and to what hides the place: only another view mends it
     * @param watts at the fault
     * @param amps through it
     * @param seconds how long the power was on
     * @param near whether the camera saw the side on which the heat starts
     */
    public record Now(
            SlabParameters slab,
            Means.Camera camera,
            double sigmaMm,
            double seenMm,
            double watts,
            double amps,
            double seconds,
            boolean near) {}

    /**
     * One way with what it comes to.
     *
     * @param value scale of the picture, amperes, seconds, or number of pulses; 0 for turning over
     * @param sigmaMm one sigma of the place then
     */
    public record Option(Way way, double value, double sigmaMm) {}

    /**
     * @param mostAmps what leads and supply carry
     * @return ways that help, the best first
     */
    public static List<Option> of(Now now, double mostAmps) {
        double lay =
                Math.min(0.9 * now.sigmaMm(), REGISTRATION_PX * now.camera().pixelMm());
        double seen = Math.min(0.9 * now.sigmaMm(), now.seenMm());
        double heat =
                Math.sqrt(Math.max(NEEDLESS_MM * NEEDLESS_MM, now.sigmaMm() * now.sigmaMm() - lay * lay - seen * seen));
        double bound = bound(now.slab(), now.camera(), now.near(), now.seconds(), now.watts(), 1);
        List<Option> all = new ArrayList<>();
        Means.Camera closer = new Means.Camera(
                now.camera().pixelMm() / CLOSER,
                now.camera().noiseK(),
                now.camera().framesPerS(),
                now.camera().blurMm() / CLOSER);
        double atCloser = bound(now.slab(), closer, now.near(), now.seconds(), now.watts(), 1);
        all.add(new Option(Way.CLOSER, CLOSER, together(seen, lay / CLOSER, heat * atCloser / bound)));
        double amps = Math.min(mostAmps, MORE_AMPS * now.amps());
        double stronger = Math.pow(amps / now.amps(), 2);
        all.add(new Option(Way.MORE_CURRENT, amps, together(seen, lay, heat / stronger)));
        double seconds = LONGER * now.seconds();
        double atLonger = bound(now.slab(), now.camera(), now.near(), seconds, now.watts(), 1);
        all.add(new Option(Way.LONGER, seconds, together(seen, lay, heat * atLonger / bound)));
        double atPulses = bound(now.slab(), now.camera(), now.near(), PULSE_S, now.watts(), PULSES);
        all.add(new Option(Way.PULSES, PULSES, together(seen, lay, heat * atPulses / bound)));
        if (!now.near()) {
            double atFlip = bound(now.slab(), now.camera(), true, now.seconds(), now.watts(), 1);
            all.add(new Option(Way.FLIP, 0, together(Math.min(seen, UNEVEN_COPPER_MM), lay, heat * atFlip / bound)));
        }
        return all.stream()
                .filter(o -> o.sigmaMm() < WORTH * now.sigmaMm())
                .sorted(Comparator.comparingDouble(Option::sigmaMm))
                .toList();
    }

    private static double together(double a, double b, double c) {
        return Math.sqrt(a * a + b * b + c * c);
    }

    private static double bound(
            SlabParameters slab, Means.Camera camera, boolean near, double seconds, double watts, int exposures) {
        return new WarmSpot(slab, camera, near, seconds, FOOTPRINT_MM).sigmaMm(watts) / Math.sqrt(exposures);
    }
}
