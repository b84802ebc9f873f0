package ohmoscope.instruments;

import java.util.OptionalDouble;
import java.util.function.LongSupplier;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;

/** A supply that speaks in lines, of any dialect. */
public final class ScpiSupply implements Supply {
    /** Its display rounds: what it says may differ by so much from what it was told. */
    private static final double SLACK_SHARE = 0.01;

    private static final double SLACK = 0.005;
    /** As near to its limit as this it is held by it. */
    private static final double AT_LIMIT = 0.97;

    private final Talk talk;
    private final LongSupplier clock;
    private double limitAmps = Double.POSITIVE_INFINITY;

    /** @param clock the bench's one clock, nanoseconds */
    public ScpiSupply(Wire wire, Dialect dialect, LongSupplier clock) {
        this.talk = new Talk(wire, dialect);
        this.clock = clock;
    }

    @Override
    public synchronized String identity() throws InstrumentException {
        return talk.ask("identify");
    }

    /** The current limit first, then protection, then the volts: at no moment does it allow more than it was asked for. */
    @Override
    public synchronized SupplySetting set(SupplySetting setting) throws InstrumentException {
        talk.tell("set_amps", setting.amps());
        protect("over_amps", setting.overAmps());
        protect("over_volts", setting.overVolts());
        talk.tell("set_volts", setting.volts());
        double volts = talk.number("volts_set");
        double amps = talk.number("amps_set");
        stands("V", setting.volts(), volts);
        stands("A", setting.amps(), amps);
        limitAmps = amps;
        return new SupplySetting(
                volts, amps, known("over_volts", setting.overVolts()), known("over_amps", setting.overAmps()));
    }

    private void protect(String what, OptionalDouble at) throws InstrumentException {
        if (at.isPresent() && talk.dialect().command(what).isPresent()) {
            talk.tell(what, at.getAsDouble());
        }
    }

    /** A supply without such protection says that it has none. */
    private OptionalDouble known(String what, OptionalDouble at) {
        return talk.dialect().command(what).isPresent() ? at : OptionalDouble.empty();
    }

    private static void stands(String unit, double told, double says) throws InstrumentException {
        if (!(Math.abs(says - told) <= SLACK + SLACK_SHARE * Math.abs(told))) {
            throw new InstrumentException(
                    Trouble.REFUSED,
                    "it was told " + told + " " + unit + " and says " + says + " " + unit
                            + ": look at its range and its front panel's lock");
        }
    }

    @Override
    public synchronized void on() throws InstrumentException {
        talk.tell("on");
        if (!talk.yes("is_on")) {
            throw new InstrumentException(
                    Trouble.REFUSED, "its output stays off: protection that tripped has to be cleared at the supply");
        }
    }

    @Override
    public synchronized void off() throws InstrumentException {
        talk.tell("off");
        if (talk.yes("is_on")) {
            throw new InstrumentException(Trouble.REFUSED, "its output stays on: switch it off at the supply, now");
        }
    }

    @Override
    public synchronized Shown shown() throws InstrumentException {
        double volts = talk.number("volts");
        double amps = talk.number("amps");
        boolean on = talk.yes("is_on");
        return new Shown(volts, amps, on, on && amps >= AT_LIMIT * limitAmps, clock.getAsLong());
    }

    @Override
    public synchronized void close() {
        try {
            talk.tell("off");
        } catch (InstrumentException gone) {
            // Nobody hears it: the watchdog and the supply's own limits are what is left.
        }
        talk.close();
    }
}
