package ohmoscope.web.proof;

import java.time.Duration;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Mending;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.job.Outcome;
import ohmoscope.core.job.Outcome.Stage;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.prove.Cause;
import ohmoscope.core.prove.Chain;
import ohmoscope.core.prove.Joints;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.formats.AdviceWords;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.job.EvidenceStrips;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.JointWords;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.ReworkStore;

/** The hand-back page: what was wrong, before and after, what was done. */
public record HandBackView(
        String number,
        String title,
        String device,
        String date,
        String rail,
        String state,
        String stateWords,
        List<String> missing,
        String wrong,
        List<Row> numbers,
        List<TickLine> acceptance,
        List<String> done,
        String knownThen,
        String cause,
        String chain,
        String worked,
        BoardPicture picture,
        List<Line> evidence) {
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);

    private static final double LIKELY = 0.2;

    /** One comparison. */
    public record Row(String what, String before, String after, String good) {}

    /** One test that a repair of this kind is tried by. @param state right, wrong or wanted */
    public record TickLine(String state, String what, String expected, String shown, String why) {}

    /** One entry of the evidence. */
    public record Line(String time, String headline, String meaning) {}

    /**
     * @param adviceThen what it came to before the last change
     * @param reworks how parts came off
     */
    static HandBackView of(
            OpenJobs.Open open,
            Optional<StoredAnalysis> knownThen,
            Advice adviceThen,
            List<ReworkStore.Done> reworks,
            ZoneId zone) {
        JobFile.Stored job = open.job();
        Optional<StoredAnalysis> analysis = open.analysis();
        Advice advice = open.advice();
        Bundle bundle = job.bundle();
        Proof proof = open.proof();
        Optional<Change> repair =
                proof.culprit().or(() -> advice.mending().map(Mending::repair)).or(proof::change);
        Optional<Part> culprit = repair.map(Change::target)
                .flatMap(bundle.board()::part)
                .or(() -> analysis.flatMap(a -> a.suspects().stream().findFirst())
                        .flatMap(s -> bundle.board().part(s.ref())));
        Side side = culprit.map(Part::side).orElse(Side.TOP);
        boolean works = Run.lastWasWell(bundle.observations());
        Standing standing = Standing.of(proof, advice, works);
        List<Joints> joints = joints(job);
        return new HandBackView(
                bundle.job().id(),
                bundle.job().title(),
                BoardNames.of(bundle.board().name(), bundle.board().revision()),
                DATE.format(job.row().openedAt().atZone(zone)),
                bundle.rail(),
                standing.state(),
                standing.words(),
                missing(standing, joints, job),
                wrong(proof.rail(), standing, culprit, analysis, adviceThen),
                numbers(job, proof, advice.mending(), analysis),
                Stream.concat(
                                advice.acceptance().stream()
                                        .flatMap(a -> a.ticks().stream())
                                        .map(AcceptanceWords::line),
                                joints.stream()
                                        .flatMap(j -> j.joints().stream()
                                                .filter(x -> x.state() != Joints.State.WANTED)
                                                .map(x -> AcceptanceWords.line(j.ref(), x))))
                        .toList(),
                done(job, reworks),
                known(repair, knownThen, adviceThen),
                standing.state().equals("no-fault")
                        ? ""
                        : CauseWords.of(Cause.of(job.account(), bundle.observations())),
                standing.proven() ? chain(job, proof.rail(), repair, culprit, adviceThen) : "",
                worked(open),
                BoardPicture.of(bundle.board(), bundle.rail(), side, bundle.injection(), analysis),
                lines(job, advice, zone));
    }

    /** Minutes at the bench and what they went into; empty where entries came all at once. */
    private static String worked(OpenJobs.Open open) {
        Map<Stage, Duration> worked = open.outcome().worked();
        long minutes =
                worked.values().stream().reduce(Duration.ZERO, Duration::plus).toMinutes();
        if (minutes < 1) {
            return "";
        }
        String parts = Stream.of(Stage.values())
                .filter(s -> worked.getOrDefault(s, Duration.ZERO).toMinutes() > 0)
                .map(s -> worked.get(s).toMinutes() + " "
                        + switch (s) {
                            case MEASURING -> "measuring";
                            case INJECTING -> "injecting and filming";
                            case REWORKING -> "rework";
                            case PROVING -> "proof";
                        })
                .collect(Collectors.joining(", "));
        return minutes + (minutes == 1 ? " minute" : " minutes") + " at the bench"
                + (parts.isEmpty() ? "" : ": " + parts) + "; pauses of more than " + Outcome.PAUSE.toMinutes()
                + " minutes are left out.";
    }

    /** What this hunt's proof lacks, and rails of the job's other hunts that nobody has proven. */
    private static List<String> missing(Standing standing, List<Joints> joints, JobFile.Stored job) {
        return Stream.of(
                        standing.missing().stream(),
                        joints.stream()
                                .flatMap(j -> j.wrong().stream()
                                        .map(x -> JointWords.where(j.ref(), x) + ": " + JointWords.shown(x))),
                        job.job().unprovenElsewhere().stream()
                                .map(r -> "the job's hunt on " + r + ": nothing proves that it is over"))
                .flatMap(s -> s)
                .toList();
    }

    /** Of each part that was put in. */
    private static List<Joints> joints(JobFile.Stored job) {
        List<Observation> entries = job.bundle().observations();
        return entries.stream()
                .filter(o -> o instanceof Change)
                .map(o -> ((Change) o).target())
                .distinct()
                .flatMap(ref -> job.board().part(ref).stream())
                .map(part -> Joints.of(job.board(), part, entries))
                .filter(Joints::in)
                .toList();
    }

    /** What the proof rests on: a short's own reading, or whatever else was wrong before the repair. */
    private record Standing(String state, String words, boolean proven, List<String> missing) {
        static Standing of(Proof proof, Advice advice, boolean works) {
            boolean noShort =
                    proof.state() == Proof.State.NOTHING_CHANGED || proof.state() == Proof.State.NO_READING_BEFORE;
            Optional<Mending> mending = advice.mending().filter(m -> !m.wrongs().isEmpty());
            if (noShort && mending.isPresent()) {
                return of(mending.get());
            }
            boolean untouched = proof.state() == Proof.State.NOTHING_CHANGED;
            if (untouched && works && advice.findings().stream().noneMatch(Finding::wrong)) {
                return new Standing(
                        "no-fault", "No fault was found on the board; nothing was changed.", false, List.of());
            }
            return new Standing(
                    Words.plain(proof.state()), stateWords(proof), proof.state() == Proof.State.CLEARED, List.of());
        }

        private static Standing of(Mending mending) {
            List<String> missing = mending.missing().stream()
                    .map(w -> Words.tested(w.before()))
                    .toList();
            if (mending.proven()) {
                return new Standing(
                        "cleared", "Proven: all that was wrong before the repair is right since.", true, List.of());
            }
            return mending.remaining().isEmpty()
                    ? new Standing(
                            "reading wanted",
                            "Not proven yet: not everything that was wrong was tried again.",
                            false,
                            missing)
                    : new Standing(
                            "still there",
                            "Not proven: "
                                    + Words.headline(
                                            mending.remaining().get(0).after().orElseThrow()) + " is still wrong.",
                            false,
                            missing);
        }
    }

    private static String stateWords(Proof proof) {
        return switch (proof.state()) {
            case CLEARED -> "Proven: the same reading at the same point is in range.";
            case STILL_THERE -> "Not proven: the short is still there.";
            case WARM_OR_PARTIAL -> "Not proven: the reading has moved but is not in range.";
            case ABOVE_RANGE ->
                "Not proven: it reads above what a good board does. Is the probe on bare metal, and everything back on?";
            case READING_WANTED -> "Not proven yet: the same reading after the change is missing.";
            case NO_READING_BEFORE -> "Not proven: no reading from before the change shows the fault.";
            case NOTHING_CHANGED -> "Nothing has been changed on this board yet.";
        };
    }

    private static String wrong(
            String rail, Standing standing, Optional<Part> culprit, Optional<StoredAnalysis> analysis, Advice then) {
        if (standing.state().equals("no-fault")) {
            return "Nothing. What reads low here does so by design.";
        }
        if (culprit.isEmpty()) {
            return "No part has been named on " + rail + ".";
        }
        Part part = culprit.get();
        String what =
                Words.of(part.kind()) + " " + part.ref() + (part.value().isEmpty() ? "" : " (" + part.value() + ")");
        Optional<Hypothesis> other = then.hypotheses().stream()
                .filter(h -> h.target().equals(part.ref()) && h.code() != Hypothesis.Code.SHORT)
                .filter(h -> h.probability() > LIKELY)
                .findFirst();
        if (other.isPresent() && analysis.isEmpty()) {
            return (standing.proven() ? "" : "Suspected: ") + AdviceWords.fault(other.get()) + " (" + what + ", "
                    + part.side().name().toLowerCase(Locale.ROOT) + " side).";
        }
        String ohms = analysis.filter(a -> a.verdict() != Verdict.NONE)
                .filter(a -> a.suspects().stream().anyMatch(s -> s.ref().equals(part.ref())))
                .flatMap(StoredAnalysis::resistance)
                .map(r -> " through about " + Eng.prefixed(r.ohms(), "Ω", 2))
                .orElse("");
        String sure = standing.proven() ? "The " : "Suspected: the ";
        return sure + what + " on the " + part.side().name().toLowerCase(Locale.ROOT) + " side shorted " + rail
                + " to ground" + ohms + ".";
    }

    private static String chain(
            JobFile.Stored job, String rail, Optional<Change> repair, Optional<Part> culprit, Advice then) {
        if (repair.isEmpty() || culprit.isEmpty()) {
            return "";
        }
        List<Observation> before = job.bundle().observations().stream()
                .filter(o -> o.seq() < repair.get().seq())
                .toList();
        Optional<Hypothesis.Code> code = then.about(culprit.get().ref()).map(Hypothesis::code);
        boolean conducts = code.map(c -> c == Hypothesis.Code.SHORT || c == Hypothesis.Code.LEAKY)
                .orElse(true);
        boolean open = code.filter(c -> c == Hypothesis.Code.OPEN).isPresent();
        return conducts || open
                ? CauseWords.chain(
                        Chain.of(job.board(), culprit.get(), rail, open, Cause.of(job.account(), before), before))
                : "";
    }

    private static List<Row> numbers(
            JobFile.Stored job, Proof proof, Optional<Mending> mending, Optional<StoredAnalysis> analysis) {
        List<Row> rows = new ArrayList<>();
        proof.before().ifPresent(before -> {
            Optional<Range> good = new Interpreter(job.board()).expected(before);
            rows.add(new Row(
                    Words.plain(before.mode()) + ", " + Words.place(before),
                    Words.value(before),
                    proof.after().map(Words::value).orElse("not read yet"),
                    good.map(r -> Words.range(r, before.mode())).orElse("unknown")));
        });
        mending.stream()
                .flatMap(m -> m.wrongs().stream())
                .filter(w -> w.test() != Mending.Test.RUN
                        && proof.before().filter(w.before()::equals).isEmpty())
                .forEach(w -> rows.add(new Row(
                        Words.tested(w.before()),
                        Words.outcome(w.before()),
                        w.after().map(Words::outcome).orElse("not tried again"),
                        "")));
        analysis.flatMap(StoredAnalysis::resistance)
                .ifPresent(r -> rows.add(new Row(
                        "injection", Eng.fixed(r.volts(), 3) + " V, " + Eng.fixed(r.amps(), 2) + " A", "", "")));
        return rows;
    }

    private static List<String> done(JobFile.Stored job, List<ReworkStore.Done> reworks) {
        return job.bundle().observations().stream()
                .filter(o -> o instanceof Change)
                .map(o -> (Change) o)
                .map(c -> c.target() + " " + Words.plain(c.action())
                        + reworks.stream()
                                .filter(r -> r.seq() == c.seq() && r.ref().equals(c.target()))
                                .findFirst()
                                .map(ReworkMeans::words)
                                .orElse(c.heat() ? " with heat" : "")
                        + ".")
                .toList();
    }

    private static String known(Optional<Change> repair, Optional<StoredAnalysis> then, Advice adviceThen) {
        if (repair.isEmpty()) {
            return "";
        }
        String target = repair.get().target();
        String done = Words.done(repair.get());
        return then.filter(a -> a.verdict() != Verdict.NONE)
                .map(a -> a.suspects().stream()
                        .filter(s -> s.ref().equals(target))
                        .findFirst()
                        .map(s -> "When " + done + ", the frames gave it " + Eng.percent(s.probability()) + " %.")
                        .orElse("When " + done + ", the frames spoke for another part."))
                .orElseGet(() -> adviceThen.hypotheses().stream()
                        .filter(h -> h.target().equals(target))
                        .findFirst()
                        .map(h -> "When it was decided, the readings gave “" + AdviceWords.fault(h) + "” "
                                + Eng.percent(h.probability()) + " %. " + frames(then))
                        .orElse("When it was decided: " + frames(then)));
    }

    private static String frames(Optional<StoredAnalysis> then) {
        return then.isPresent() ? "The frames had named nothing." : "No frames had been looked into.";
    }

    private static List<Line> lines(JobFile.Stored job, Advice advice, ZoneId zone) {
        List<EvidenceStrips.Strip> strips = EvidenceStrips.of(job, job.entries(), advice, zone);
        List<Line> lines = new ArrayList<>();
        for (int i = 0; i < strips.size(); i++) {
            EvidenceStore.Entry entry = job.entries().get(i);
            lines.add(new Line(
                    strips.get(i).time().isEmpty()
                            ? ""
                            : STAMP.format(entry.recordedAt().atZone(zone)),
                    strips.get(i).headline(),
                    strips.get(i).meaning()));
        }
        return lines;
    }
}
