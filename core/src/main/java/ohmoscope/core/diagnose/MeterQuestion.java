package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.MeterAccuracy;
import ohmoscope.core.reading.Thresholds;

/**
 * What a meter showed at one point of the unpowered board, in one mode and one state.
 *
 * @param confirmed whether it showed so twice
 */
record MeterQuestion(Meter meter, BoardState state, List<Read> reads, boolean confirmed, Predictor predictor)
        implements Question {
    /** The chance that a number was misread, or the probe was not where it should have been. */
    static final double WRONG_READING = 0.02;
    /** The same of one that was taken twice: the probe may stand wrong both times. */
    private static final double WRONG_TWICE = 0.003;

    /** With a cell on the board the meter shows the cell's volts as well as its own, or nothing that means anything. */
    private static final double WRONG_WITH_SOURCE = 0.97;

    private static final MeterAccuracy METER = MeterAccuracy.USUAL;
    private static final double OHMS_OFFSET = 0.3;
    private static final double BEEP_RIGHT = 0.96;
    private static final double TOP_OHMS = 40e6;
    private static final double DIODE_TOP_VOLTS = 2.3;
    private static final double NOT_CONDUCTING_OHMS = 500;
    /** Chips that nobody describes join the ends of an open part by so many times less than what is known does. */
    private static final double UNKNOWN_PATHS = 100;

    @Override
    public Set<String> nets() {
        return predictor.bridged(meter, state);
    }

    @Override
    public Optional<Set<String>> opened() {
        return Optional.of(predictor.opened(meter));
    }

    @Override
    public double of(List<Fault> faults) {
        Band band = predictor.read(meter, state, faults);
        double sum = 0;
        for (Read read : reads) {
            sum += of(read, turned(read) ? lower(band, predictor.read(meter.turned(), state, faults)) : band);
        }
        return sum;
    }

    /** Across a part in diode mode nobody says which lead is where: they are turned until it conducts. */
    private static boolean turned(Read read) {
        return read.across().isPresent() && read.mode() == ReadMode.DIODE;
    }

    private static Band lower(Band one, Band other) {
        return one.low() <= other.low() ? one : other;
    }

    @Override
    public double most() {
        return reads.stream().mapToDouble(this::most).sum();
    }

    private double most(Read read) {
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        if (read.mode() == ReadMode.CONTINUITY && (value == 0 || value == 1)) {
            return Math.log(beepRight());
        }
        return Math.log(
                meter.mode() == Meter.Mode.DIODE_VOLTS
                        ? Density.mixed(
                                Density.peak(Math.min(value, DIODE_TOP_VOLTS), METER.diodeVolts(), METER.diodeShare()),
                                wrong(),
                                DIODE_TOP_VOLTS)
                        : Density.mixed(Density.peak(METER.ohmsShare()), wrong(), Math.log(TOP_OHMS / OHMS_OFFSET)));
    }

    private double of(Read read, Band band) {
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        if (read.mode() == ReadMode.CONTINUITY && (value == 0 || value == 1)) {
            return Math.log(beeps(band) == (value == 1) ? beepRight() : 1 - beepRight());
        }
        return Math.log(density(meter.mode(), value, read.across().isPresent() ? apart(band) : band));
    }

    private double wrong() {
        return state.battery() ? WRONG_WITH_SOURCE : confirmed ? WRONG_TWICE : WRONG_READING;
    }

    private double beepRight() {
        return state.battery() ? 1 - 0.5 * WRONG_WITH_SOURCE : BEEP_RIGHT;
    }

    private static boolean beeps(Band band) {
        return Math.sqrt(Math.max(band.low(), 1e-3) * Math.min(band.high(), TOP_OHMS)) < Thresholds.BEEP_OHMS;
    }

    /** Across a part that does not conduct a meter sees what else joins its ends: anything from a little to nothing. */
    private static Band apart(Band band) {
        return band.low() > NOT_CONDUCTING_OHMS ? new Band(band.low() / UNKNOWN_PATHS, Double.POSITIVE_INFINITY) : band;
    }

    /** Density of a meter's value when good boards would show {@code band}. */
    private double density(Meter.Mode mode, double value, Band band) {
        if (mode == Meter.Mode.DIODE_VOLTS) {
            double x = Math.min(value, DIODE_TOP_VOLTS);
            double low = Math.min(band.low(), DIODE_TOP_VOLTS);
            double high = Math.min(band.high(), DIODE_TOP_VOLTS);
            double sigma = METER.sigmaDiodeVolts(Math.min(x, high));
            return Density.mixed(Density.smeared(x, low, high, sigma), wrong(), DIODE_TOP_VOLTS);
        }
        double x = Math.log(Math.max(0, Math.min(value, TOP_OHMS)) + OHMS_OFFSET);
        double low = Math.log(Math.min(band.low(), TOP_OHMS) + OHMS_OFFSET);
        double high = Math.log(Math.min(band.high(), TOP_OHMS) + OHMS_OFFSET);
        double sigma =
                Math.hypot(METER.ohmsShare(), METER.contactOhms() / (Math.min(band.low(), TOP_OHMS) + OHMS_OFFSET));
        return Density.mixed(Density.smeared(x, low, high, sigma), wrong(), Math.log(TOP_OHMS / OHMS_OFFSET));
    }
}
