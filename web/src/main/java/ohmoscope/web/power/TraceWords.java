package ohmoscope.web.power;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.TraceReading;
import ohmoscope.web.kit.Eng;

/** A trace in words: its shape with the numbers that make it, and what such a shape usually means. */
public final class TraceWords {
    private TraceWords() {}

    public static String shape(TraceReading r) {
        return switch (r.shape()) {
            case FLAT -> "Flat at " + amps(r.restAmps()) + ".";
            case PULSING ->
                "Pulsing up to " + amps(r.peakAmps()) + " every "
                        + Eng.prefixed(r.periodS().orElse(0), "s", 2) + ".";
            case RISING ->
                "Rising to " + amps(r.restAmps())
                        + (r.steps() > 1 ? " in " + r.steps() + " levels" : "")
                        + ", within " + Eng.prefixed(r.riseS().orElse(0), "s", 2) + ".";
            case SPIKE_THEN_ZERO ->
                "A spike of " + amps(r.peakAmps()) + " for " + Eng.prefixed(r.activeS(), "s", 2) + ", then "
                        + amps(r.restAmps()) + ".";
            case COLLAPSE -> "The source collapses" + volts(r) + " at " + amps(r.peakAmps()) + ".";
            case BURST_THEN_ZERO ->
                amps(r.peakAmps()) + " for " + Eng.prefixed(r.activeS(), "s", 2) + ", then shut off to "
                        + amps(r.restAmps()) + ".";
        };
    }

    private static String volts(TraceReading r) {
        return r.volts().isPresent() && r.startVolts().isPresent()
                ? " from " + Eng.significant(r.startVolts().getAsDouble(), 3) + " V to "
                        + Eng.significant(r.volts().getAsDouble(), 2) + " V"
                : "";
    }

    private static String amps(double amps) {
        return Eng.prefixed(Math.abs(amps) < 1e-3 ? 0 : amps, "A", 2).toString();
    }

    public static String meaning(TraceShape shape) {
        return switch (shape) {
            case FLAT -> "One level: the device waits, or a fault holds it there. The level says which.";
            case PULSING -> "Something restarts again and again: a supply into a short, usually on the main rail.";
            case RISING -> "A climb in levels, as a device that starts or a charge that is taken up.";
            case SPIKE_THEN_ZERO ->
                "Capacitors fill and nothing more is drawn: without a battery, usual on a repaired board; else nothing asks.";
            case COLLAPSE -> "A hard short behind the port: unplug at once.";
            case BURST_THEN_ZERO -> "Protection shuts a short off. It hides the heat: inject low instead.";
        };
    }

    /** @param mark ok or look */
    public record Compared(String words, String mark) {}

    /** The device's own expectation beside what was measured: standby when only connected, running when told to start. */
    public static List<Compared> expected(Optional<PortExpectation> port, TraceReading r, DeviceState state) {
        List<Compared> lines = new ArrayList<>();
        port.ifPresent(e -> {
            e.volts()
                    .ifPresent(v -> lines.add(compare("Charger volts", r.volts().orElse(Double.NaN), v, "V")));
            Optional<Range> draw = state == DeviceState.ON ? e.runAmps() : e.standbyAmps();
            String what = state == DeviceState.ON ? "Running draw" : "Standby draw";
            draw.ifPresent(a -> lines.add(compare(what, r.restAmps(), a, "A")));
        });
        return lines;
    }

    private static Compared compare(String what, double value, Range range, String unit) {
        String good = what + " " + Eng.prefixed(range.low(), unit, 2) + " to " + Eng.prefixed(range.high(), unit, 2);
        if (Double.isNaN(value)) {
            return new Compared(good + ".", "plain");
        }
        boolean below = value < range.low() * 0.95;
        boolean above = value > range.high() * 1.05;
        return new Compared(
                good + ": it is " + (below ? "below" : above ? "above" : "within") + ".",
                below || above ? "look" : "ok");
    }
}
