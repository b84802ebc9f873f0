package ohmoscope.core.reading;

/** The numbers that part one statement from another: in one place, so that no page has its own. */
public final class Thresholds {
    /**
     * Ω. Below it nothing but a short reads: a part's own ends with copper and probes make 0.1–0.5 Ω, the lowest good rail
     * above a core some tens of ohms.
     */
    public static final double DEAD_OHMS = 2;

    /**
     * V. The same in diode mode: a meter's usual 1 mA through that is some millivolts, its last digits and contacts add as
     * much again; the softest junction reads far more.
     */
    public static final double DEAD_DIODE_VOLTS = 0.035;

    /** V. Where nothing is stated: no junction alone is that low. */
    public static final double LOW_DIODE_VOLTS = 0.1;

    /** Ω. Where nothing is stated, a rail above a core is low below it; a good rail below it is low by design. */
    public static final double LOW_OHMS = 20;

    /** V. Rails up to this nominal voltage feed a core, and cores read a few ohms. */
    public static final double CORE_VOLTS = 1.3;

    /** Ω. What a good core reads at least, where nothing is stated. */
    public static final double CORE_LEAST_OHMS = 0.8;

    /** V. Above it, where nothing is stated, a core's rail may be whole in diode mode. */
    public static final double CORE_LEAST_DIODE_VOLTS = 0.0005;

    /**
     * Share of a stated range's lower end that good boards, probes and warm rooms still reach: a junction loses 2 mV a
     * kelvin, and boards differ by a tenth.
     */
    public static final double RANGE_SLACK = 0.8;

    /** Times a stated range's upper end: beyond, a rail has lost something that should conduct. */
    public static final double ABOVE_OHMS_FACTOR = 2;

    /** The same in diode mode. */
    public static final double ABOVE_DIODE_FACTOR = 1.3;

    /** Ω. Below it a beeper sounds; usual meters say 30–50 Ω. */
    public static final double BEEP_OHMS = 40;

    /** Ω. What a beep stands for that came without a number. */
    public static final double BEEP_ALONE_OHMS = 0.5;

    /** Share of a low rail's least ohms: a number beside a beep that is below it tells a short. */
    public static final double BEEP_SHORT_SHARE = 0.4;

    /** Lines of one port are alike when each reads at least this share of the other. */
    public static final double ALIKE_SHARE = 0.8;

    /** Below this share of its sisters, or above its reciprocal, a line is wrong. */
    public static final double FAR_SHARE = 0.5;

    /** As many lines that read alike make a rule. */
    public static final int LEAST_SISTERS = 2;

    /** Powered: from this share of the voltage that belongs there on, a rail stands. */
    public static final double PRESENT_SHARE = 0.85;

    /** Powered: up to this share nothing is there. */
    public static final double ABSENT_SHARE = 0.15;

    /** Above this times its own voltage a battery's net is fed from elsewhere. */
    public static final double BACKFED_FACTOR = 1.15;

    /** Ω. A part of up to this value that reads over range is open. */
    public static final double CONDUCTS_OHMS = 20_000;

    /** Times its value, and {@link #OPEN_OHMS} more, a part is open. */
    public static final double OPEN_FACTOR = 50;

    public static final double OPEN_OHMS = 200;

    /** Times its value, and {@link #OFF_VALUE_OHMS} more for contacts, a part is off its value. */
    public static final double OFF_VALUE_FACTOR = 1.4;

    public static final double OFF_VALUE_OHMS = 0.6;

    /** V. Below it the ends of a diode, switch or capacitor are joined. */
    public static final double JOINED_DIODE_VOLTS = 0.03;

    /** A. Less than this, a supply's own last digits, is no current. */
    public static final double NO_CURRENT_AMPS = 0.0025;

    /** Ω. A pair of ordinary leads with clips, when nobody measured them, and one standard deviation of that. */
    public static final double USUAL_LEAD_OHMS = 0.06;

    public static final double USUAL_LEAD_SIGMA_OHMS = 0.03;

    /** Ω. Shorts are seldom harder than this: the part's own ends, its pads and the copper to them. */
    public static final double LEAST_SHORT_OHMS = 0.004;

    private Thresholds() {}
}
