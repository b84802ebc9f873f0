package ohmoscope.instruments;

import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.LongSupplier;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.Meter;

/** A meter that speaks in lines, of any dialect; it is set to a mode only where it is not in it. */
public final class ScpiMeter implements Meter {
    private final Talk talk;
    private final LongSupplier clock;
    private Optional<ReadMode> mode = Optional.empty();

    /** @param clock the bench's one clock, nanoseconds */
    public ScpiMeter(Wire wire, Dialect dialect, LongSupplier clock) {
        this.talk = new Talk(wire, dialect);
        this.clock = clock;
    }

    @Override
    public synchronized String identity() throws InstrumentException {
        return talk.ask("identify");
    }

    @Override
    public synchronized Reading read(ReadMode wanted) throws InstrumentException {
        try {
            if (!mode.equals(Optional.of(wanted))) {
                talk.tell(word(wanted));
                mode = Optional.of(wanted);
            }
            double value = talk.number("read");
            return new Reading(
                    wanted,
                    talk.dialect().over(value) ? OptionalDouble.empty() : OptionalDouble.of(value),
                    clock.getAsLong());
        } catch (InstrumentException trouble) {
            // Whatever it is set to now, nobody knows.
            mode = Optional.empty();
            throw trouble;
        }
    }

    private String word(ReadMode wanted) throws InstrumentException {
        String word = switch (wanted) {
            case OHMS -> "ohms";
            case DIODE -> "diode";
            case CONTINUITY -> "continuity";
            case VOLTS -> "volts";
            default -> "";
        };
        if (talk.dialect().command(word).isEmpty()) {
            throw new InstrumentException(
                    Trouble.REFUSED, talk.dialect().name() + " has no words for this mode: add them to its dialect");
        }
        return word;
    }

    @Override
    public synchronized void close() {
        talk.close();
    }
}
