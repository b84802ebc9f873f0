package ohmoscope.core.locate;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.search.PredictedPicture;

/**
 * What a bundle's frames and supply log say.
 *
 * @param suspects most probable first, at most 20; the sum of probabilities is at most 1
 * @param noneProbability that nothing but leads and series parts warmed; with the verdict {@code NONE} and less than a
 *     half, the frames could not tell, and the suspects stand as before
 * @param elsewhereProbability that something warmed which is no candidate of this rail
 * @param warnings in the enum's order, each with the number it speaks of where there is one
 * @param captures what the camera did, in the captures' order
 * @param slab the board's heat parameters as the movie fitted them
 * @param heats the leading suspects, each as if it were the fault, and what warms besides; for {@link PredictedPicture}
 * @param standsOut what the pictures say by themselves; empty where nothing rises
 * @param seenFromWatts from how many watts at a fault on nine in ten of the parts in view would have been seen to warm
 */
public record LocateResult(
        Verdict verdict,
        List<Suspect> suspects,
        double noneProbability,
        double elsewhereProbability,
        Optional<SourceEstimate> source,
        Optional<FaultResistance> resistance,
        Map<Warning, Double> warnings,
        List<CaptureFinding> captures,
        SlabParameters slab,
        List<FittedHeat> heats,
        Optional<StandsOut> standsOut,
        OptionalDouble seenFromWatts) {
    /** Nothing is never called below this probability, which is above what it has before any frame; blind results are. */
    public static final double NONE_FROM = 0.1;

    /** From here on nothing is called whatever stands beside it. */
    public static final double NONE_AT_ONCE = 0.5;

    /**
     * What one capture turned out to be.
     *
     * @param clockOffsetS the supply's clock against this capture's, as the movie fitted it; 0 where that tells nothing
     */
    public record CaptureFinding(String id, FrameScan scan, Registration registration, double clockOffsetS) {}

    /** That a part is the fault; 0 where it is not among the suspects. @param ref its reference */
    public double probability(String ref) {
        return suspects.stream()
                .filter(s -> s.part().ref().equals(ref))
                .mapToDouble(Suspect::probability)
                .findFirst()
                .orElse(0);
    }

    /** Whether no frame could tell anything: nothing was switched while a camera looked, or it did not see the board. */
    public boolean blind() {
        return blind(verdict, noneProbability);
    }

    /** The same of a result that is kept in another form. */
    public static boolean blind(Verdict verdict, double noneProbability) {
        return verdict == Verdict.NONE && noneProbability < NONE_FROM;
    }

    /**
     * Whether nothing is called only because nothing else stands out either, of a result that is kept in another form.
     */
    public static boolean onlyNothingStandsOut(Verdict verdict, double noneProbability) {
        return verdict == Verdict.NONE && noneProbability >= NONE_FROM && noneProbability < NONE_AT_ONCE;
    }

    public LocateResult {
        suspects = List.copyOf(suspects);
        warnings = java.util.Collections.unmodifiableMap(new java.util.TreeMap<>(warnings));
        captures = List.copyOf(captures);
        heats = List.copyOf(heats);
    }
}
