package ohmoscope.core.evidence;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Storey;

/** One entry of a job's evidence. {@code seq} rises through the job. */
public sealed interface Observation {
    int seq();

    /** The device or a rail was given power. */
    record Power(
            int seq,
            PowerSource from,
            Optional<String> port,
            Optional<String> net,
            Optional<String> orientation,
            Optional<BatteryState> battery,
            OptionalDouble volts,
            OptionalDouble amps,
            DeviceState state,
            Optional<TraceShape> shape,
            Optional<String> trace)
            implements Observation {
        public Power {
            finite("volts", volts);
            finite("amps", amps);
        }

        /** Whether somebody said that no cell is in: unknown is not out. */
        public boolean withoutCell() {
            return battery.map(b -> b != BatteryState.IN).orElse(false);
        }
    }

    /** Something was looked at. {@code target} is a part, port or test point. */
    record Look(int seq, String target, LookFinding finding) implements Observation {
        public Look {
            Check.text("target", target);
        }
    }

    /**
     * A meter reading, in the unit of its mode.
     *
     * @param value empty when the meter showed over-range (open)
     * @param power the source the board was fed from while reading; empty when it was off
     */
    record Read(
            int seq,
            ReadMode mode,
            Optional<String> net,
            Optional<String> ref,
            Optional<String> pin,
            Optional<String> across,
            Optional<String> to,
            OptionalDouble value,
            Optional<String> lead,
            Optional<PowerSource> power)
            implements Observation {
        public Read {
            finite("value", value);
            if (net.isEmpty() && ref.isEmpty() && across.isEmpty()) {
                throw new ohmoscope.core.board.InvalidMember("net", "is missing: a reading needs net, ref or across");
            }
        }
    }

    /** Power was put into a rail from the bench supply. Volts and amperes are the supply's. */
    record Inject(
            int seq,
            String net,
            Optional<String> ref,
            OptionalDouble setVolts,
            OptionalDouble limitAmps,
            OptionalDouble volts,
            OptionalDouble amps,
            OptionalDouble leadOhms,
            Optional<TraceShape> shape,
            Optional<PowerSource> power)
            implements Observation {
        /** What a bundle may say; what is entered at the bench must be leads. */
        private static final double MOST_LEAD_OHMS = 1000;

        public Inject {
            Check.text("net", net);
            finite("set_v", setVolts);
            finite("limit_a", limitAmps);
            finite("volts", volts);
            finite("amps", amps);
            leadOhms.ifPresent(v -> Check.within("lead_ohms", v, 0, MOST_LEAD_OHMS));
        }
    }

    /** Warmth was looked for. {@code nothing} when none was found. */
    record Warm(
            int seq,
            Optional<String> ref,
            OptionalDouble xMm,
            OptionalDouble yMm,
            Optional<Side> side,
            Optional<WarmthMeans> by,
            OptionalDouble deltaK,
            OptionalDouble spreadMm,
            boolean nothing)
            implements Observation {
        public Warm {
            finite("x_mm", xMm);
            finite("y_mm", yMm);
            finite("delta_k", deltaK);
            finite("spread_mm", spreadMm);
        }
    }

    /** The board was changed. {@code target}: a part, a connector, {@code battery}, {@code stack:upper} and so on. */
    record Change(int seq, ChangeAction action, String target, boolean heat) implements Observation {
        /** The word by which a change names the battery. */
        public static final String BATTERY = "battery";

        /** What the words begin with by which a change names half of a two-storey board. */
        public static final String STACK = "stack:";

        /** The word for one half: {@code stack:upper}, {@code stack:lower}. */
        public static String half(Storey storey) {
            return STACK + storey.name().toLowerCase(Locale.ROOT);
        }

        /** Whether unpowered readings may differ since: not by the battery, nor by plugging something in. */
        public boolean altersCircuit() {
            return action != ChangeAction.CONNECTED && !target.equals(BATTERY);
        }

        public Change {
            Check.text("target", target);
        }
    }

    /** How the device behaves. */
    record Run(int seq, RunFinding finding, Optional<String> what) implements Observation {
        /** Whether the device did what it should when it was last tried; false when it never was. */
        public static boolean lastWasWell(List<Observation> observations) {
            return observations.stream()
                    .filter(Run.class::isInstance)
                    .reduce((a, b) -> b)
                    .map(o -> ((Run) o).finding().well())
                    .orElse(false);
        }
    }

    /** Where power came from. */
    enum PowerSource {
        CHARGER,
        BENCH,
        BATTERY
    }

    /** Whether the battery was connected. */
    enum BatteryState {
        IN,
        OUT,
        NONE
    }

    /** Connected only, or told to start. */
    enum DeviceState {
        OFF,
        ON
    }

    /** The shape of a current or voltage trace. */
    enum TraceShape {
        FLAT,
        PULSING,
        RISING,
        SPIKE_THEN_ZERO,
        COLLAPSE,
        BURST_THEN_ZERO
    }

    /** What looking found. */
    enum LookFinding {
        CLEAN,
        PINS_TOUCHING,
        PIN_BENT,
        PIN_MISSING,
        LOOSE,
        BURNT,
        HOLE,
        CRACKED,
        CHIPPED,
        CORRODED,
        DISCOLOURED,
        MISSING,
        WET_MARK,
        EARLIER_WORK
    }

    /** What the meter was set to; each has its unit. */
    enum ReadMode {
        DIODE,
        OHMS,
        CONTINUITY,
        VOLTS,
        VOLTS_AC
    }

    /** How warmth was found. */
    enum WarmthMeans {
        CAMERA,
        TOUCH,
        LIQUID
    }

    /** What was done to the board. */
    enum ChangeAction {
        REMOVED,
        FITTED,
        REPLACED,
        DISCONNECTED,
        CONNECTED,
        SEPARATED,
        CLEANED;

        /** Whether this is done with heat unless the entry says otherwise. */
        public boolean usuallyHot() {
            return this == REMOVED || this == FITTED || this == REPLACED;
        }
    }

    /** How the device behaves. */
    enum RunFinding {
        DEAD,
        NO_PICTURE,
        RESTARTS,
        BOOTS,
        CHARGES,
        SHOWS_CHARGING_ONLY,
        DOES_NOT_CHARGE,
        FUNCTION_MISSING;

        /** Whether it is as it should be. */
        public boolean well() {
            return this == BOOTS || this == CHARGES;
        }
    }

    private static void finite(String member, OptionalDouble value) {
        value.ifPresent(v -> Check.finite(member, v));
    }
}
