package ohmoscope.web.job;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.DrawReading;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.evidence.EntryText;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.ReadPoint;
import ohmoscope.core.evidence.Spread;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.EvidenceStore;

/** The evidence column: each entry with what it means here, judged among all the others. */
public final class EvidenceStrips {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);

    private static final Set<TraceShape> DRASTIC =
            EnumSet.of(TraceShape.COLLAPSE, TraceShape.PULSING, TraceShape.BURST_THEN_ZERO);

    private static final String[] LOOK = {"look", "look at this"};

    private EvidenceStrips() {}

    /**
     * @param mark bad, ok, look, done or plain: the shape in front
     * @param by who recorded it; empty for what came with the bundle
     * @param line the entry line that would make it, for correcting it
     * @param version what a correction says that it corrects
     */
    public record Strip(
            int seq,
            String time,
            String mark,
            String markWord,
            String headline,
            String meaning,
            String by,
            String line,
            long version) {}

    /** @param entries those of the job's that are shown */
    public static List<Strip> of(JobFile.Stored job, List<EvidenceStore.Entry> entries, Advice advice, ZoneId zone) {
        Board board = job.board();
        Instant importedAt = job.row().importedAt();
        List<Observation> observations =
                entries.stream().map(EvidenceStore.Entry::observation).toList();
        Interpreter interpreter = new Interpreter(board);
        List<Strip> strips = new ArrayList<>();
        for (EvidenceStore.Entry entry : entries) {
            Observation observation = entry.observation();
            Optional<Sign> sign = advice.sign(observation.seq());
            List<Finding> findings = advice.because(observation.seq());
            Optional<DrawReading> draw = Optional.ofNullable(advice.draws().get(observation.seq()));
            boolean live = advice.live().contains(observation.seq());
            boolean doubtful = live || DrawWords.onlyIfItRuns(findings, draw);
            String[] mark = doubtful ? LOOK : mark(observation, sign, findings);
            boolean imported = entry.recordedAt().equals(importedAt);
            strips.add(new Strip(
                    observation.seq(),
                    // A bundle's entries carry an order, not times of their own.
                    imported ? "" : TIME.format(entry.recordedAt().atZone(zone)),
                    mark[0],
                    mark[1],
                    Words.headline(observation),
                    meaning(interpreter, observation, sign, findings, draw, live)
                            + behind(job, observation, zone)
                            + spread(board, observation, observations),
                    imported ? "" : entry.recordedBy(),
                    EntryText.of(observation),
                    entry.version()));
        }
        return strips;
    }

    private static String meaning(
            Interpreter interpreter,
            Observation observation,
            Optional<Sign> sign,
            List<Finding> findings,
            Optional<DrawReading> draw,
            boolean live) {
        List<String> words = new ArrayList<>();
        sign.map(AdviceWords::sign).ifPresent(words::add);
        if (sign.map(Sign::border).orElse(false)) {
            words.add("It is near the border: read it once more, on clean metal.");
        }
        if (sign.isEmpty() || !(observation instanceof Read)) {
            DrawWords.found(
                            findings.stream()
                                    .filter(f -> sign.isEmpty() || !f.isNet())
                                    .limit(2)
                                    .toList(),
                            draw)
                    .forEach(words::add);
        }
        if (observation instanceof Read read) {
            interpreter
                    .expected(read)
                    .map(r -> "Good boards read " + Words.range(r, read.mode()) + ".")
                    .ifPresent(words::add);
            if (words.isEmpty()) {
                words.add("Nothing to compare with.");
            }
        } else if (words.isEmpty() || observation instanceof Change || observation instanceof Power) {
            words.add(Words.meaning(observation));
        }
        draw.map(DrawWords::leak).ifPresent(words::add);
        if (live) {
            words.add("Read with the battery in: it counts little. Unplug it and read again.");
        }
        return words.stream().filter(w -> !w.isEmpty()).distinct().collect(Collectors.joining(" "));
    }

    /** How many boards stand behind what a reading is compared with, and how old; empty where the board's own data say it. */
    private static String behind(JobFile.Stored job, Observation observation, ZoneId zone) {
        if (!(observation instanceof Read read)) {
            return "";
        }
        Optional<String> net = ReadPoint.of(job.board(), read).net();
        boolean learnt = BoardNames.ofClass(job.board().revision())
                || net.flatMap(job.bundle().board()::net)
                        .flatMap(Net::expect)
                        .flatMap(e -> read.mode() == ReadMode.DIODE ? e.diodeVolts() : e.ohms())
                        .isEmpty();
        boolean compared = read.power().isEmpty()
                && (read.mode() == ReadMode.DIODE || read.mode() == ReadMode.OHMS)
                && read.across().isEmpty();
        return net.filter(n -> learnt && compared)
                .map(job.behind()::get)
                .map(b -> " That rests on " + (b.boards() == 1 ? "1 board" : b.boards() + " boards")
                        + ", the newest of " + DAY.format(b.newest().atZone(zone)) + ".")
                .orElse("");
    }

    private static String spread(Board board, Observation observation, List<Observation> all) {
        return observation instanceof Read read
                ? Spread.of(board, read, all)
                        .map(s -> " " + s.times() + " times, "
                                + Words.value(read, s.low()) + " to " + Words.value(read, s.high()) + "."
                                + (s.contact() ? " It changes with the probe: a contact." : ""))
                        .orElse("")
                : "";
    }

    private static String[] mark(Observation observation, Optional<Sign> sign, List<Finding> findings) {
        String[] bad = {"bad", "wrong"};
        String[] ok = {"ok", "good"};
        if (sign.isPresent()) {
            Says.Concern concern = sign.get().says().concern();
            return new String[] {Words.mark(concern), Words.markWord(concern)};
        }
        if (observation instanceof Change) {
            return new String[] {"done", "done"};
        }
        if (observation instanceof Look seen) {
            return seen.finding() == LookFinding.CLEAN ? ok : LOOK;
        }
        if (observation instanceof Power power
                && power.shape().map(DRASTIC::contains).orElse(false)) {
            return bad;
        }
        if (findings.isEmpty()) {
            return new String[] {"plain", "noted"};
        }
        boolean well = findings.stream().noneMatch(Finding::wrong);
        return well ? ok : bad;
    }
}
