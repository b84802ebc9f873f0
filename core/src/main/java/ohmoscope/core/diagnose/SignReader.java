package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.LeadOhms;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;
import ohmoscope.core.reading.Unit;

/** Reads each entry in its context: the rail's expected range, what is low by design, the leads, the source's volts. */
final class SignReader {
    /** A supply's display shows nothing. */
    private static final double NOTHING_AMPS = 0.0005;

    private static final double TRIED_VOLTS = 0.1;
    /** A short lets no supply of a bench come so high. */
    /** More of its own volts at a port that nothing is plugged into comes from inside. */
    private static final double BACKFED_SHARE = 0.25;

    private static final double STANDS_VOLTS = 1;
    /** What a meter's milliampere still shows as a short. */
    /** A rail of chips takes next to nothing at so little; with the tolerance of a supply's display. */
    private static final double BELOW_KNEES_VOLTS = 1.05;

    private static final double METERED_SHORT_OHMS = Thresholds.DEAD_DIODE_VOLTS / 1e-3 * 1.3;

    private final Timeline timeline;
    private final Set<String> batteryNets;
    private final Interpreter interpreter;

    SignReader(Timeline timeline) {
        this.timeline = timeline;
        this.batteryNets = new HashSet<>();
        this.interpreter = timeline.interpreter();
        timeline.tree()
                .battery()
                .ifPresent(b -> batteryNets.addAll(timeline.board().powerNets(b)));
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
                && (sign.says() == Says.CLEAR || sign.says() == Says.LOW || sign.says() == Says.HIGH)
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
        if (sisters.length < Thresholds.LEAST_SISTERS) {
            return sign;
        }
        double usual = sisters[sisters.length / 2];
        boolean rule = Arrays.stream(sisters).filter(v -> alike(v, usual)).count() >= Thresholds.LEAST_SISTERS;
        if (!rule) {
            return sign;
        }
        double share = sign.value() / usual;
        return share < Thresholds.FAR_SHARE
                ? sign.saying(Says.LOW)
                : share > 1 / Thresholds.FAR_SHARE
                        ? sign.saying(Says.HIGH)
                        : alike(sign.value(), usual) ? sign.saying(Says.GOOD) : sign;
    }

    private static boolean alike(double a, double b) {
        return a >= Thresholds.ALIKE_SHARE * b && b >= Thresholds.ALIKE_SHARE * a;
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
        if (timeline.underInjection(read)) {
            return Optional.empty();
        }
        if (read.mode() == ReadMode.VOLTS) {
            double volts = read.value().orElse(Double.POSITIVE_INFINITY);
            boolean outward = read.power().equals(Optional.of(PowerSource.BATTERY))
                    && timeline.tree().inputs().stream().anyMatch(port -> port.touches(net.get()))
                    && volts > BACKFED_SHARE * known.get().nominalVolts().orElse(Double.POSITIVE_INFINITY);
            return (outward ? Optional.of(Says.BACKFED) : powered(known.get(), volts, moment, sourceVolts))
                    .map(says -> new Sign(net.get(), says, volts, read.seq(), moment.epoch(), Unit.VOLTS));
        }
        return interpreter
                .unpowered(read)
                .map(i -> new Sign(
                        net.get(), i.says(), i.value(), read.seq(), moment.epoch(), i.unit(), i.onTheBorder()));
    }

    private Optional<Says> powered(Net net, double volts, Moment moment, double sourceVolts) {
        if (net.kind() != NetKind.POWER || net.nominalVolts().isEmpty()) {
            return Optional.empty();
        }
        double nominal = net.nominalVolts().getAsDouble();
        if (batteryNets.contains(net.name()) && !moment.state().battery()) {
            if (volts > nominal * Thresholds.BACKFED_FACTOR) {
                return Optional.of(Says.BACKFED);
            }
            return volts > nominal * Thresholds.PRESENT_SHARE ? Optional.of(Says.PRESENT) : Optional.empty();
        }
        double wanted = directly(net.name()) && sourceVolts > 0 ? Math.min(nominal, sourceVolts) : nominal;
        return Optional.of(Interpreter.powered(volts, wanted).says());
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
        boolean shut = PlanRules.shutOff(inject);
        if (net.isEmpty() || volts < 0 || amps < 0) {
            // The wrong way round it says nothing of the rail.
            return Optional.empty();
        }
        LeadOhms leads = LeadOhms.of(inject.leadOhms());
        double ohms = amps > 0 ? Math.max(0, leads.beyond(volts, amps)) : Double.POSITIVE_INFINITY;
        Optional<Sign> known = before.stream()
                .filter(s -> s.net().equals(inject.net()) && s.epoch() == moment.epoch())
                .filter(s -> s.says().unpowered())
                .reduce((a, b) -> b);
        boolean shortedBefore = known.map(s -> s.says() == Says.SHORTED || s.says() == Says.LOW && conducts(s))
                .orElse(false);
        Says says;
        if (shut) {
            says = Says.SHORTED;
        } else if (amps < Thresholds.NO_CURRENT_AMPS) {
            // Nothing at all flows into no rail that is really touched.
            boolean untouched = shortedBefore || known.isEmpty() && amps < NOTHING_AMPS && volts > TRIED_VOLTS;
            says = untouched ? Says.NO_CONTACT : notLimited(net.get(), ohms);
        } else if (intoGround(inject, ohms, leads.ohms(), before, moment)) {
            says = Says.INTO_GROUND;
        } else {
            says = limited(inject, volts, amps) || ohms < Thresholds.DEAD_OHMS
                    ? interpreter.ohms(net.get(), ohms).says()
                    : notLimited(net.get(), ohms);
        }
        if (says == Says.HIGH) {
            says = Says.GOOD;
        }
        if (says == Says.CLEAR && shortedBefore && ohms < METERED_SHORT_OHMS) {
            says = Says.LOW;
        }
        return Optional.of(new Sign(inject.net(), says, ohms, inject.seq(), moment.epoch(), Unit.OHMS));
    }

    /** Whether what was read lets a supply's volt drive a current that its display shows. */
    private static boolean conducts(Sign low) {
        return low.value() < (low.unit() == Unit.DIODE_VOLTS ? Thresholds.LOW_DIODE_VOLTS : Thresholds.LOW_OHMS);
    }

    /** Above a junction's knee a rail draws what its chips draw, which says little about its resistance. */
    private Says notLimited(Net net, double ohms) {
        Says says = interpreter.ohms(net, ohms).says();
        return says == Says.LOW && ohms > Thresholds.LOW_OHMS ? Says.CLEAR : says;
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
        return ohms < Math.max(Thresholds.LEAST_SHORT_OHMS / 2, 0.02 * lead);
    }

    /** A supply that is held on a rail below what its chips start to take is an injection, whatever it was meant for. */
    static Optional<Inject> asInjection(BoardIndex board, Power power) {
        return power.net()
                .flatMap(board::net)
                .filter(net -> power.amps().isPresent()
                        && power.volts().orElse(Double.POSITIVE_INFINITY)
                                <= Math.min(net.nominalVolts().orElse(0) / 2, BELOW_KNEES_VOLTS))
                .map(net -> new Inject(
                        power.seq(),
                        net.name(),
                        Optional.empty(),
                        power.volts(),
                        OptionalDouble.empty(),
                        power.volts(),
                        power.amps(),
                        OptionalDouble.empty(),
                        power.shape().filter(s -> s != TraceShape.FLAT),
                        Optional.empty()));
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
        if (asInjection(timeline.board(), power).isPresent()
                && interpreter.ohms(net.get(), ohms).says() == Says.SHORTED) {
            return Optional.of(new Sign(power.net().get(), Says.SHORTED, ohms, power.seq(), moment.epoch(), Unit.OHMS));
        }
        boolean hard = power.shape()
                .map(s -> s == TraceShape.COLLAPSE || s == TraceShape.BURST_THEN_ZERO)
                .orElse(false);
        if (hard || ohms < Thresholds.DEAD_OHMS && amps > 1) {
            return Optional.of(new Sign(power.net().get(), Says.SHORTED, ohms, power.seq(), moment.epoch(), Unit.OHMS));
        }
        // What it was set to nobody says: what a supply's lead holds up stands.
        double volts = power.volts().getAsDouble();
        if (volts < net.get().nominalVolts().orElse(0) / 2) {
            // Fed with far less than it is made for, what it takes tells, not what it stands at.
            return Optional.of(new Sign(
                    power.net().get(), notLimited(net.get(), ohms), ohms, power.seq(), moment.epoch(), Unit.OHMS));
        }
        return volts < STANDS_VOLTS
                ? Optional.empty()
                : powered(net.get(), volts, moment, volts)
                        .map(says -> new Sign(power.net().get(), says, volts, power.seq(), moment.epoch(), Unit.VOLTS));
    }
}
