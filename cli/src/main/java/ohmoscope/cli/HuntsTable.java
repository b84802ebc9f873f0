package ohmoscope.cli;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ohmoscope.trials.hunt.Hunts.End;
import ohmoscope.trials.hunt.Hunts.Player;
import ohmoscope.trials.hunt.Hunts.Stated;
import ohmoscope.trials.hunt.Hunts.Told;

/** What hunts came to, worst first within the one that is asked: by kind for the advice, in all for each player. */
record HuntsTable(List<Told> hunts) {
    private static final double[] BINS = {0, 0.1, 0.3, 0.5, 0.7, 0.85, 0.95, 1.0001};

    void print(PrintWriter out) {
        out.printf(
                Locale.ROOT,
                "%-20s %6s %7s %7s %7s %7s %8s %6s %6s%n",
                "",
                "hunts",
                "solved",
                "dry",
                "false",
                "long",
                "minutes",
                "wrong",
                "harm");
        for (Player player : Player.values()) {
            line(out, player.name().toLowerCase(Locale.ROOT).replace('_', ' '), of(player));
        }
        Map<String, List<Told>> kinds = of(Player.ADVICE).stream()
                .collect(Collectors.groupingBy(Told::kind, TreeMap::new, Collectors.toList()));
        kinds.forEach((kind, told) -> line(out, "  " + kind, told));
        out.println();
        out.println("stated by the first hypothesis, and how often it was right:");
        List<Stated> stated =
                of(Player.ADVICE).stream().flatMap(t -> t.stated().stream()).toList();
        for (int i = 0; i + 1 < BINS.length; i++) {
            double low = BINS[i];
            double high = BINS[i + 1];
            List<Stated> bin = stated.stream()
                    .filter(s -> s.probability() >= low && s.probability() < high)
                    .toList();
            if (!bin.isEmpty()) {
                out.printf(
                        Locale.ROOT,
                        "  %.2f stated, %.2f right (%d)%n",
                        bin.stream().mapToDouble(Stated::probability).average().orElse(0),
                        bin.stream().filter(Stated::right).count() / (double) bin.size(),
                        bin.size());
            }
        }
    }

    private List<Told> of(Player player) {
        return hunts.stream().filter(t -> t.player() == player).toList();
    }

    private static void line(PrintWriter out, String name, List<Told> told) {
        out.printf(
                Locale.ROOT,
                "%-20s %6d %7.2f %7.2f %7.2f %7.2f %8.1f %6.2f %6.2f%n",
                name,
                told.size(),
                share(told, End.SOLVED),
                share(told, End.RAN_DRY),
                share(told, End.FALSE_PROOF),
                share(told, End.TOO_LONG),
                told.stream().mapToDouble(Told::minutes).average().orElse(0),
                told.stream().mapToDouble(Told::wrongRemovals).average().orElse(0),
                told.stream().mapToDouble(Told::overstress).average().orElse(0));
    }

    private static double share(List<Told> told, End end) {
        return told.stream().filter(t -> t.end() == end).count() / (double) Math.max(1, told.size());
    }
}
