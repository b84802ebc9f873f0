package ohmoscope.web.proof;

import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.ReadingVerdict;
import ohmoscope.core.prove.Proof;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.sheet.BoardPicture;
import ohmoscope.web.sheet.Eng;
import ohmoscope.web.sheet.EvidenceStrips;
import ohmoscope.web.sheet.Words;
import ohmoscope.web.store.EvidenceStore;

/** The hand-back page: what was wrong, before and after, what was done. */
public record HandBackView(
        String number,
        String title,
        String device,
        String date,
        String rail,
        String state,
        String stateWords,
        String wrong,
        List<Row> numbers,
        List<String> done,
        String knownThen,
        BoardPicture picture,
        List<Line> evidence) {
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);

    private static final double LIKELY = 0.2;

    /** One comparison. */
    public record Row(String what, String before, String after, String good) {}

    /** One entry of the evidence. */
    public record Line(String time, String headline, String meaning) {}

    /**
     * @param advice what the evidence comes to now
     * @param adviceThen what it came to before the last change
     */
    static HandBackView of(
            JobFile.Stored job,
            Optional<StoredAnalysis> analysis,
            Optional<StoredAnalysis> knownThen,
            Advice advice,
            Advice adviceThen,
            ZoneId zone) {
        var bundle = job.bundle();
        Proof proof = Proof.of(bundle.board(), bundle.rail(), bundle.observations());
        Optional<Part> culprit = proof.change()
                .map(Change::target)
                .flatMap(bundle.board()::part)
                .or(() -> analysis.flatMap(a -> a.suspects().stream().findFirst())
                        .flatMap(s -> bundle.board().part(s.ref())));
        Side side = culprit.map(Part::side).orElse(Side.TOP);
        return new HandBackView(
                bundle.job().id(),
                bundle.job().title(),
                bundle.board().name() + ", rev " + bundle.board().revision(),
                DATE.format(job.row().openedAt().atZone(zone)),
                bundle.rail(),
                Words.plain(proof.state()),
                stateWords(proof),
                wrong(bundle.rail(), proof, culprit, analysis, adviceThen),
                numbers(job, proof, analysis),
                done(job),
                known(proof, knownThen, adviceThen),
                BoardPicture.of(bundle.board(), bundle.rail(), side, bundle.injection(), analysis),
                lines(job, advice, zone));
    }

    private static String stateWords(Proof proof) {
        return switch (proof.state()) {
            case CLEARED -> "Proven: the same reading at the same point is in range.";
            case STILL_THERE -> "Not proven: the short is still there.";
            case WARM_OR_PARTIAL -> "Not proven: the reading has moved but is not in range.";
            case READING_WANTED -> "Not proven yet: the same reading after the change is missing.";
            case NO_READING_BEFORE -> "Not proven: there is no reading from before the change.";
            case NOTHING_CHANGED -> "Nothing has been changed on this board yet.";
        };
    }

    private static String wrong(
            String rail, Proof proof, Optional<Part> culprit, Optional<StoredAnalysis> analysis, Advice then) {
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
            return (proof.state() == Proof.State.CLEARED ? "" : "Suspected: ") + AdviceWords.fault(other.get()) + " ("
                    + what + ", " + part.side().name().toLowerCase(Locale.ROOT) + " side).";
        }
        String ohms = analysis.flatMap(StoredAnalysis::resistance)
                .map(r -> " through about " + Eng.prefixed(r.ohms(), "Ω", 2))
                .orElse("");
        String sure = proof.state() == Proof.State.CLEARED ? "The " : "Suspected: the ";
        return sure + what + " on the " + part.side().name().toLowerCase(Locale.ROOT) + " side shorted " + rail
                + " to ground" + ohms + ".";
    }

    private static List<Row> numbers(JobFile.Stored job, Proof proof, Optional<StoredAnalysis> analysis) {
        List<Row> rows = new ArrayList<>();
        proof.before().ifPresent(before -> {
            ReadingVerdict verdict = ReadingVerdict.of(job.board(), before);
            rows.add(new Row(
                    Words.plain(before.mode()) + ", " + before.net().orElse("")
                            + before.ref().map(r -> " at " + r).orElse(""),
                    Words.value(before),
                    proof.after().map(Words::value).orElse("not read yet"),
                    verdict.expected().map(r -> Words.range(r, before.mode())).orElse("unknown")));
        });
        analysis.flatMap(StoredAnalysis::resistance)
                .ifPresent(r -> rows.add(new Row(
                        "injection", Eng.fixed(r.volts(), 3) + " V, " + Eng.fixed(r.amps(), 2) + " A", "", "")));
        return rows;
    }

    private static List<String> done(JobFile.Stored job) {
        return job.bundle().observations().stream()
                .filter(o -> o instanceof Change)
                .map(o -> (Change) o)
                .map(c -> c.target() + " " + Words.plain(c.action()) + (c.heat() ? " with heat" : "") + ".")
                .toList();
    }

    private static String known(Proof proof, Optional<StoredAnalysis> then, Advice adviceThen) {
        if (proof.change().isEmpty()) {
            return "";
        }
        String target = proof.change().get().target();
        return then.map(a -> a.suspects().stream()
                        .filter(s -> s.ref().equals(target))
                        .findFirst()
                        .map(s -> "When " + target + " was taken off, the frames gave it "
                                + Eng.percent(s.probability()) + " %.")
                        .orElse("When " + target + " was taken off, the frames spoke for another part."))
                .orElseGet(() -> adviceThen.hypotheses().stream()
                        .filter(h -> h.target().equals(target))
                        .findFirst()
                        .map(h -> "When it was decided, the readings gave “" + AdviceWords.fault(h) + "” "
                                + Eng.percent(h.probability()) + " %. No frames had been looked into.")
                        .orElse("When it was decided, no frames had been looked into."));
    }

    private static List<Line> lines(JobFile.Stored job, Advice advice, ZoneId zone) {
        List<EvidenceStrips.Strip> strips =
                EvidenceStrips.of(job.board(), job.entries(), advice, job.row().importedAt(), zone);
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
