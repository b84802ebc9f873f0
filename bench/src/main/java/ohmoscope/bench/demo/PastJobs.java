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

    /** How a job went. */
    private enum Went {
        NAMED,
        /** The neighbour came off first. */
        NEIGHBOUR_FIRST,
        /** Given up, or still open. */
        UNPROVEN
    }

    /** Every ninth, and every twelfth. */
    private static final int NEIGHBOUR_EVERY = 9;

    private static final int UNPROVEN_EVERY = 12;
    private static final int JOBS = 24;

    private PastJobs() {}

    private record Bench(Board board, String rail) {}

    public static List<DemoJobs.Demo> all() {
        List<Bench> boards = List.of(
                new Bench(Rails.TARN.of(DemoBoards.tarn()), "VMAIN"),
                new Bench(Rails.BECK.of(DemoBoards.beck()), "VLICELL"),
                new Bench(Rails.FURROW.of(DemoBoards.furrow()), "VSEED"),
                new Bench(Rails.RIDGE.of(DemoBoards.ridge()), "VBATT"));
        Random random = new Random(SEED);
        List<DemoJobs.Demo> jobs = new ArrayList<>();
        for (int i = 1; i <= JOBS; i++) {
            Went went = i % UNPROVEN_EVERY == 0
                    ? Went.UNPROVEN
                    : i % NEIGHBOUR_EVERY == 0 ? Went.NEIGHBOUR_FIRST : Went.NAMED;
            Bench bench = boards.get(random.nextInt(boards.size()));
            jobs.add(EvidenceJobs.told(
                    "K-0" + (FIRST_NUMBER + i - 1),
                    COMPLAINTS.get(random.nextInt(COMPLAINTS.size())),
                    FIRST_DAY.plus(Duration.ofDays((long) DAYS_APART * (i - 1))).toString(),
                    bench::board,
                    (board, entries) -> RailInQuestion.stated(bench.rail()),
                    Map.of(),
                    lines(bench, went, random)));
        }
        return jobs;
    }

    private static String lines(Bench bench, Went went, Random random) {
        List<Part> bank = bench.board()
                .partsOn(bench.rail())
                .filter(p -> p.kind() == PartKind.CAPACITOR && p.side() == Side.TOP)
                .toList();
        Part culprit = bank.get(random.nextInt(bank.size()));
        Part neighbour = bank.stream()
                .filter(p -> p != culprit)
                .min(Comparator.comparingDouble(p -> Math.hypot(p.xMm() - culprit.xMm(), p.yMm() - culprit.yMm())))
                .orElseThrow();
        double diodeV = 0.002 + 0.01 * random.nextDouble();
        double railV = 0.03 + 0.2 * random.nextDouble();
        double warmK = 1.5 + 5 * random.nextDouble();
        String low = String.format(Locale.ROOT, "%s d %.3f red%n", bench.rail(), diodeV);
        StringBuilder lines = new StringBuilder("unplugged battery\n").append(low);
        lines.append(
                String.format(Locale.ROOT, "inj %s 1V 2A %.0fmV 2.00A leads 10mohm%n", bench.rail(), 1000 * railV));
        String first = (went == Went.NEIGHBOUR_FIRST ? neighbour : culprit).ref();
        lines.append(String.format(Locale.ROOT, "warm %s %.1fK%n", first, warmK));
        if (went == Went.NEIGHBOUR_FIRST) {
            lines.append("removed ").append(first).append('\n').append(low);
            lines.append(String.format(Locale.ROOT, "warm %s %.1fK%n", culprit.ref(), warmK));
        }
        if (went != Went.UNPROVEN) {
            lines.append("removed ").append(culprit.ref()).append('\n');
            lines.append(String.format(
                    Locale.ROOT, "%s d %.3f red%nboots%n", bench.rail(), 0.4 + 0.08 * random.nextDouble()));
        }
        return lines.toString();
    }
}
