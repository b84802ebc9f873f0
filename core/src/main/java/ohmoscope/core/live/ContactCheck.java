package ohmoscope.core.live;

import java.util.OptionalDouble;
import ohmoscope.core.instrument.Supply;

/**
 * A pulse of a tenth of an ampere before anything else: do the leads touch, the right way round, what they are meant to?
 *
 * @param outcome what it says
 * @param ohms beyond the leads, as the supply sees it; empty where nothing flowed
 * @param meterVolts at the board while it flowed; empty without a meter
 */
public record ContactCheck(Outcome outcome, OptionalDouble ohms, OptionalDouble meterVolts) {
    /** What the pulse may flow at most. */
    public static final double AMPS = 0.1;
    /** What it is driven with: below what any junction conducts at. */
    public static final double VOLTS = 0.3;

    public static final double SECONDS = 0.6;

    private static final double FED_VOLTS = 0.05;
    private static final double NOTHING_A = 0.003;
    private static final double BACKWARDS_VOLTS = 0.004;
    private static final double DROP_VOLTS = 0.02;
    private static final double MOST_LEAD_OHMS = 1.5;

    /** Worst first. */
    public enum Outcome {
        /** Volts stand on the rail though nothing is switched on: battery, charger or a second supply. */
        FED_ALREADY(false),
        /** The meter sees the rail below ground: leads the wrong way round. */
        BACKWARDS(false),
        /** Nothing flows: a lead does not touch, or the rail is not shorted. */
        OPEN(false),
        /** Far more volts at the supply than at the board: a bad contact. */
        BAD_CONTACT(false),
        /** It flows, and the board sees it. */
        TOUCHING(true),
        /** It flows; without a meter no more can be said. */
        FLOWS(true);

        private final boolean goOn;

        Outcome(boolean goOn) {
            this.goOn = goOn;
        }

        /** Whether current may follow. */
        public boolean goOn() {
            return goOn;
        }
    }

    /** Whether the rail has volts of its own, before anything is switched on. @param meterVolts empty without a meter */
    public static boolean fedAlready(OptionalDouble meterVolts) {
        return meterVolts.isPresent() && Math.abs(meterVolts.getAsDouble()) > FED_VOLTS;
    }

    /** A rail that is fed already is not fed once more. */
    public static ContactCheck refused(OptionalDouble meterVolts) {
        return new ContactCheck(Outcome.FED_ALREADY, OptionalDouble.empty(), meterVolts);
    }

    /**
     * @param flowing what the supply shows during the pulse
     * @param meterVolts between rail and ground at the same time; empty without a meter
     * @param leadOhms both leads
     */
    public static ContactCheck of(Supply.Shown flowing, OptionalDouble meterVolts, double leadOhms) {
        if (flowing.amps() < NOTHING_A) {
            return new ContactCheck(Outcome.OPEN, OptionalDouble.empty(), meterVolts);
        }
        OptionalDouble ohms = OptionalDouble.of(Math.max(0, flowing.volts() / flowing.amps() - leadOhms));
        if (meterVolts.isEmpty()) {
            return new ContactCheck(Outcome.FLOWS, ohms, meterVolts);
        }
        double board = meterVolts.getAsDouble();
        if (board < -BACKWARDS_VOLTS) {
            return new ContactCheck(Outcome.BACKWARDS, ohms, meterVolts);
        }
        double drop = flowing.volts() - board;
        boolean bad = drop > DROP_VOLTS + 3 * leadOhms * flowing.amps() || drop / flowing.amps() > MOST_LEAD_OHMS;
        return new ContactCheck(bad ? Outcome.BAD_CONTACT : Outcome.TOUCHING, ohms, meterVolts);
    }
}
