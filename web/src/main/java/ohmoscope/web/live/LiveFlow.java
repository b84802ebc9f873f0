package ohmoscope.web.live;

import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import ohmoscope.core.inject.InjectionPlan.Rung;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;
import ohmoscope.core.live.Ending;
import ohmoscope.core.live.HoldWatch;
import ohmoscope.formats.Texts;
import ohmoscope.instruments.GuardedSupply;

/**
 * The one place that switches a bench's output on, and that only while the key is held; whatever ends it, the output is
 * switched off in a {@code finally}, and where that cannot be said, the watchdog does it. For the bench's thread, but for
 * {@link #alive}.
 */
final class LiveFlow {
    private static final long BETWEEN_MS = 25;
    private static final int OFF_TRIES = 3;
    private static final double OVER_SHARE = 1.25;
    private static final double OVER_VOLTS = 0.2;
    private static final double OVER_AMPS = 0.2;

    private final Instruments instruments;
    private final Optional<Eye> eye;
    private final LiveWork work;
    private final LiveTold told;
    private final Supplier<Optional<Ending>> letGo;
    private volatile boolean flowing;

    /**
     * What one stretch of current showed.
     *
     * @param setting as the supply reads it back
     * @param settled empty where the output never came on
     */
    record Flowed(Ending ending, SupplySetting setting, Optional<Supply.Shown> settled) {}

    /** What is looked at while current flows. */
    interface Meanwhile {
        Meanwhile NOTHING = (now, onSeconds) -> Optional.empty();

        /** @param onSeconds since it flows @return why it should end */
        Optional<Ending> look(Supply.Shown now, double onSeconds);
    }

    /** @param letGo why the one who holds the key ends it; empty while he holds it */
    LiveFlow(
            Instruments instruments,
            Optional<Eye> eye,
            LiveWork work,
            LiveTold told,
            Supplier<Optional<Ending>> letGo) {
        this.instruments = instruments;
        this.eye = eye;
        this.work = work;
        this.told = told;
        this.letGo = letGo;
    }

    static SupplySetting setting(Rung rung) {
        return protectedAt(new SupplySetting(rung.setVolts(), rung.limitAmps()));
    }

    /** With the supply's own protection a little above. */
    static SupplySetting protectedAt(SupplySetting s) {
        return new SupplySetting(
                s.volts(),
                s.amps(),
                OptionalDouble.of(Math.max(s.volts() * OVER_SHARE, s.volts() + OVER_VOLTS)),
                OptionalDouble.of(Math.max(s.amps() * OVER_SHARE, s.amps() + OVER_AMPS)));
    }

    /** A sign of life of the one who holds the key. Never waits. */
    void alive() {
        if (flowing) {
            instruments.supply().ifPresent(GuardedSupply::alive);
        }
    }

    /** Lets current flow: limits first, read back; then on, for as long as the key is held and nothing ends it. */
    Flowed flow(SupplySetting wanted, double forSeconds, Meanwhile meanwhile) throws InstrumentException {
        GuardedSupply supply = instruments
                .supply()
                .orElseThrow(
                        () -> new InstrumentException(InstrumentException.Trouble.LOST, Texts.of("live.no-supply")));
        supply.arm();
        SupplySetting says = supply.set(wanted);
        told.set(says);
        Optional<Ending> ending = letGo.get();
        if (ending.isPresent()) {
            return new Flowed(ending.get(), says, Optional.empty());
        }
        told.meter(OptionalDouble.empty());
        HoldWatch watch = watch(says, forSeconds);
        try {
            flowing = true;
            work.row(System.nanoTime(), 0, 0, false);
            supply.on();
            eye.ifPresent(e -> e.powered(true));
            eye.ifPresent(e -> e.switched(true, System.nanoTime()));
            told.say("plain", Texts.of("live.flows"));
            watch = watch(says, forSeconds);
            while (ending.isEmpty()) {
                Supply.Shown now = supply.shown();
                double onSeconds = watch.onSeconds(now.atNanos());
                told.shows(now);
                told.seconds(OptionalDouble.of(onSeconds));
                work.row(now.atNanos(), now.volts(), now.amps(), now.on());
                ending = watch.next(now).or(letGo).or(() -> meanwhile.look(now, onSeconds));
                told.changed();
                pause();
            }
        } catch (InstrumentException trouble) {
            told.supplySays(trouble.getMessage());
            // What is there and says no has its protection latched, perhaps since just after the last hold.
            ending = Optional.of(
                    trouble.trouble() == InstrumentException.Trouble.REFUSED
                            ? Ending.SUPPLY_TRIPPED
                            : Ending.INSTRUMENT_LOST);
        } finally {
            off(supply);
        }
        return new Flowed(ending.orElse(Ending.RELEASED), says, watch.settled());
    }

    private HoldWatch watch(SupplySetting says, double forSeconds) {
        return new HoldWatch(says, forSeconds, work.leadOhms(), work.leadRatedAmps(), System.nanoTime());
    }

    private void off(GuardedSupply supply) {
        flowing = false;
        eye.ifPresent(e -> e.powered(false));
        eye.ifPresent(e -> e.switched(false, System.nanoTime()));
        for (int i = 0; i < OFF_TRIES; i++) {
            try {
                supply.off();
                work.row(System.nanoTime(), 0, 0, false);
                told.shows(supply.shown());
                return;
            } catch (InstrumentException trouble) {
                told.supplyLost(trouble.getMessage());
            }
        }
        // Nobody can say that it is off: the watchdog goes on trying, and so must the hand at the supply.
        supply.close();
        told.say("bad", Texts.of("live.off-unknown"));
    }

    static void pause() {
        try {
            TimeUnit.MILLISECONDS.sleep(BETWEEN_MS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }
}
