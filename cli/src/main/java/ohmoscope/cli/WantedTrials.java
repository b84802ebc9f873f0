package ohmoscope.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;
import ohmoscope.trials.capture.TrialKind;
import picocli.CommandLine.Option;

/** Which simulated hunts a command is about: so many of each kind, by number. */
final class WantedTrials {
    @Option(names = "--seed", defaultValue = "1", description = "number of the first hunt; default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--rounds", defaultValue = "3", description = "hunts of each kind; default ${DEFAULT-VALUE}")
    private int rounds;

    @Option(names = "--kind", split = ",", description = "only these: ${COMPLETION-CANDIDATES}")
    private List<TrialKind> kinds = new ArrayList<>();

    /** One of them. */
    record Wanted(TrialKind kind, long number) {
        String name() {
            return kind.label() + "-" + number;
        }
    }

    private List<TrialKind> kinds() {
        return kinds.isEmpty() ? List.of(TrialKind.values()) : kinds;
    }

    /** One of each kind after the other. */
    List<Wanted> byRound() {
        return LongStream.range(seed, seed + rounds)
                .boxed()
                .flatMap(number -> kinds().stream().map(kind -> new Wanted(kind, number)))
                .toList();
    }

    /** All of a kind after each other. */
    List<Wanted> byKind() {
        return kinds().stream()
                .flatMap(kind -> LongStream.range(seed, seed + rounds).mapToObj(number -> new Wanted(kind, number)))
                .toList();
    }
}
