package ohmoscope.instruments;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.instrument.InstrumentException;

/**
 * Finds out what stands at an address: asks its name, tries the questions of each dialect that may fit, and shows what
 * answered. It only asks: nothing is set, and no output is touched.
 */
public final class Assistant {
    private static final List<String> QUESTIONS = List.of("volts_set", "amps_set", "is_on", "volts", "amps", "error");

    private Assistant() {}

    /** One question. @param answer empty where none came @param millis how long it took */
    public record Asked(String line, Optional<String> answer, long millis) {}

    /** A dialect that was tried. @param answered how many of its questions were understood */
    public record Tried(Dialect dialect, List<Asked> asked, int answered) {
        public Tried {
            asked = List.copyOf(asked);
        }

        public boolean fits() {
            return !asked.isEmpty() && answered == asked.size();
        }
    }

    /**
     * @param identity what it calls itself
     * @param tried those of its kind that may fit, the best first
     */
    public record Found(String identity, List<Tried> tried) {
        public Found {
            tried = List.copyOf(tried);
        }

        public Optional<Dialect> best() {
            return tried.stream().filter(Tried::fits).findFirst().map(Tried::dialect);
        }
    }

    /** @throws InstrumentException where nobody answers {@code *IDN?} */
    public static Found ask(Place place, Dialect.Kind kind, List<Dialect> dialects, Duration patience)
            throws InstrumentException {
        try (LineWire wire = new LineWire(place, patience, Duration.ofMillis(20))) {
            String identity = wire.ask("*IDN?");
            List<Tried> tried = new ArrayList<>();
            for (Dialect dialect : dialects) {
                if (dialect.kind() == kind && dialect.speaks(identity)) {
                    tried.add(tried(wire, dialect));
                }
            }
            tried.sort((a, b) -> Double.compare(share(b), share(a)));
            return new Found(identity, tried);
        }
    }

    private static double share(Tried tried) {
        return tried.asked().isEmpty()
                ? 0
                : tried.answered() / (double) tried.asked().size();
    }

    private static Tried tried(Wire wire, Dialect dialect) {
        List<Asked> asked = new ArrayList<>();
        int answered = 0;
        for (String question : dialect.kind() == Dialect.Kind.SUPPLY ? QUESTIONS : List.of("read", "error")) {
            Optional<String> line = dialect.command(question);
            if (line.isPresent()) {
                long from = System.nanoTime();
                Optional<String> answer = answer(wire, line.get());
                asked.add(new Asked(line.get(), answer, (System.nanoTime() - from) / 1_000_000));
                answered += answer.filter(a -> understood(dialect, question, a)).isPresent() ? 1 : 0;
            }
        }
        return new Tried(dialect, asked, answered);
    }

    private static Optional<String> answer(Wire wire, String line) {
        try {
            return Optional.of(Talk.shortened(wire.ask(line)));
        } catch (InstrumentException none) {
            return Optional.empty();
        }
    }

    private static boolean understood(Dialect dialect, String question, String answer) {
        return switch (question) {
            case "error" -> !answer.isEmpty();
            case "is_on" -> answer.matches("(?i)[01]|ON|OFF");
            default -> dialect.number(answer).isPresent();
        };
    }
}
