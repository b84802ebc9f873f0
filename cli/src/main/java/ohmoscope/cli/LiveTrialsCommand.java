package ohmoscope.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import ohmoscope.trials.capture.LiveTrial;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code live-trials}: how fast the final answer of a movie that was looked into while it grew is there, and how good. */
@Command(
        name = "live-trials",
        description =
                "Looks into simulated movies while they grow, 25 frames a second: how long the final answer takes, and"
                        + " how far it is from the stored movie's. Same seed, same hunts.",
        mixinStandardHelpOptions = true)
final class LiveTrialsCommand implements Callable<Integer> {
    private static final double SAME = 0.01;

    @Mixin
    private WantedTrials trials;

    @Option(names = "--width", defaultValue = "256", description = "of the picture, pixels; default ${DEFAULT-VALUE}")
    private int width;

    @Option(names = "--height", defaultValue = "192", description = "of the picture, pixels; default ${DEFAULT-VALUE}")
    private int height;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        PrintWriter out = spec.commandLine().getOut();
        List<LiveTrial.Outcome> all = new ArrayList<>();
        for (WantedTrials.Wanted hunt : trials.byKind()) {
            LiveTrial.Outcome outcome =
                    LiveTrial.of(hunt.kind(), hunt.number(), width, height).run();
            all.add(outcome);
            out.println(line(hunt.name(), outcome));
            out.flush();
        }
        List<LiveTrial.Outcome> atOnce =
                all.stream().filter(o -> o.last().isPresent()).toList();
        if (!atOnce.isEmpty()) {
            double[] seconds = atOnce.stream()
                    .mapToDouble(LiveTrial.Outcome::lastS)
                    .sorted()
                    .toArray();
            long same = atOnce.stream().filter(o -> o.apart() <= SAME).count();
            out.println(String.format(
                    Locale.ROOT,
                    "at once in %d of %d: %.2f s (median), %.2f s (9 in 10), %.2f s (most); within %.2f of the stored answer in"
                            + " %d of %d",
                    atOnce.size(),
                    all.size(),
                    seconds[seconds.length / 2],
                    seconds[(int) (0.9 * (seconds.length - 1))],
                    seconds[seconds.length - 1],
                    SAME,
                    same,
                    atOnce.size()));
        }
        return 0;
    }

    private static String line(String name, LiveTrial.Outcome outcome) {
        String stored = String.format(Locale.ROOT, "stored %.2f s", outcome.storedS());
        return outcome.last().isEmpty()
                ? String.format(Locale.ROOT, "%-20s nobody stands out   %s", name, stored)
                : String.format(
                        Locale.ROOT, "%-20s %.2f s  %s  apart %.4f", name, outcome.lastS(), stored, outcome.apart());
    }
}
