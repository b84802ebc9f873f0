package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Sign.Says;
import ohmoscope.core.diagnose.Sign.Unit;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.TraceShape;

/** Reads each entry in its context: the rail's expected range, what is low by design, the leads, the source's volts. */
final class SignReader {
    private static final double DEAD_OHMS = 2;
    private static final double DEAD_DIODE_VOLTS = 0.035;
    private static final double PARTIAL_DIODE_VOLTS = 0.1;
    /** Where nothing is stated, a rail of at least 1.8 V below this is low. */
    private static final double LOW_OHMS = 20;

    /** Rails up to this voltage feed a core, and cores read a few ohms. */
    private static final double CORE_VOLTS = 1.3;

    private static final double CORE_DEAD_OHMS = 0.4;
    /** A good board's reading may lie this far under its range. */
    private static final double RANGE_SLACK = 0.75;

    /** A good rail that reads less than this is low by design. */
    static final double BY_DESIGN_OHMS = 20;

    private static final double BY_DESIGN_DIODE_VOLTS = 0.1;
    /** A pair of ordinary leads, when nobody measured them. */
    static final double USUAL_LEAD_OHMS = 0.05;

    /** A short with its copper is never less than this. */
    private static final double LEAST_SHORT_OHMS = 0.004;

    private static final double NO_CURRENT_AMPS = 0.0025;
    private static final double PRESENT_SHARE = 0.85;
    private static final double ABSENT_SHARE = 0.15;
    private static final double BACKFED_FACTOR = 1.15;

    private final Timeline timeline;
    private final Set<String> batteryNets;
    /** Lines that a coil joins to a rail which is low by design. */
    private final Set<String> besideCore = new HashSet<>();

    SignReader(Timeline timeline) {
        this.timeline = timeline;
        this.batteryNets = new HashSet<>();
        timeline.tree()
                .battery()
                .ifPresent(b -> batteryNets.addAll(timeline.board().powerNets(b)));
        for (Part part : timeline.board().parts()) {
            boolean core = timeline.board().role(part) == Role.SERIES
                    && timeline.board().powerNets(part).stream()
                            .flatMap(n -> timeline.board().net(n).stream())
                            .anyMatch(SignReader::lowByDesign);
            if (core) {
                part.pins().stream()
                        .map(Pin::net)
                        .filter(n -> timeline.board().net(n).orElseThrow().kind() == NetKind.SIGNAL)
                        .forEach(besideCore::add);
            }
        }
    }

    private static boolean lowByDesign(Net net) {
        return core(net)
                || net.expect()
                        .flatMap(Expectation::ohms)
                        .map(r -> r.low() < BY_DESIGN_OHMS)
                        .orElse(false);
    }

    List<Sign> read() {
        List<Sign> signs = new ArrayList<>();
        double sourceVolts = Double.NaN;
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Read read) {
                read(read, moment, sourceVolts).ifPresent(signs::add);
            } else if (moment.observation() instanceof Inject inject) {
                inject(inject, moment, signs).ifPresent(signs::add);
            } else if (moment.observation() instanceof Power power) {
                sourceVolts = power.volts().orElse(Double.NaN);
                held(power, moment).ifPresent(signs::add);
            }
        }
        return compared(signs);
    }

    /** Lines of a port that nobody says what to expect of read alike; one far below its sisters is wrong. */
    private List<Sign> compared(List<Sign> signs) {
        return signs.stream().map(s -> line(s) ? among(s, signs) : s).toList();
    }

    private boolean line(Sign sign) {
        return sign.unit() == Unit.DIODE_VOLTS
                && (sign.says() == Says.CLEAR || sign.says() == Says.LOW)
                && timeline.board()
                        .net(sign.net())
                        .map(n -> n.kind() == NetKind.SIGNAL && n.expect().isEmpty())
                        .orElse(false);
    }

    private Sign among(Sign sign, List<Sign> signs) {
        double[] sisters = timeline.tree().inputs().stream()
                .filter(port -> port.touches(sign.net()))
                .flatMap(port -> signs.stream()
                        .filter(s -> !s.net().equals(sign.net())
                                && s.epoch() == sign.epoch()
                                && port.touches(s.net())
                                && line(s)))
                .mapToDouble(Sign::value)
                .sorted()
                .toArray();
        if (sisters.length < LEAST_SISTERS) {
            return sign;
        }
        double usual = sisters[sisters.length / 2];
        long alike = Arrays.stream(sisters)
                .filter(v -> v >= ALIKE_SHARE * usual && v <= usual / ALIKE_SHARE)
                .count();
        if (alike < LEAST_SISTERS) {
            return sign;
        }
        Says says = sign.value() < FAR_BELOW_SHARE * usual
                ? Says.LOW
                : sign.value() >= ALIKE_SHARE * usual && sign.value() <= usual / ALIKE_SHARE ? Says.GOOD : sign.says();
        return new Sign(sign.net(), says, sign.value(), sign.seq(), sign.epoch(), sign.unit());
    }

    private Optional<Sign> read(Read read, Moment moment, double sourceVolts) {
        Optional<String> net = timeline.netOf(read);
        boolean toGround = read.to().map(timeline.board()::isGround).orElse(true);
        if (net.isEmpty() || read.across().isPresent() || !toGround || read.mode() == ReadMode.VOLTS_AC) {
            return Optional.empty();
        }
        Optional<Net> known = timeline.board().net(net.get());
        if (known.isEmpty() || known.get().kind() == NetKind.GROUND) {
            return Optional.empty();
        }
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        if (read.mode() == ReadMode.VOLTS) {
            return powered(known.get(), value, moment, sourceVolts)
                    .map(says -> new Sign(net.get(), says, value, read.seq(), moment.epoch(), Unit.VOLTS));
        }
        if (read.power().isPresent()) {
            return Optional.empty();
        }
        boolean diode = read.mode() == ReadMode.DIODE;
        double ohms = read.mode() == ReadMode.CONTINUITY ? beep(value) : value;
        Says says = diode ? diode(known.get(), value) : ohms(known.get(), ohms, read.mode() == ReadMode.CONTINUITY);
        return Optional.of(new Sign(
                net.get(),
                says,
                diode ? value : ohms,
                read.seq(),
                moment.epoch(),
                diode ? Unit.DIODE_VOLTS : Unit.OHMS));
    }

    private static final double BEEP_ALONE_OHMS = 0.5;
    private static final int LEAST_SISTERS = 2;
    private static final double ALIKE_SHARE = 0.8;
    private static final double FAR_BELOW_SHARE = 0.5;

    /** A continuity value is in ohms, but 1 and 0 stand for a beep and none. */
    static double beep(double value) {
        return value == 0 ? Double.POSITIVE_INFINITY : value == 1 ? BEEP_ALONE_OHMS : value;
    }

    private Says diode(Net net, double volts) {
        if (besideCore.contains(net.name()) && volts < BY_DESIGN_DIODE_VOLTS) {
            return Says.BY_DESIGN;
        }
        Optional<Range> range = net.expect().flatMap(Expectation::diodeVolts);
        if (Double.isInfinite(volts)) {
            return Says.HIGH;
        }
        if (range.isPresent() && volts >= range.get().low() * RANGE_SLACK) {
            if (range.get().low() < BY_DESIGN_DIODE_VOLTS && volts < BY_DESIGN_DIODE_VOLTS) {
                return Says.BY_DESIGN;
            }
            return volts > range.get().high() * 1.3 ? Says.HIGH : Says.GOOD;
        }
        if (range.isEmpty() && core(net) && volts > 0.0005) {
            return volts < BY_DESIGN_DIODE_VOLTS ? Says.BY_DESIGN : Says.CLEAR;
        }
        if (volts < DEAD_DIODE_VOLTS) {
            return Says.SHORTED;
        }
        boolean low = range.isPresent() || volts < PARTIAL_DIODE_VOLTS;
        return low ? Says.LOW : Says.CLEAR;
    }

    private Says ohms(Net net, double ohms, boolean continuity) {
        if (besideCore.contains(net.name()) && ohms < BY_DESIGN_OHMS) {
            return Says.BY_DESIGN;
        }
        Optional<Range> range = net.expect().flatMap(Expectation::ohms);
        double least = range.map(Range::low).orElse(core(net) ? 2 * CORE_DEAD_OHMS : 0);
        boolean lowByDesign = least > 0 && least < BY_DESIGN_OHMS;
        if (continuity && ohms < MeterQuestion.BEEP_OHMS && lowByDesign) {
            // A beep alone says no more than that it is low.
            return ohms < least * 0.4 && ohms != BEEP_ALONE_OHMS ? Says.SHORTED : Says.BY_DESIGN;
        }
        if (continuity && ohms >= MeterQuestion.BEEP_OHMS) {
            return Says.CLEAR;
        }
        if (least > 0 && ohms >= least * RANGE_SLACK) {
            if (lowByDesign && ohms < BY_DESIGN_OHMS) {
                return Says.BY_DESIGN;
            }
            return range.map(r -> ohms > r.high() * 2 ? Says.HIGH : Says.GOOD).orElse(Says.CLEAR);
        }
        if (ohms < DEAD_OHMS && (!lowByDesign || ohms < least * RANGE_SLACK)) {
            return Says.SHORTED;
        }
        boolean low = range.isPresent() || ohms < LOW_OHMS;
        return low ? Says.LOW : Says.CLEAR;
    }

    private static boolean core(Net net) {
        return net.kind() == NetKind.POWER && net.nominalVolts().orElse(99) <= CORE_VOLTS;
    }

    private Optional<Says> powered(Net net, double volts, Moment moment, double sourceVolts) {
        if (net.kind() != NetKind.POWER || net.nominalVolts().isEmpty()) {
            return Optional.empty();
        }
        double nominal = net.nominalVolts().getAsDouble();
        if (batteryNets.contains(net.name()) && !moment.state().battery()) {
            if (volts > nominal * BACKFED_FACTOR) {
                return Optional.of(Says.BACKFED);
            }
            return volts > nominal * PRESENT_SHARE ? Optional.of(Says.PRESENT) : Optional.empty();
        }
        double wanted = directly(net.name()) && sourceVolts > 0 ? Math.min(nominal, sourceVolts) : nominal;
        if (volts >= wanted * PRESENT_SHARE) {
            return Optional.of(Says.PRESENT);
        }
        return Optional.of(volts <= wanted * ABSENT_SHARE ? Says.ABSENT : Says.HALF);
    }

    /** Whether a net stands at the source's own voltage: nothing converts between. */
    private boolean directly(String net) {
        return timeline.tree().pathTo(net).stream().noneMatch(f -> f.kind() == PowerTree.Kind.CONVERTS);
    }

    private Optional<Sign> inject(Inject inject, Moment moment, List<Sign> before) {
        if (inject.volts().isEmpty() || inject.amps().isEmpty()) {
            return Optional.empty();
        }
        Optional<Net> net = timeline.board().net(inject.net());
        double volts = inject.volts().getAsDouble();
        double amps = inject.amps().getAsDouble();
        boolean shut = inject.shape().map(s -> s == TraceShape.BURST_THEN_ZERO).orElse(false);
        if (net.isEmpty()) {
            return Optional.empty();
        }
        double lead = inject.leadOhms().orElse(USUAL_LEAD_OHMS);
        double ohms = amps > 0 ? Math.max(0, volts / amps - lead) : Double.POSITIVE_INFINITY;
        boolean shortedBefore = before.stream()
                .filter(s -> s.net().equals(inject.net()) && s.epoch() == moment.epoch())
                .filter(s -> s.says().unpowered())
                .reduce((a, b) -> b)
                .map(s -> s.says() == Says.SHORTED || s.says() == Says.LOW && conducts(s))
                .orElse(false);
        Says says;
        if (shut) {
            says = Says.SHORTED;
        } else if (amps < NO_CURRENT_AMPS) {
            says = shortedBefore ? Says.NO_CONTACT : notLimited(net.get(), ohms);
        } else if (intoGround(inject, ohms, lead, before, moment)) {
            says = Says.INTO_GROUND;
        } else {
            says = limited(inject, volts, amps) || ohms < DEAD_OHMS
                    ? ohms(net.get(), ohms, false)
                    : notLimited(net.get(), ohms);
        }
        if (says == Says.HIGH) {
            says = Says.GOOD;
        }
        return Optional.of(new Sign(inject.net(), says, ohms, inject.seq(), moment.epoch(), Unit.OHMS));
    }

    /** Whether what was read lets a supply's volt drive a current that its display shows. */
    private static boolean conducts(Sign low) {
        return low.value() < (low.unit() == Unit.DIODE_VOLTS ? PARTIAL_DIODE_VOLTS : LOW_OHMS);
    }

    /** Above a junction's knee a rail draws what its chips draw, which says little about its resistance. */
    private Says notLimited(Net net, double ohms) {
        Says says = ohms(net, ohms, false);
        return says == Says.LOW && ohms > LOW_OHMS ? Says.CLEAR : says;
    }

    private static boolean limited(Inject inject, double volts, double amps) {
        boolean atLimit = inject.limitAmps().isPresent()
                && amps >= 0.9 * inject.limitAmps().getAsDouble();
        boolean sagged = inject.setVolts().isPresent()
                && volts < 0.85 * inject.setVolts().getAsDouble();
        return atLimit || sagged;
    }

    /** Volts over amperes are the leads alone: below any short, or far below what the meter found. */
    private static boolean intoGround(Inject inject, double ohms, double lead, List<Sign> before, Moment moment) {
        if (inject.leadOhms().isEmpty()) {
            return false;
        }
        double uncertain = 0.05 * lead;
        OptionalDouble metered = before.stream()
                .filter(s -> s.net().equals(inject.net()) && s.epoch() == moment.epoch() && s.unit() == Unit.OHMS)
                .filter(s -> s.says().unpowered())
                .mapToDouble(Sign::value)
                .reduce((a, b) -> b);
        if (metered.isPresent() && metered.getAsDouble() > 0.15 && ohms < 0.02 + uncertain) {
            return metered.getAsDouble() > 6 * (ohms + uncertain);
        }
        return ohms < Math.max(LEAST_SHORT_OHMS / 2, 0.02 * lead);
    }

    /** A supply held on a rail itself. */
    private Optional<Sign> held(Power power, Moment moment) {
        if (power.net().isEmpty() || power.volts().isEmpty() || power.amps().isEmpty()) {
            return Optional.empty();
        }
        Optional<Net> net = timeline.board().net(power.net().get());
        double amps = power.amps().getAsDouble();
        if (net.isEmpty() || amps <= 0) {
            return Optional.empty();
        }
        double ohms = power.volts().getAsDouble() / amps;
        boolean hard = power.shape()
                .map(s -> s == TraceShape.COLLAPSE || s == TraceShape.BURST_THEN_ZERO)
                .orElse(false);
        if (hard || ohms < DEAD_OHMS && amps > 1) {
            return Optional.of(new Sign(power.net().get(), Says.SHORTED, ohms, power.seq(), moment.epoch(), Unit.OHMS));
        }
        return Optional.empty();
    }
}
