package ohmoscope.instruments;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/** A dialect spoken over a wire. */
final class Talk implements AutoCloseable {
    /** Entries of an error queue that are fetched before it is given up. */
    private static final int MOST_ERRORS = 16;

    private static final int SHOWN = 60;

    private final Wire wire;
    private final Dialect dialect;

    Talk(Wire wire, Dialect dialect) {
        this.wire = wire;
        this.dialect = dialect;
    }

    Dialect dialect() {
        return dialect;
    }

    String ask(String what) throws InstrumentException {
        return wire.ask(dialect.line(what));
    }

    /** Says something, and hears whether it was understood. */
    void tell(String what) throws InstrumentException {
        said(dialect.line(what));
    }

    void tell(String what, double value) throws InstrumentException {
        said(dialect.line(what, value));
    }

    private void said(String line) throws InstrumentException {
        wire.tell(line);
        if (dialect.command("error").isEmpty()) {
            return;
        }
        StringBuilder errors = new StringBuilder();
        for (int i = 0; i < MOST_ERRORS; i++) {
            String error = wire.ask(dialect.line("error"));
            if (dialect.clean(error)) {
                break;
            }
            errors.append(errors.isEmpty() ? "" : "; ").append(error);
        }
        if (!errors.isEmpty()) {
            throw new InstrumentException(
                    Trouble.REFUSED, "\"" + line + "\" was refused: " + shortened(errors.toString()));
        }
    }

    double number(String what) throws InstrumentException {
        String answer = ask(what);
        OptionalDouble number = dialect.number(answer);
        if (number.isEmpty()) {
            throw new InstrumentException(
                    Trouble.GARBLED,
                    "\"" + dialect.line(what) + "\" was answered with \"" + shortened(answer)
                            + "\", where a number was expected: look at the dialect and the line's speed");
        }
        return number.getAsDouble();
    }

    /** 1, ON or 0, OFF; nothing else counts. */
    boolean yes(String what) throws InstrumentException {
        String answer = ask(what);
        return onOff(answer)
                .orElseThrow(() -> new InstrumentException(
                        Trouble.GARBLED,
                        "\"" + dialect.line(what) + "\" was answered with \"" + shortened(answer)
                                + "\", where 1 or 0 was expected"));
    }

    /** Empty where an answer says neither. */
    static Optional<Boolean> onOff(String answer) {
        if (answer.equals("1") || answer.equalsIgnoreCase("ON")) {
            return Optional.of(true);
        }
        return answer.equals("0") || answer.equalsIgnoreCase("OFF") ? Optional.of(false) : Optional.empty();
    }

    static String shortened(String text) {
        String printable = text.replaceAll("[^\\x20-\\x7e]", "?");
        return printable.length() > SHOWN ? printable.substring(0, SHOWN) + "…" : printable;
    }

    @Override
    public void close() {
        wire.close();
    }
}
