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
     * @param begun as it came, with nothing measured
     * @param opened when it was
     * @param acts what was done at the bench, in this order; the last part off cleared the rail. None came off where the job is
     *     open
     */
    public record Past(DemoJobs.Demo begun, Instant opened, List<Act> acts) {
        public Past {
            acts = List.copyOf(acts);
        }
    }

    /** Something that was done. */
    public sealed interface Act {
        /** Since the one before. */
        Duration after();

        /** A line that was typed. */
        record Line(Duration after, String line) implements Act {}

        /** A part that looked warm came off. */
        record Off(Duration after, String ref) implements Act {}

        /** The rail was read again. @param volts its diode reading */
        record Again(Duration after, double volts) implements Act {}
    }

    public static List<Past> all() {
        List<Bench> boards = List.of(
                new Bench(Rails.TARN.of(DemoBoards.tarn()), "VMAIN"),
                new Bench(Rails.BECK.of(DemoBoards.beck()), "VLICELL"),
                new Bench(Rails.FURROW.of(DemoBoards.furrow()), "VSEED"),
                new Bench(Rails.RIDGE.of(DemoBoards.ridge()), "VBATT"));
        Random random = new Random(SEED);
        Hours hours = new Hours(new Random(SEED + 1));
        List<Past> jobs = new ArrayList<>();
        for (int i = 1; i <= JOBS; i++) {
            Bench bench = boards.get(random.nextInt(boards.size()));
            Instant opened = FIRST_DAY.plus(Duration.ofDays((long) DAYS_APART * (i - 1)));
            DemoJobs.Demo begun = EvidenceJobs.told(
                    "K-0" + (FIRST_NUMBER + i - 1),
                    COMPLAINTS.get(random.nextInt(COMPLAINTS.size())),
                    opened.toString(),
                    bench::board,
                    (board, entries) -> RailInQuestion.stated(bench.rail()),
                    Map.of(),
                    "");
            List<Act> acts = new ArrayList<>(readings(bench, random, hours));
            if (i % UNPROVEN_EVERY != 0) {
                acts.addAll(tries(bench, i, random, hours));
            }
            jobs.add(new Past(begun, opened, acts));
        }
        return jobs;
    }

    /** How long things take, none as long as a pause. */
    private record Hours(Random random) {
        Duration minutes(double least, double most) {
            return Duration.ofSeconds(Math.round(60 * (least + (most - least) * random.nextDouble())));
        }
    }

    private static List<Act> readings(Bench bench, Random random, Hours hours) {
        return List.of(
                new Act.Line(hours.minutes(2, 5), "unplugged battery"),
                line(hours.minutes(2, 8), "%s d %.3f red", bench.rail(), low(random)),
                line(
                        hours.minutes(4, 9),
                        "inj %s 1V 2A %.0fmV 2.00A leads 10mohm",
                        bench.rail(),
                        30 + 200 * random.nextDouble()));
    }

    private static Act.Line line(Duration after, String format, Object... values) {
        return new Act.Line(after, String.format(Locale.ROOT, format, values));
    }

    private static double low(Random random) {
        return 0.002 + 0.01 * random.nextDouble();
    }

    private static List<Act> tries(Bench bench, int job, Random random, Hours hours) {
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
        List<Act> acts = new ArrayList<>();
        double good = 0.4 + 0.08 * random.nextDouble();
        if (job % NEIGHBOUR_EVERY == 0) {
            acts.addAll(taken(neighbour, warmK, low(random), hours));
        }
        acts.addAll(taken(culprit, warmK, good, hours));
        acts.add(new Act.Line(hours.minutes(3, 9), "boots"));
        return acts;
    }

    private static List<Act> taken(Part part, double warmK, double afterVolts, Hours hours) {
        return List.of(
                line(hours.minutes(1, 5), "warm %s %.1fK", part.ref(), warmK),
                new Act.Off(hours.minutes(7, 14), part.ref()),
                new Act.Again(hours.minutes(1, 3), afterVolts));
    }
}
