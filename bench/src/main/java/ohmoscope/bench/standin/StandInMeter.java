package ohmoscope.bench.standin;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import ohmoscope.core.circuit.Meter;

/** A meter on the net that the supply's leads are on, speaking the usual words. */
public final class StandInMeter implements Function<String, Optional<String>> {
    private static final String OVER_RANGE = "9.9E37";
    private static final double BEEPS_BELOW_OHMS = 30;

    private final StandInBoard board;
    private String mode = "VOLT:DC";
    private String error = "";

    public StandInMeter(StandInBoard board) {
        this.board = board;
    }

    @Override
    public synchronized Optional<String> apply(String line) {
        String word = line.toUpperCase(Locale.ROOT).strip();
        if (word.startsWith("CONF:")) {
            String wanted = word.substring("CONF:".length());
            switch (wanted) {
                case "RES", "DIOD", "CONT", "VOLT:DC" -> mode = wanted;
                default -> error = "-113,\"Undefined header\"";
            }
            return Optional.empty();
        }
        return switch (word) {
            case "*IDN?" -> Optional.of("Mossgill Instruments,Stand-in meter,0,1.0");
            case "*CLS" -> {
                error = "";
                yield Optional.empty();
            }
            case "SYST:ERR?" -> {
                String said = error.isEmpty() ? "0,\"No error\"" : error;
                error = "";
                yield Optional.of(said);
            }
            case "READ?" -> Optional.of(reading());
            default -> {
                error = "-113,\"Undefined header\"";
                yield word.endsWith("?") ? Optional.of("") : Optional.empty();
            }
        };
    }

    private String reading() {
        OptionalDouble value = switch (mode) {
            case "RES" -> board.read(Meter.Mode.OHMS);
            case "DIOD" -> board.read(Meter.Mode.DIODE_VOLTS);
            case "CONT" -> {
                OptionalDouble ohms = board.read(Meter.Mode.OHMS);
                yield ohms.isPresent() && ohms.getAsDouble() < BEEPS_BELOW_OHMS ? ohms : OptionalDouble.empty();
            }
            default -> OptionalDouble.of(board.volts());
        };
        return value.isPresent() ? String.format(Locale.ROOT, "%+.6E", value.getAsDouble()) : OVER_RANGE;
    }
}
