package ohmoscope.core.reading;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.ReadPoint;

/** Reads a value against what belongs there. Made once a board, in O(pins); each reading then takes no time to speak of. */
public final class Interpreter {
    private static final MeterAccuracy METER = MeterAccuracy.USUAL;
    /** What good boards read differs by about this where only one end of a range is known. */
    private static final double SPREAD = 0.05;

    private final BoardIndex board;
    /** Lines that a coil joins to a rail which is low by design. */
    private final Set<String> besideCore = new HashSet<>();

    public Interpreter(Board board) {
        this(new BoardIndex(board));
    }

    public Interpreter(BoardIndex board) {
        this.board = board;
        for (Part part : board.parts()) {
            boolean core = board.role(part) == Role.SERIES
                    && board.powerNets(part).stream()
                            .flatMap(n -> board.net(n).stream())
                            .anyMatch(Interpreter::lowByDesign);
            if (core) {
                part.pins().stream()
                        .map(Pin::net)
                        .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                        .forEach(besideCore::add);
            }
        }
    }

    /** What a good board reads in a mode, where that is stated. */
    public static Optional<Range> expected(Net net, ReadMode mode) {
        return switch (mode) {
            case DIODE -> net.expect().flatMap(Expectation::diodeVolts);
            case OHMS, CONTINUITY -> net.expect().flatMap(Expectation::ohms);
            default -> Optional.empty();
        };
    }

    /** The same at a reading's point. */
    public Optional<Range> expected(Read read) {
        return ReadPoint.netOf(board.board(), read).flatMap(board::net).flatMap(net -> expected(net, read.mode()));
    }

    /** Whether this is a reading that a source is no part of, from a net to ground. */
    public boolean comparable(Read read) {
        return read.power().isEmpty()
                && read.across().isEmpty()
                && read.mode() != ReadMode.VOLTS
                && read.mode() != ReadMode.VOLTS_AC
                && read.to().map(board::isGround).orElse(true);
    }

    /** @return empty for a powered reading, one across a part, or where no net but ground is under the probe */
    public Optional<Interpretation> unpowered(Read read) {
        return comparable(read)
                ? ReadPoint.netOf(board.board(), read)
                        .flatMap(board::net)
                        .filter(n -> n.kind() != NetKind.GROUND)
                        .map(n -> unpowered(n, read.mode(), read.value().orElse(Double.POSITIVE_INFINITY)))
                : Optional.empty();
    }

    /** @param value in the mode's unit; infinite for over range; in continuity 1 and 0 stand for a beep and none */
    public Interpretation unpowered(Net net, ReadMode mode, double value) {
        return switch (mode) {
            case DIODE -> diode(net, value);
            case CONTINUITY -> ohms(net, beep(value), true);
            case OHMS -> ohms(net, value, false);
            default -> throw new IllegalArgumentException("a reading in " + mode + " is not unpowered");
        };
    }

    /** What flowed from a supply comes to so many ohms. */
    public Interpretation ohms(Net net, double ohms) {
        return ohms(net, ohms, false);
    }

    /** A continuity value is in ohms, but 1 and 0 stand for a beep and none. */
    public static double beep(double value) {
        return value == 0 ? Double.POSITIVE_INFINITY : value == 1 ? Thresholds.BEEP_ALONE_OHMS : value;
    }

    public static boolean core(Net net) {
        return net.kind() == NetKind.POWER && net.nominalVolts().orElse(99) <= Thresholds.CORE_VOLTS;
    }

    private static boolean lowByDesign(Net net) {
        return core(net)
                || net.expect()
                        .flatMap(Expectation::ohms)
                        .map(r -> r.low() < Thresholds.LOW_OHMS)
                        .orElse(false);
    }

    private Interpretation diode(Net net, double volts) {
        Optional<Range> range = net.expect().flatMap(Expectation::diodeVolts);
        double sigma = METER.sigmaDiodeVolts(Math.min(volts, 3));
        boolean beside = besideCore.contains(net.name());
        boolean core = range.isEmpty() && core(net);
        double least = range.map(r -> r.low() * Thresholds.RANGE_SLACK)
                .orElse(core || beside ? Thresholds.CORE_LEAST_DIODE_VOLTS : Thresholds.LOW_DIODE_VOLTS);
        double spread = Math.hypot(sigma, SPREAD * least);
        double shorted = least > Thresholds.DEAD_DIODE_VOLTS ? below(volts, Thresholds.DEAD_DIODE_VOLTS, sigma) : 0;
        double pulledDown = Math.max(shorted, core || beside ? 0 : below(volts, least, spread));
        Verdict verdict = diode(net, volts, range, beside);
        return new Interpretation(verdict.says, volts, Unit.DIODE_VOLTS, verdict.reason, shorted, pulledDown, range);
    }

    private record Verdict(Says says, Reason reason) {}

    private static Verdict diode(Net net, double volts, Optional<Range> range, boolean beside) {
        if (beside && volts < Thresholds.LOW_DIODE_VOLTS) {
            return new Verdict(Says.BY_DESIGN, Reason.BESIDE_CORE);
        }
        if (Double.isInfinite(volts)) {
            return new Verdict(Says.HIGH, Reason.ABOVE_RANGE);
        }
        if (range.isPresent() && volts >= range.get().low() * Thresholds.RANGE_SLACK) {
            if (range.get().low() < Thresholds.LOW_DIODE_VOLTS && volts < Thresholds.LOW_DIODE_VOLTS) {
                return new Verdict(Says.BY_DESIGN, Reason.LOW_BY_DESIGN);
            }
            return volts > range.get().high() * Thresholds.ABOVE_DIODE_FACTOR
                    ? new Verdict(Says.HIGH, Reason.ABOVE_RANGE)
                    : new Verdict(Says.GOOD, Reason.IN_RANGE);
        }
        if (range.isEmpty() && core(net) && volts > Thresholds.CORE_LEAST_DIODE_VOLTS) {
            return volts < Thresholds.LOW_DIODE_VOLTS
                    ? new Verdict(Says.BY_DESIGN, Reason.LOW_BY_DESIGN)
                    : new Verdict(Says.CLEAR, Reason.NOTHING_STATED);
        }
        if (volts < Thresholds.DEAD_DIODE_VOLTS) {
            return new Verdict(Says.SHORTED, Reason.UNDER_ANY_PART);
        }
        if (range.isPresent()) {
            return new Verdict(Says.LOW, Reason.UNDER_RANGE);
        }
        return volts < Thresholds.LOW_DIODE_VOLTS
                ? new Verdict(Says.LOW, Reason.UNDER_USUAL)
                : new Verdict(Says.CLEAR, Reason.NOTHING_STATED);
    }

    private Interpretation ohms(Net net, double ohms, boolean beeper) {
        Optional<Range> range = net.expect().flatMap(Expectation::ohms);
        boolean beside = besideCore.contains(net.name());
        double least = range.map(Range::low).orElse(core(net) ? Thresholds.CORE_LEAST_OHMS : 0);
        boolean low = least > 0 && least < Thresholds.LOW_OHMS;
        double border = least > 0 ? least * Thresholds.RANGE_SLACK : Thresholds.LOW_OHMS;
        double dead = low ? Math.min(Thresholds.DEAD_OHMS, border) : Thresholds.DEAD_OHMS;
        double sigma = METER.sigmaOhms(Math.min(ohms, 1e9));
        double spread = Math.hypot(sigma, SPREAD * border);
        double shorted = beside ? 0 : below(ohms, dead, sigma);
        double pulledDown =
                beside || beeper && ohms >= Thresholds.BEEP_OHMS ? 0 : Math.max(shorted, below(ohms, border, spread));
        Verdict verdict = ohms(ohms, range, least, low, beside, beeper);
        return new Interpretation(verdict.says, ohms, Unit.OHMS, verdict.reason, shorted, pulledDown, range);
    }

    /** @param least lower end of what a good board reads; 0 where nobody says */
    private static Verdict ohms(
            double ohms, Optional<Range> range, double least, boolean low, boolean beside, boolean beeper) {
        if (beside && ohms < Thresholds.LOW_OHMS) {
            return new Verdict(Says.BY_DESIGN, Reason.BESIDE_CORE);
        }
        if (beeper && ohms < Thresholds.BEEP_OHMS && low) {
            // A beep alone says no more than that it is low.
            return ohms < least * Thresholds.BEEP_SHORT_SHARE && ohms != Thresholds.BEEP_ALONE_OHMS
                    ? new Verdict(Says.SHORTED, Reason.UNDER_RANGE)
                    : new Verdict(Says.BY_DESIGN, Reason.LOW_BY_DESIGN);
        }
        if (beeper && ohms >= Thresholds.BEEP_OHMS) {
            return new Verdict(Says.CLEAR, Reason.NOTHING_STATED);
        }
        if (least > 0 && ohms >= least * Thresholds.RANGE_SLACK) {
            if (low && ohms < Thresholds.LOW_OHMS) {
                return new Verdict(Says.BY_DESIGN, Reason.LOW_BY_DESIGN);
            }
            return range.map(r -> ohms > r.high() * Thresholds.ABOVE_OHMS_FACTOR
                            ? new Verdict(Says.HIGH, Reason.ABOVE_RANGE)
                            : new Verdict(Says.GOOD, Reason.IN_RANGE))
                    .orElse(new Verdict(Says.CLEAR, Reason.NOTHING_STATED));
        }
        if (ohms < Thresholds.DEAD_OHMS && (!low || ohms < least * Thresholds.RANGE_SLACK)) {
            return new Verdict(Says.SHORTED, low ? Reason.UNDER_RANGE : Reason.UNDER_ANY_PART);
        }
        if (range.isPresent()) {
            return new Verdict(Says.LOW, Reason.UNDER_RANGE);
        }
        return ohms < Thresholds.LOW_OHMS
                ? new Verdict(Says.LOW, Reason.UNDER_USUAL)
                : new Verdict(Says.CLEAR, Reason.NOTHING_STATED);
    }

    /** @param wantedVolts what should stand there from the source that feeds the board now */
    public static Interpretation powered(double volts, double wantedVolts) {
        Says says = volts >= wantedVolts * Thresholds.PRESENT_SHARE
                ? Says.PRESENT
                : volts <= wantedVolts * Thresholds.ABSENT_SHARE ? Says.ABSENT : Says.HALF;
        return new Interpretation(says, volts, Unit.VOLTS, Reason.NOMINAL_VOLTS, 0, 0, Optional.empty());
    }

    /** What is wrong with a part by a reading across it. */
    public enum PartState {
        OPEN,
        OFF_VALUE,
        SHORTED
    }

    /** What an unpowered reading across a part finds wrong with it; empty when nothing. */
    public Optional<PartState> across(Part part, Read read) {
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        if (read.mode() == ReadMode.CONTINUITY) {
            value = beep(value);
        }
        boolean diode = read.mode() == ReadMode.DIODE;
        switch (part.kind()) {
            case RESISTOR, FUSE, INDUCTOR, FERRITE -> {
                double ohms = PartValue.ohms(part).orElse(0.05);
                boolean open = Double.isInfinite(value)
                        || !diode && value > Thresholds.OPEN_FACTOR * ohms + Thresholds.OPEN_OHMS;
                if (open && ohms <= Thresholds.CONDUCTS_OHMS) {
                    return Optional.of(PartState.OPEN);
                }
                boolean off = !diode && value > Thresholds.OFF_VALUE_FACTOR * ohms + Thresholds.OFF_VALUE_OHMS;
                return off ? Optional.of(PartState.OFF_VALUE) : Optional.empty();
            }
            case DIODE, TVS, MOSFET, TRANSISTOR, CAPACITOR -> {
                if (diode
                        && part.kind() == PartKind.DIODE
                        && board.role(part) == Role.SERIES
                        && Double.isInfinite(value)) {
                    return Optional.of(PartState.OPEN);
                }
                boolean dead = diode ? value < Thresholds.JOINED_DIODE_VOLTS : value < Thresholds.DEAD_OHMS;
                return dead && board.role(part) != Role.BYPASS ? Optional.of(PartState.SHORTED) : Optional.empty();
            }
            default -> {
                return Optional.empty();
            }
        }
    }

    /** Chance that the truth is below a border when the meter shows this; a normal distribution of its error. */
    private static double below(double shown, double border, double sigma) {
        if (Double.isInfinite(shown)) {
            return 0;
        }
        double z = (border - shown) / Math.max(1e-9, sigma);
        // Logistic approximation of the normal distribution, within 0.01 (Bowling et al. 2009).
        return 1 / (1 + Math.exp(-1.702 * z));
    }
}
