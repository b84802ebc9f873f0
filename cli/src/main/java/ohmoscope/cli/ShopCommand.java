package ohmoscope.cli;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import ohmoscope.trials.hunt.Hunts.End;
import ohmoscope.trials.hunt.Hunts.Told;
import ohmoscope.trials.hunt.Shop;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code shop}: the same jobs with and without what earlier ones of their model have shown. */
@Command(
        name = "shop",
        description = {
            "Plays a made-up shop's jobs in order, each as advise says, with and without the memory of earlier ones.",
            "Same seed, same jobs."
        },
        mixinStandardHelpOptions = true)
final class ShopCommand implements Callable<Integer> {
    @Option(names = "--seed", defaultValue = "1", description = "of the shop; default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--jobs", defaultValue = "120", description = "how many; default ${DEFAULT-VALUE}")
    private int jobs;

    @Option(names = "--models", defaultValue = "6", description = "kinds of boards; default ${DEFAULT-VALUE}")
    private int models;

    @Option(
            names = "--usual",
            defaultValue = "0.8",
            description = "share of jobs with one of their model's usual faults; default ${DEFAULT-VALUE}")
    private double usual;

    @Option(
            names = "--changes-at",
            defaultValue = "0",
            description = "job from which on the usual faults are others; 0, the default, for never")
    private int changesAt;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() {
        Shop shop = new Shop(seed, new Shop.Mix(models, jobs, usual, changesAt));
        CompletableFuture<List<Told>> without = CompletableFuture.supplyAsync(() -> shop.play(false));
        List<Told> with = shop.play(true);
        PrintWriter out = spec.commandLine().getOut();
        out.printf(
                Locale.ROOT,
                "%-26s %5s %7s %8s %7s %6s %6s %7s%n",
                "",
                "jobs",
                "solved",
                "minutes",
                "to-act",
                "steps",
                "wrong",
                "harm");
        print(out, "", without.join(), with);
        if (changesAt > 0 && changesAt < jobs) {
            print(out, "before the change, ", without.join().subList(0, changesAt), with.subList(0, changesAt));
            print(out, "after it, ", without.join().subList(changesAt, jobs), with.subList(changesAt, jobs));
        }
        return 0;
    }

    private static void print(PrintWriter out, String when, List<Told> without, List<Told> with) {
        line(out, when + "without", without);
        line(out, when + "with", with);
        out.printf(
                Locale.ROOT,
                "%-26s minutes %.3f, to the first heat %.3f, wrong removals %.2f%n",
                "  with over without",
                minutes(with) / minutes(without),
                toAct(with) / toAct(without),
                wrong(with) / Math.max(1e-9, wrong(without)));
    }

    private static double minutes(List<Told> told) {
        return told.stream().mapToDouble(Told::minutes).average().orElse(0);
    }

    private static double toAct(List<Told> told) {
        return told.stream().mapToDouble(Told::minutesToAct).average().orElse(0);
    }

    private static double wrong(List<Told> told) {
        return told.stream().mapToDouble(Told::wrongRemovals).average().orElse(0);
    }

    private static void line(PrintWriter out, String name, List<Told> told) {
        out.printf(
                Locale.ROOT,
                "%-26s %5d %7.3f %8.1f %7.1f %6.1f %6.3f %7.3f%n",
                name,
                told.size(),
                told.stream().filter(t -> t.end() == End.SOLVED).count() / (double) told.size(),
                minutes(told),
                toAct(told),
                told.stream().mapToInt(t -> t.steps().size() / 2).average().orElse(0),
                wrong(told),
                told.stream().mapToInt(Told::overstress).average().orElse(0));
    }
}
