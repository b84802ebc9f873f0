package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.IntFunction;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;

/**
 * What was injected into a rail since the board was last changed, and what that says: the line of volts over amperes, and
 * where it is no line.
 *
 * @param points what the supply showed, in order
 * @param ohms slope through the origin, leads taken off; empty when no current was measured
 * @param signs what to notice, most urgent first
 */
public record InjectionReview(List<Point> points, OptionalDouble ohms, OptionalDouble sigmaOhms, List<Sign> signs) {
    /** Below it no line can be drawn. */
    private static final double FEW_AMPS = 0.02;

    private static final double LIMITED_SHARE = 0.97;
    private static final double JUNCTION_VOLTS = 0.3;
    private static final double BENT = 1.4;
    private static final double BURNED = 5;

    /** One injection. @param ohms volts over amperes less the leads */
    public record Point(int seq, double setVolts, double limitAmps, double volts, double amps, double ohms) {}

    /** What may be noticed. */
    public enum Sign {
        CONTACT_LOST,
        INTO_GROUND,
        SUPPLY_RESTARTS,
        SHUT_OFF,
        BURNED_OPEN,
        JUNCTION,
        RISES_WITH_HEAT,
        CURRENT_LIMITED
    }

    public InjectionReview {
        points = List.copyOf(points);
        signs = List.copyOf(signs);
    }

    /** @param said what each entry says, by its number: contact and ground are judged there, and nowhere else */
    public static InjectionReview of(
            String rail, List<Observation> observations, IntFunction<Optional<ohmoscope.core.diagnose.Sign>> said) {
        List<Inject> injections = new ArrayList<>();
        for (Observation observation : observations) {
            if (observation instanceof Observation.Change change
                    && change.action().usuallyHot()) {
                injections.clear();
            } else if (observation instanceof Inject inject && inject.net().equals(rail)) {
                injections.add(inject);
            }
        }
        List<Point> points = new ArrayList<>();
        List<Sign> signs = new ArrayList<>();
        for (Inject i : injections) {
            i.shape().flatMap(InjectionReview::ofShape).ifPresent(signs::add);
            Optional<Says> says = said.apply(i.seq()).map(ohmoscope.core.diagnose.Sign::says);
            if (i.volts().isEmpty() || i.amps().isEmpty()) {
                continue;
            }
            double amps = i.amps().getAsDouble();
            double volts = i.volts().getAsDouble();
            double lead = i.leadOhms().orElse(Thresholds.USUAL_LEAD_OHMS);
            double set = i.setVolts().orElse(volts);
            if (says.filter(Says.INTO_GROUND::equals).isPresent()) {
                signs.add(Sign.INTO_GROUND);
            }
            boolean flowed = points.stream().anyMatch(p -> p.amps() > 10 * FEW_AMPS);
            if (says.filter(Says.NO_CONTACT::equals).isPresent()) {
                signs.add(flowed ? Sign.BURNED_OPEN : Sign.CONTACT_LOST);
            }
            if (amps < FEW_AMPS) {
                continue;
            }
            double ohms = Math.max(0, volts / amps - lead);
            points.add(new Point(i.seq(), set, i.limitAmps().orElse(amps), volts, amps, ohms));
        }
        bend(points).ifPresent(signs::add);
        if (!points.isEmpty()) {
            Point last = points.get(points.size() - 1);
            boolean limited =
                    last.amps() > LIMITED_SHARE * last.limitAmps() && last.volts() < LIMITED_SHARE * last.setVolts();
            if (limited) {
                signs.add(Sign.CURRENT_LIMITED);
            }
        }
        List<Sign> sorted = signs.stream().distinct().sorted().toList();
        double amps2 = points.stream().mapToDouble(p -> p.amps() * p.amps()).sum();
        if (!(amps2 > 0)) {
            return new InjectionReview(points, OptionalDouble.empty(), OptionalDouble.empty(), sorted);
        }
        double slope =
                points.stream().mapToDouble(p -> p.ohms() * p.amps() * p.amps()).sum() / amps2;
        double squares = points.stream()
                .mapToDouble(p -> Math.pow((p.ohms() - slope) * p.amps(), 2))
                .sum();
        double sigma =
                points.size() < 2 ? 0.1 * slope + 0.004 : Math.sqrt(squares / (points.size() - 1) / amps2) + 0.004;
        return new InjectionReview(points, OptionalDouble.of(slope), OptionalDouble.of(sigma), sorted);
    }

    private static Optional<Sign> ofShape(TraceShape shape) {
        return switch (shape) {
            case PULSING -> Optional.of(Sign.SUPPLY_RESTARTS);
            case BURST_THEN_ZERO -> Optional.of(Sign.SHUT_OFF);
            default -> Optional.empty();
        };
    }

    /** Ohms that fall as the volts pass a junction's knee, or rise with the watts, or jump. */
    private static Optional<Sign> bend(List<Point> points) {
        if (points.size() < 2) {
            return Optional.empty();
        }
        Point low = points.stream()
                .min((a, b) -> Double.compare(a.volts(), b.volts()))
                .orElseThrow();
        Point high = points.stream()
                .max((a, b) -> Double.compare(a.volts(), b.volts()))
                .orElseThrow();
        Point first = points.get(0);
        Point last = points.get(points.size() - 1);
        if (last.ohms() > BURNED * Math.max(0.005, first.ohms()) && last.ohms() > 1) {
            return Optional.of(Sign.BURNED_OPEN);
        }
        if (high.volts() > JUNCTION_VOLTS
                && low.volts() < high.volts()
                && low.ohms() > BENT * high.ohms()
                && low.ohms() > 0.05) {
            return Optional.of(Sign.JUNCTION);
        }
        boolean rises = high.amps() > low.amps() && high.ohms() > BENT * Math.max(0.005, low.ohms());
        return rises ? Optional.of(Sign.RISES_WITH_HEAT) : Optional.empty();
    }

    /** The short, for planning; what the meter says when nothing was injected yet. */
    public InjectionPlan.Estimate estimate(OptionalDouble meterOhms) {
        if (ohms.isPresent()) {
            double r = Math.max(1e-3, ohms.getAsDouble());
            double s = sigmaOhms.orElse(0.1 * r);
            return new InjectionPlan.Estimate(r, Math.max(0, r - 2 * s), r + 2 * s);
        }
        // A meter in ohms is blind below its own leads; in diode mode it says shorted and no more.
        double r = Math.max(0.02, meterOhms.orElse(0.05));
        return new InjectionPlan.Estimate(r, r / 5, r * 5);
    }
}
