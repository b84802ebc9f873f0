package ohmoscope.core.prove;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.locate.LocateSettings;

/**
 * What meter and camera come to together. The frames weigh the rail's parts against each other, with the meter's word on
 * each as their prior; that anything of the rail warmed at all they only know from a prior of their own. The meter knows
 * better: faults that make nothing warm (an open part, a battery, none) stand against all that do.
 *
 * @param warm that something of the rail, or beside it, is shorted, from 0 to 1
 * @param frames what a probability of the frames is to be multiplied with
 * @param others what a probability of the meter for a fault that warms nothing is to be multiplied with
 */
public record Posterior(double warm, double frames, double others) {
    private static final Set<Code> WARMS = Set.of(Code.SHORT, Code.LEAKY, Code.DAMAGED_PORT);
    /** Nobody is surer than that that frames show nothing, or something. */
    private static final double SUREST = 1e-6;
    /** However sure the readings are: a lead that slipped, a short that went away by itself, a reading taken elsewhere. */
    private static final double METER_ERRS = 0.02;

    /** Whether current into the rail makes such a fault warm. */
    public static boolean warms(Hypothesis fault) {
        return WARMS.contains(fault.code());
    }

    /**
     * Bayes' rule on whether anything warms: the meter's odds, times what the frames say of it beyond their own prior.
     *
     * @param none what the frames give to nothing having warmed
     * @return empty where the meter knows of no fault
     */
    public static Optional<Posterior> of(double none, List<Hypothesis> faults) {
        double shorts = faults.stream()
                .filter(Posterior::warms)
                .mapToDouble(Hypothesis::probability)
                .sum();
        double rest = faults.stream()
                .filter(h -> !warms(h))
                .mapToDouble(Hypothesis::probability)
                .sum();
        if (shorts + rest <= 0) {
            return Optional.empty();
        }
        double believed = Math.max(SUREST, Math.min(1 - SUREST, none));
        double prior = LocateSettings.DEFAULT.nonePrior();
        double told = (1 - believed) / believed * prior / (1 - prior);
        double cold = Math.max(rest, METER_ERRS * (shorts + rest));
        double warm = shorts * told / (shorts * told + cold);
        return Optional.of(new Posterior(warm, warm / (1 - believed), (1 - warm) / cold));
    }
}
