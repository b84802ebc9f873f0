package ohmoscope.instruments;

import java.time.Duration;
import java.util.Optional;
import java.util.function.LongSupplier;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;

/**
 * A supply whose only line a watchdog holds: its output is on only while somebody gives signs of life. Who holds the key
 * calls {@link #alive} at least every quarter of a second; when he does not, the watchdog switches off.
 */
public final class GuardedSupply implements Supply {
    /** From the last sign of life to the word that switches off, where nothing else is said. */
    public static final Duration SILENCE = Duration.ofMillis(350);

    private final Place place;
    private final Dialect dialect;
    private final LongSupplier clock;
    private final Duration silence;
    private final Duration limit;
    private volatile Optional<Watched> watched = Optional.empty();

    private record Watched(GuardedWire wire, ScpiSupply supply) {}

    /**
     * @param clock the bench's one clock, nanoseconds
     * @param silence from the last sign of life to the word that switches off
     * @param limit the longest that the output may be on at a stretch, whatever happens
     */
    public GuardedSupply(Place place, Dialect dialect, LongSupplier clock, Duration silence, Duration limit) {
        this.place = place;
        this.dialect = dialect;
        this.clock = clock;
        this.silence = silence;
        this.limit = limit;
    }

    /**
     * Has the watchdog open the line, so that nothing need wait for it. Where an earlier one went by itself, the output is
     * switched off first.
     *
     * @throws InstrumentException where no watchdog can be had: then nothing can be switched on
     */
    public synchronized void arm() throws InstrumentException {
        supply();
    }

    private synchronized ScpiSupply supply() throws InstrumentException {
        if (watched.isPresent() && watched.get().wire().watched()) {
            return watched.get().supply();
        }
        boolean unknown = watched.isPresent();
        GuardedWire wire = GuardedWire.open(place, dialect, silence, limit);
        ScpiSupply fresh = new ScpiSupply(wire, dialect, clock);
        watched = Optional.of(new Watched(wire, fresh));
        if (unknown) {
            fresh.off();
        }
        return fresh;
    }

    @Override
    public String identity() throws InstrumentException {
        return supply().identity();
    }

    @Override
    public SupplySetting set(SupplySetting setting) throws InstrumentException {
        return supply().set(setting);
    }

    @Override
    public void on() throws InstrumentException {
        ScpiSupply supply = supply();
        if (!alive()) {
            throw new InstrumentException(Trouble.LOST, "the watchdog has gone, so nothing is switched on: try again");
        }
        supply.on();
    }

    /**
     * A sign of life of the one who holds the key, while the output is on; never waits for the supply.
     *
     * @return whether the watchdog still stands there
     */
    public boolean alive() {
        return watched.map(w -> w.wire().alive()).orElse(false);
    }

    /** The watchdog does not rest before the output is known to be off. */
    @Override
    public void off() throws InstrumentException {
        supply().off();
        watched.ifPresent(w -> w.wire().rest());
    }

    @Override
    public Shown shown() throws InstrumentException {
        return supply().shown();
    }

    /** Where nobody can say that the output is off, the watchdog sees to it when its pipe ends. */
    @Override
    public synchronized void close() {
        watched.ifPresent(w -> {
            try {
                w.supply().off();
                w.wire().rest();
            } catch (InstrumentException gone) {
                // The watchdog tries for longer than we do.
            }
            w.wire().close();
        });
        watched = Optional.empty();
    }
}
