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

    /** A. Less flows into a device that takes nothing: a meter's last digits, a divider. */
    public static final double NO_DRAW_AMPS = 0.004;

    /** A. The same at a voltage that was asked for: the port's own chips take so much of it. */
    public static final double NO_DRAW_WHILE_WAITING_AMPS = 0.015;

    /** A. A device that is off takes less than this from the place of its cell, where nobody states its standby. */
    public static final double OFF_AMPS = 0.1;

    /** A. A steady draw below it goes nowhere at a first voltage: controllers and always-on rails without the rest. */
    public static final double STUCK_AMPS = 0.16;

    /** A. The same at a voltage that was asked for, where as many watts are a quarter of the amperes. */
    public static final double STUCK_AT_HIGH_VOLTS_AMPS = 0.03;

    /** A. More than any charger of this size is meant to give, where nobody states what the device takes. */
    public static final double EXCESSIVE_AMPS = 3.6;

    /** W. Without a cell to charge a device that starts takes less, where nobody states what it runs on. */
    public static final double RUNS_WITHOUT_CELL_WATTS = 50;

    /** V. A first voltage of 5 V, as a source gives before anything is negotiated, with its tolerance and its cable. */
    public static final double FIRST_VOLTS_LOW = 4.3;

    public static final double FIRST_VOLTS_HIGH = 5.7;

    /** V. A device that wants at least this negotiates for it, or has an adapter that gives nothing else. */
    public static final double NEGOTIATED_VOLTS = 8;

    /** A source below this share of its own voltage gives way. */
    public static final double SAGGED_SHARE = 0.7;

    /** Without a cell to charge a device takes what it runs on, and no more than this times it. */
    public static final double RUN_SLACK = 1.2;

    /** A device that was told to start and takes less than this share of what it runs on does not run. */
    public static final double RUNS_SHARE = 0.6;

    /** Times the reading of a short: from there on a second reading of the same point has moved. */
    public static final double RISEN_FACTOR = 5;

    /** Where nobody says what a good board reads, a reading that was no short must have risen by this to tell. */
    public static final double TELLING_FACTOR = 1.5;

    private Thresholds() {}
}
