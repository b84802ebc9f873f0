package ohmoscope.core.evidence;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Observation.WarmthMeans;

/** The words of the entry line, in lower case. */
final class EntryVocabulary {
    static final Map<String, ReadMode> MODES = Map.ofEntries(
            Map.entry("d", ReadMode.DIODE),
            Map.entry("diode", ReadMode.DIODE),
            Map.entry("r", ReadMode.OHMS),
            Map.entry("ohm", ReadMode.OHMS),
            Map.entry("ohms", ReadMode.OHMS),
            Map.entry("ω", ReadMode.OHMS),
            Map.entry("c", ReadMode.CONTINUITY),
            Map.entry("v", ReadMode.VOLTS),
            Map.entry("volt", ReadMode.VOLTS),
            Map.entry("volts", ReadMode.VOLTS),
            Map.entry("vac", ReadMode.VOLTS_AC),
            Map.entry("ac", ReadMode.VOLTS_AC));

    /** Volts along the copper while a bench supply injects; a number without a unit is millivolts. */
    static final List<String> UNDER_INJECTION = List.of("mv", "millivolt", "millivolts");

    static final List<String> OVER_RANGE = List.of("ol", "o.l", "0l", "open", "over", "inf");

    static final Map<String, ChangeAction> ACTIONS = Map.ofEntries(
            Map.entry("removed", ChangeAction.REMOVED),
            Map.entry("remove", ChangeAction.REMOVED),
            Map.entry("lifted", ChangeAction.REMOVED),
            Map.entry("off", ChangeAction.REMOVED),
            Map.entry("fitted", ChangeAction.FITTED),
            Map.entry("refitted", ChangeAction.FITTED),
            Map.entry("refit", ChangeAction.FITTED),
            Map.entry("replaced", ChangeAction.REPLACED),
            Map.entry("unplugged", ChangeAction.DISCONNECTED),
            Map.entry("unplug", ChangeAction.DISCONNECTED),
            Map.entry("disconnected", ChangeAction.DISCONNECTED),
            Map.entry("plugged", ChangeAction.CONNECTED),
            Map.entry("connected", ChangeAction.CONNECTED),
            Map.entry("separated", ChangeAction.SEPARATED),
            Map.entry("cleaned", ChangeAction.CLEANED));

    private static final Map<String, RunFinding> RUNS = known(
            RunFinding.values(),
            Map.of(
                    "not charging", RunFinding.DOES_NOT_CHARGE,
                    "only shows charging", RunFinding.SHOWS_CHARGING_ONLY,
                    "boot loop", RunFinding.RESTARTS,
                    "starts", RunFinding.BOOTS));
    private static final Map<String, LookFinding> LOOKS = known(
            LookFinding.values(),
            Map.ofEntries(
                    Map.entry("ok", LookFinding.CLEAN),
                    Map.entry("whole", LookFinding.CLEAN),
                    Map.entry("nothing", LookFinding.CLEAN),
                    Map.entry("pins touch", LookFinding.PINS_TOUCHING),
                    Map.entry("crossed", LookFinding.PINS_TOUCHING),
                    Map.entry("bridged", LookFinding.PINS_TOUCHING),
                    Map.entry("bent", LookFinding.PIN_BENT),
                    Map.entry("crushed", LookFinding.PIN_BENT),
                    Map.entry("pins bent", LookFinding.PIN_BENT),
                    Map.entry("browned", LookFinding.DISCOLOURED),
                    Map.entry("brown", LookFinding.DISCOLOURED),
                    Map.entry("wet", LookFinding.WET_MARK),
                    Map.entry("liquid", LookFinding.WET_MARK),
                    Map.entry("burned", LookFinding.BURNT),
                    Map.entry("crack", LookFinding.CRACKED),
                    Map.entry("reworked", LookFinding.EARLIER_WORK)));
    private static final Map<String, TraceShape> SHAPES = known(
            TraceShape.values(),
            Map.of(
                    "steady", TraceShape.FLAT,
                    "blips", TraceShape.PULSING,
                    "pulses", TraceShape.PULSING,
                    "climbing", TraceShape.RISING,
                    "spike", TraceShape.SPIKE_THEN_ZERO,
                    "collapses", TraceShape.COLLAPSE,
                    "trips", TraceShape.COLLAPSE,
                    "burst", TraceShape.BURST_THEN_ZERO));
    private static final Map<String, PowerSource> SOURCES = known(
            PowerSource.values(),
            Map.of("supply", PowerSource.BENCH, "adapter", PowerSource.CHARGER, "usb", PowerSource.CHARGER));
    private static final Map<String, WarmthMeans> MEANS = known(
            WarmthMeans.values(),
            Map.of(
                    "finger", WarmthMeans.TOUCH,
                    "alcohol", WarmthMeans.LIQUID,
                    "film", WarmthMeans.LIQUID,
                    "frost", WarmthMeans.LIQUID,
                    "spray", WarmthMeans.LIQUID));
    private static final Map<String, Side> SIDES = known(Side.values(), Map.of());

    private EntryVocabulary() {}

    /** The values under their own names, and under what else they are called. */
    private static <E extends Enum<E>> Map<String, E> known(E[] values, Map<String, E> alsoCalled) {
        Map<String, E> known = new HashMap<>(alsoCalled);
        for (E value : values) {
            known.put(plain(value), value);
        }
        return known;
    }

    /** What is missing must be said too: that finding has a form of its own. */
    static Optional<RunFinding> run(List<String> words) {
        return Optional.ofNullable(RUNS.get(joined(words))).filter(f -> f != RunFinding.FUNCTION_MISSING);
    }

    static Optional<LookFinding> look(List<String> words) {
        return Optional.ofNullable(LOOKS.get(joined(words)));
    }

    static Optional<TraceShape> shape(String word) {
        return Optional.ofNullable(SHAPES.get(word.replace('-', ' ')));
    }

    static Optional<PowerSource> source(String word) {
        return Optional.ofNullable(SOURCES.get(word));
    }

    static Optional<WarmthMeans> means(String word) {
        return Optional.ofNullable(MEANS.get(word));
    }

    static Optional<Side> side(String word) {
        return Optional.ofNullable(SIDES.get(word));
    }

    private static String joined(List<String> words) {
        return String.join(" ", words).toLowerCase(Locale.ROOT).replace('-', ' ');
    }

    /** A value as it is typed where several words may stand. */
    static String plain(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
}
