package ohmoscope.bench.standin;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import ohmoscope.core.circuit.Twin;

/** A supply of 30 V and 5 A that speaks the usual words, with current limit, protection and a queue of errors. */
public final class StandInSupply implements Function<String, Optional<String>> {
    private static final double MOST_VOLTS = 30;
    private static final double MOST_AMPS = 5;
    private static final int MOST_ERRORS = 20;

    private final StandInBoard board;
    private final Deque<String> errors = new ArrayDeque<>();
    private double volts;
    private double amps = 0.1;
    private double overVolts = MOST_VOLTS * 1.1;
    private double overAmps = MOST_AMPS * 1.1;
    private boolean on;
    private boolean tripped;

    public StandInSupply(StandInBoard board) {
        this.board = board;
    }

    @Override
    public synchronized Optional<String> apply(String line) {
        String[] words = line.toUpperCase(Locale.ROOT).split("\\s+", 2);
        String word = words[0].replaceFirst("^:?(SOUR:)", "");
        return word.endsWith("?") ? Optional.of(answer(word)) : told(word, words.length > 1 ? words[1] : "");
    }

    private String answer(String word) {
        Twin.Injected now = flows();
        return switch (word) {
            case "*IDN?" -> "Mossgill Instruments,Stand-in supply,0,1.0";
            case "VOLT?" -> number(volts);
            case "CURR?" -> number(amps);
            case "VOLT:PROT?" -> number(overVolts);
            case "CURR:PROT?" -> number(overAmps);
            case "OUTP?", "OUTP:STAT?" -> on ? "1" : "0";
            case "MEAS:VOLT?", "MEAS:VOLT:DC?" -> number(board.noisy(now.volts(), 5e-4));
            case "MEAS:CURR?", "MEAS:CURR:DC?" -> number(board.noisy(now.amps(), 3e-4));
            case "SYST:ERR?" -> errors.isEmpty() ? "0,\"No error\"" : errors.poll();
            default -> {
                error("-113,\"Undefined header\"");
                yield "";
            }
        };
    }

    /** What flows now; too much for its protection switches it off. */
    private Twin.Injected flows() {
        Twin.Injected now = board.drive(volts, amps, on);
        if (on && (now.volts() > overVolts || now.amps() > overAmps)) {
            on = false;
            tripped = true;
            now = board.drive(volts, amps, false);
        }
        return now;
    }

    private Optional<String> told(String word, String value) {
        switch (word) {
            case "*CLS" -> errors.clear();
            case "*RST" -> {
                on = false;
                tripped = false;
                volts = 0;
            }
            case "VOLT" -> volts = within(value, MOST_VOLTS, volts);
            case "CURR" -> amps = Math.max(1e-3, within(value, MOST_AMPS, amps));
            case "VOLT:PROT" -> overVolts = within(value, MOST_VOLTS * 1.1, overVolts);
            case "CURR:PROT" -> overAmps = within(value, MOST_AMPS * 1.1, overAmps);
            case "OUTP:PROT:CLE" -> tripped = false;
            case "OUTP", "OUTP:STAT" -> output(value);
            default -> error("-113,\"Undefined header\"");
        }
        flows();
        return Optional.empty();
    }

    private void output(String value) {
        switch (value) {
            case "ON", "1" -> on = !tripped;
            case "OFF", "0" -> on = false;
            default -> error("-224,\"Illegal parameter value\"");
        }
    }

    private double within(String value, double most, double before) {
        try {
            double number = Double.parseDouble(value);
            if (number >= 0 && number <= most) {
                return number;
            }
            error("-222,\"Data out of range\"");
        } catch (NumberFormatException none) {
            error("-104,\"Data type error\"");
        }
        return before;
    }

    private void error(String error) {
        if (errors.size() < MOST_ERRORS) {
            errors.add(error);
        }
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, "%.4f", value);
    }

    /** Whether its output is on, as the board feels it. */
    public synchronized boolean on() {
        flows();
        return on;
    }
}
