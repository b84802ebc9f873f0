package ohmoscope.core.diagnose;

import ohmoscope.core.board.Check;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * Where practitioners differ and both ways work: a technician's choices.
 *
 * @param leadRatedAmps what the technician's own leads carry, amperes
 */
public record Schools(
        Meter meter,
        Lead lead,
        Proof proof,
        Injection injection,
        Port port,
        Warmth warmth,
        Memory memory,
        double leadRatedAmps) {
    /** Jumper wires and clips carry more than this badly. */
    private static final double USUAL_LEAD_AMPS = 5;

    /**
     * Diode mode by itself: its current lifts a rail above what a leaky junction hides, and a good board's reading is
     * sharper than its ohms. Red on ground: a chip's own junctions conduct. Meter first: it needs no current. Low and
     * climb: never over nominal, and below a junction's knee only the short conducts. Measure first: a port that looks
     * whole is seldom at fault. Camera: no liquid near current, no finger near heat. Memory heard: what others of a model had is
     * tried first, by a reading.
     */
    public static final Schools DEFAULT =
            new Schools(Meter.DIODE, Lead.RED, Proof.METER, Injection.LOW_AND_CLIMB, Port.MEASURE_FIRST, Warmth.CAMERA);

    public Schools {
        Check.positive("lead_rated_a", leadRatedAmps);
    }

    public Schools(Meter meter, Lead lead, Proof proof, Injection injection, Port port, Warmth warmth) {
        this(meter, lead, proof, injection, port, warmth, Memory.HEARD, USUAL_LEAD_AMPS);
    }

    /** The mode of an unpowered reading. */
    public ReadMode readMode() {
        return meter == Meter.DIODE ? ReadMode.DIODE : ReadMode.OHMS;
    }

    /** How a rail is read, unpowered. */
    public enum Meter {
        DIODE,
        OHMS
    }

    /** Which lead rests on ground. */
    public enum Lead {
        RED,
        BLACK
    }

    /** What shows that a rail is shorted. */
    public enum Proof {
        METER,
        SUPPLY
    }

    /** How current is put into a shorted rail. */
    public enum Injection {
        LOW_AND_CLIMB,
        RAIL_VOLTAGE
    }

    /** What is done about a port that looks whole on a shorted rail. */
    public enum Port {
        MEASURE_FIRST,
        OFF_FIRST
    }

    /** Whether what earlier jobs of the model had is heard. */
    public enum Memory {
        HEARD,
        NOT_HEARD
    }

    /** How warmth is found. */
    public enum Warmth {
        CAMERA,
        LIQUID,
        TOUCH,
        FROST
    }
}
