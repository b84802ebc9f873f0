package ohmoscope.bench.demo;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.prove.RailInQuestion;

/**
 * What the demo's shop did earlier in the year, so that its logbook has something to count: shorted capacitors, found by
 * current and warmth, most of them named before they were heated. Same jobs each time.
 */
public final class PastJobs {
    private static final long SEED = 390;
    private static final int FIRST_NUMBER = 391;
    private static final Instant FIRST_DAY = Instant.parse("2026-03-02T08:10:00Z");
    private static final int DAYS_APART = 11;
    private static final List<String> COMPLAINTS = List.of(
            "Dead since the thaw",
            "Gets warm and stays dark",
            "Drains its cell overnight",
            "Does not start after a fall",
            "Blinks once and goes out",
            "Came in a wet bag",
            "Silent since the last charge");

    /** In every ninth the warmest part's neighbour came off first; every twelfth is open still. */
    private static final int NEIGHBOUR_EVERY = 9;

    private static final int UNPROVEN_EVERY = 12;
    private static final int JOBS = 24;

    private PastJobs() {}

    private record Bench(Board board, String rail) {}

    /**
     * One of them.
     *
     * @param begun with what was read before a camera looked
     * @param tries what was taken off, in this order; the last one cleared the rail. None where the job is open
     */
    public record Past(DemoJobs.Demo begun, List<Try> tries) {
        public Past {
            tries = List.copyOf(tries);
        }
    }

    /** A part that looked warm and came off. @param afterVolts what the rail's diode reading then was */
    public record Try(String ref, double warmK, double afterVolts) {}

    public static List<Past> all() {
        List<Bench> boards = List.of(
                new Bench(Rails.TARN.of(DemoBoards.tarn()), "VMAIN"),
                new Bench(Rails.BECK.of(DemoBoards.beck()), "VLICELL"),
                new Bench(Rails.FURROW.of(DemoBoards.furrow()), "VSEED"),
                new Bench(Rails.RIDGE.of(DemoBoards.ridge()), "VBATT"));
        Random random = new Random(SEED);
        List<Past> jobs = new ArrayList<>();
        for (int i = 1; i <= JOBS; i++) {
            Bench bench = boards.get(random.nextInt(boards.size()));
            DemoJobs.Demo begun = EvidenceJobs.told(
                    "K-0" + (FIRST_NUMBER + i - 1),
                    COMPLAINTS.get(random.nextInt(COMPLAINTS.size())),
                    FIRST_DAY.plus(Duration.ofDays((long) DAYS_APART * (i - 1))).toString(),
                    bench::board,
                    (board, entries) -> RailInQuestion.stated(bench.rail()),
                    Map.of(),
                    readings(bench, random));
            jobs.add(new Past(begun, i % UNPROVEN_EVERY == 0 ? List.of() : tries(bench, i, random)));
        }
        return jobs;
    }

    private static String readings(Bench bench, Random random) {
        return String.format(
                Locale.ROOT,
                "unplugged battery%n%s d %.3f red%ninj %s 1V 2A %.0fmV 2.00A leads 10mohm%n",
                bench.rail(),
                low(random),
                bench.rail(),
                30 + 200 * random.nextDouble());
    }

    private static double low(Random random) {
        return 0.002 + 0.01 * random.nextDouble();
    }

    private static List<Try> tries(Bench bench, int job, Random random) {
        List<Part> bank = bench.board()
                .partsOn(bench.rail())
                .filter(p -> p.kind() == PartKind.CAPACITOR && p.side() == Side.TOP)
                .toList();
        Part culprit = bank.get(random.nextInt(bank.size()));
        Part neighbour = bank.stream()
                .filter(p -> p != culprit)
                .min(Comparator.comparingDouble(p -> Math.hypot(p.xMm() - culprit.xMm(), p.yMm() - culprit.yMm())))
                .orElseThrow();
        double warmK = 1.5 + 5 * random.nextDouble();
        Try right = new Try(culprit.ref(), warmK, 0.4 + 0.08 * random.nextDouble());
        return job % NEIGHBOUR_EVERY == 0
                ? List.of(new Try(neighbour.ref(), warmK, low(random)), right)
                : List.of(right);
    }
}
