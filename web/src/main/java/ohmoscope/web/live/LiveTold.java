package ohmoscope.web.live;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.instrument.Meter;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;
import ohmoscope.core.live.HoldWatch;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.live.LiveState.There;
import org.jspecify.annotations.Nullable;

/** What the page is told of a bench: its words, what was kept, and what supply and meter show. For any thread. */
final class LiveTold {
    private static final int MOST_KEPT = 12;

    private final AtomicLong version;
    private final Deque<String> kept = new ArrayDeque<>();
    private volatile String doing = "idle";
    private volatile String words = Texts.of("live.begin");
    private volatile String tone = "plain";
    private volatile Optional<Supply.Shown> shown = Optional.empty();
    private volatile Optional<SupplySetting> set = Optional.empty();
    private volatile OptionalDouble meterVolts = OptionalDouble.empty();
    private volatile OptionalDouble seconds = OptionalDouble.empty();
    private volatile String supplySays = "";
    private volatile String meterSays = "";

    /** @param version counts up with everything that is new to the page */
    LiveTold(AtomicLong version) {
        this.version = version;
    }

    void changed() {
        version.incrementAndGet();
    }

    long version() {
        return version.get();
    }

    void say(String how, String what) {
        tone = how;
        words = what;
        changed();
    }

    /** Whether a text stands there now. */
    boolean says(String text) {
        return words.equals(text);
    }

    String words() {
        return words;
    }

    String tone() {
        return tone;
    }

    void doing(String what) {
        doing = what;
        changed();
    }

    String doing() {
        return doing;
    }

    /** An entry was kept. */
    void note(String entry) {
        synchronized (kept) {
            kept.addFirst(entry);
            while (kept.size() > MOST_KEPT) {
                kept.removeLast();
            }
        }
        changed();
    }

    /** The newest first. */
    List<String> kept() {
        synchronized (kept) {
            return List.copyOf(kept);
        }
    }

    // ---- supply and meter ----------------------------------------------------------------------

    void set(SupplySetting setting) {
        set = Optional.of(setting);
        changed();
    }

    void shows(Supply.Shown now) {
        shown = Optional.of(now);
    }

    Optional<Supply.Shown> shown() {
        return shown;
    }

    /** @param why empty where nothing is wrong with it */
    void supplySays(String why) {
        supplySays = why;
    }

    /** Nobody knows what it shows. */
    void supplyLost(String why) {
        shown = Optional.empty();
        supplySays = why;
    }

    void meter(OptionalDouble volts) {
        meterVolts = volts;
    }

    /** @param why empty where nothing is wrong with it */
    void meterSays(String why) {
        meterSays = why;
    }

    /** @param on since current flows; empty while none does */
    void seconds(OptionalDouble on) {
        seconds = on;
    }

    OptionalDouble seconds() {
        return seconds;
    }

    LiveState.Shown instruments(double leadOhms) {
        Optional<Supply.Shown> now = shown;
        OptionalDouble ohms = now.isPresent() ? HoldWatch.ohms(now.get(), leadOhms) : OptionalDouble.empty();
        return new LiveState.Shown(
                now.map(Supply.Shown::volts).orElse(null),
                now.map(Supply.Shown::amps).orElse(null),
                boxed(ohms),
                ohms.isPresent() ? now.get().amps() * now.get().amps() * ohms.getAsDouble() : null,
                now.map(Supply.Shown::on).orElse(false),
                now.map(Supply.Shown::limiting).orElse(false),
                boxed(seconds),
                boxed(meterVolts));
    }

    LiveState.@Nullable Limits limits() {
        return set.map(LiveTold::limits).orElse(null);
    }

    List<There> there(Instruments instruments, Optional<Eye> eye) {
        return List.of(
                there("supply", instruments.supply().isPresent(), supplySays),
                there("meter", instruments.meter().isPresent(), meterSays),
                eye.map(e -> new There("camera", e.there() ? "ok" : "bad", e.words()))
                        .orElseGet(() -> there("camera", false, "")));
    }

    // ---- in words ------------------------------------------------------------------------------

    static String text(Meter.Reading reading) {
        return reading.value().isEmpty()
                ? "OL"
                : Eng.prefixed(
                                reading.value().getAsDouble(),
                                reading.mode() == ReadMode.OHMS || reading.mode() == ReadMode.CONTINUITY ? "Ω" : "V",
                                3)
                        .toString();
    }

    static String text(Supply.Shown shown) {
        return String.format(Locale.ROOT, "%s, %.2f A", Eng.prefixed(shown.volts(), "V", 3), shown.amps());
    }

    private static LiveState.Limits limits(SupplySetting set) {
        String over = set.overVolts().isPresent() && set.overAmps().isPresent()
                ? Texts.of(
                        "live.protection",
                        Eng.fixed(set.overVolts().getAsDouble(), 2) + " V",
                        Eng.fixed(set.overAmps().getAsDouble(), 2) + " A")
                : Texts.of("live.no-protection");
        return new LiveState.Limits(set.volts(), set.amps(), over);
    }

    private static There there(String role, boolean present, String trouble) {
        return new There(role, present ? trouble.isEmpty() ? "ok" : "bad" : "none", trouble);
    }

    private static @Nullable Double boxed(OptionalDouble value) {
        return value.isPresent() ? value.getAsDouble() : null;
    }
}
