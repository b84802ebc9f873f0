package ohmoscope.bench.demo;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.BiFunction;
import java.util.function.DoubleUnaryOperator;
import java.util.function.Supplier;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;

/** Jobs that are decided before any injection, written as a technician would type them. */
final class EvidenceJobs {
    private static final double TRACE_HZ = 10;

    private EvidenceJobs() {}

    static List<DemoJobs.Demo> all() {
        Board heron = Rails.HERON.of(DecisionBoards.heron());
        Board otter = Rails.OTTER.of(DecisionBoards.otter());
        List<DemoJobs.Demo> jobs = new ArrayList<>();
        jobs.add(job(
                "K-0425",
                otter,
                "VSLATE",
                "Plug wobbles, dead since a cheap cable",
                "2026-11-25T08:20:00Z",
                Map.of(),
                """
                look J1 pins touching
                VPLUG d .003 red
                """));
        jobs.add(job(
                "K-0426",
                heron,
                "VDECK",
                "Adapter is good, console stays dark",
                "2026-11-25T08:32:00Z",
                Map.of(),
                """
                charger J1 19.2V 8mA flat battery out
                look J1 clean
                VJACK_F v 19.1 charger
                VCHIP v 0.3 charger
                VCHIP ohm 8200
                across R2 ohm OL
                """));
        jobs.add(job(
                "K-0427",
                heron,
                "VDECK",
                "Supply trips as soon as the battery is in",
                "2026-11-25T08:47:00Z",
                Map.of(1, trace(t -> t < 1.5 ? 19.2 : 6.1, t -> t < 1.5 ? 0.02 : 4.0, 427)),
                """
                charger J1 6.0V 4.0A collapse battery in
                unplugged battery
                bench J1 19V 0.5A flat battery out
                VDECK v 19.0 bench
                VCELLS v 18.9 bench
                BGATE v 7.4 bench
                BPD v 3.6 bench
                BEN v 0 bench
                """));
        jobs.add(job(
                "K-0428",
                otter,
                "VSLATE",
                "Tablet stays at five volts",
                "2026-11-25T09:02:00Z",
                Map.of(1, trace(t -> 5.1, t -> t < 0.8 ? 0 : 0.032, 428)),
                """
                charger J1 5.1V 0.03A flat side a battery out
                charger J1 5.1V 0.03A flat side b battery out
                look J1 clean
                VPLUG_F v 5.1 charger
                V3KEEP v 0.02 charger
                """));
        jobs.add(job(
                "K-0429",
                heron,
                "VDECK",
                "Bought in as tested, core reads three ohms",
                "2026-11-25T09:10:00Z",
                Map.of(),
                """
                VDECK ohm 14k
                V5D ohm 820
                VGFX ohm 3.2
                """));
        jobs.add(job(
                "K-0430",
                heron,
                "VDECK",
                "Came from another bench, does not charge",
                "2026-11-25T09:25:00Z",
                Map.of(2, trace(EvidenceJobs::negotiated, EvidenceJobs::boot, 430)),
                """
                look U1 earlier work
                charger J1 19.2V 0.7A rising battery out on
                look C6 missing
                VDECK d .45 red
                no picture
                """));
        return jobs;
    }

    private static double negotiated(double t) {
        return 19.2;
    }

    private static double boot(double t) {
        return t < 1 ? 0.02 : t < 4 ? 0.22 : t < 9 ? 0.45 : 0.7;
    }

    /** @param traces by the number of the entry that they belong to */
    private static DemoJobs.Demo job(
            String id,
            Board board,
            String rail,
            String title,
            String opened,
            Map<Integer, String> traces,
            String lines) {
        return told(id, title, opened, () -> board, (b, entries) -> RailInQuestion.stated(rail), traces, lines);
    }

    /**
     * A job as it was typed.
     *
     * @param rail what it is about, by its board and entries
     * @param traces by the number of the entry that they belong to
     */
    static DemoJobs.Demo told(
            String id,
            String title,
            String opened,
            Supplier<Board> on,
            BiFunction<Board, List<Observation>, RailInQuestion> rail,
            Map<Integer, String> traces,
            String lines) {
        return new DemoJobs.Demo(id, () -> {
            Board board = on.get();
            Map<String, String> files = new TreeMap<>();
            List<Observation> observations = new ArrayList<>();
            EntryLine entryLine = new EntryLine(board);
            lines.lines().forEach(line -> {
                int seq = observations.size() + 1;
                Observation entry = ((EntryLine.Parsed.Entry) entryLine.parse(line, seq)).observation();
                if (traces.containsKey(seq) && entry instanceof Power power) {
                    String name = "p" + seq + ".csv";
                    files.put(name, traces.get(seq));
                    entry = traced(power, "traces/" + name);
                }
                observations.add(entry);
            });
            return new Bundle(
                    new Bundle.Job(id, title, Optional.of(Instant.parse(opened))),
                    board,
                    rail.apply(board, observations),
                    Optional.empty(),
                    Optional.empty(),
                    List.of(),
                    observations,
                    files);
        });
    }

    private static Power traced(Power p, String trace) {
        return new Power(
                p.seq(),
                p.from(),
                p.port(),
                p.net(),
                p.orientation(),
                p.battery(),
                p.volts(),
                p.amps(),
                p.state(),
                p.shape(),
                Optional.of(trace));
    }

    private static String trace(DoubleUnaryOperator volts, DoubleUnaryOperator amps, long seed) {
        Random random = new Random(seed);
        StringBuilder csv = new StringBuilder("t_s,volts,amps\n");
        for (int i = 0; i < 150; i++) {
            double t = i / TRACE_HZ;
            csv.append(String.format(
                    Locale.ROOT,
                    "%.1f,%.3f,%.4f%n",
                    t,
                    volts.applyAsDouble(t) + 0.01 * random.nextGaussian(),
                    amps.applyAsDouble(t) + 0.003 * random.nextGaussian()));
        }
        return csv.toString();
    }
}
