package ohmoscope.web.sheet;

import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.inject.PadUnderProbe;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.Joints;
import ohmoscope.core.prove.NextStep;
import ohmoscope.core.prove.Proof;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.LocateJson;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.Cautions;
import ohmoscope.web.job.EvidenceStrips;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.MoreHelpWords;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.StepLine;
import ohmoscope.web.job.StepWords;
import ohmoscope.web.job.Tours;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.EvidenceStore;

/** Everything the job sheet shows, in words and shapes. @param earlier entries before those of this page */
public record SheetView(
        JobHead head,
        List<EvidenceStrips.Strip> evidence,
        int earlier,
        List<CaptureLink> captures,
        List<BoardPicture> pictures,
        Side firstSide,
        List<Figure> figures,
        String injectionMeaning,
        List<AdviceView.StopLine> stops,
        Optional<Tours.First> lookFirst,
        StepLine next,
        List<AdviceView.Other> others,
        List<SuspectLine> suspects,
        String rest,
        List<AdviceView.Fault> remaining,
        String remainingTitle,
        String known,
        List<Caution> warnings,
        List<String> moreHelp,
        Optional<AgainReading> again,
        Optional<JointsLeft> joints,
        List<String> words) {
    private static final int LISTED = 5;
    /** Parts so near each other are one place to the eye. */
    private static final double ONE_PLACE_MM = 2.5;

    private static final double HARD_SHORT_OHMS = 0.1;
    private static final double CHIP_LIKE_OHMS = 1;

    /** A capture in the evidence column. */
    public record CaptureLink(String id, String side, int frames, String words) {}

    /** A number under the board. */
    public record Figure(String number, String unit, String what) {}

    /** A suspect in the list. */
    public record SuspectLine(int rank, String ref, String words, String percent) {}

    /** A warning in a sentence. */
    public record Caution(String code, String text) {}

    /** The reading that is wanted after a change. */
    public record AgainReading(String where, String mode, String unit, String before) {}

    /** The part that was put in last, and how many of its joints nobody has listened to. */
    public record JointsLeft(String ref, long wanted) {
        static Optional<JointsLeft> of(Board board, List<Observation> entries) {
            return entries.stream()
                    .filter(o -> o instanceof Change c
                            && (c.action() == ChangeAction.REPLACED || c.action() == ChangeAction.FITTED))
                    .map(o -> ((Change) o).target())
                    .reduce((a, b) -> b)
                    .flatMap(board::part)
                    .map(part -> Joints.of(board, part, entries))
                    .filter(Joints::in)
                    .map(j -> new JointsLeft(
                            j.ref(),
                            j.joints().stream()
                                    .filter(x -> x.state() == Joints.State.WANTED)
                                    .count()))
                    .filter(left -> left.wanted() > 0);
        }
    }

    /** Entries on one page of evidence. */
    static final int PAGE = 150;

    /** The newest entries; for a page of earlier ones see the other. */
    public static SheetView of(OpenJobs.Open open, ZoneId zone) {
        return of(open, zone, Integer.MAX_VALUE);
    }

    /** @param before entries from this number on are left out */
    static SheetView of(OpenJobs.Open open, ZoneId zone, int before) {
        JobFile.Stored job = open.job();
        Advice advice = open.advice();
        Optional<StoredAnalysis> analysis = open.analysis();
        Bundle bundle = job.bundle();
        Board board = job.board();
        Proof proof = open.proof();
        AdviceView judged = AdviceView.of(open);
        Leading leading = leading(open, proof, judged);
        List<BoardPicture.Named> named = BoardPicture.named(analysis);
        List<BoardPicture.Named> flagged = analysis.isEmpty() ? AdviceView.named(board, advice) : named;
        List<BoardPicture> pictures = Stream.of(Side.TOP, Side.BOTTOM)
                .map(s -> BoardPicture.of(board, bundle.rail(), s, bundle.injection(), analysis, flagged))
                .toList();
        List<AdviceView.Other> others = new ArrayList<>(judged.others());
        if (leading.overAdvice()) {
            judged.next()
                    .filter(n -> !n.act().equals("lift")
                            || !n.target().equals(leading.step().target()))
                    .map(n ->
                            new AdviceView.Other(n.sentence(), n.why(), n.act().equals("fill") ? n.target() : ""))
                    .ifPresent(n -> others.add(0, n));
        }
        return new SheetView(
                open.head(),
                EvidenceStrips.of(job, page(job.entries(), before), advice, zone),
                earlier(job.entries(), before),
                captures(bundle, analysis),
                pictures,
                firstSide(board, bundle, analysis, flagged),
                figures(analysis),
                meaning(analysis.flatMap(StoredAnalysis::resistance)),
                judged.stops(),
                Tours.line(open),
                leading.step(),
                others,
                suspects(board, analysis),
                rest(board, bundle.rail(), analysis),
                judged.remaining(),
                remainingTitle(open),
                AdviceView.known(board),
                warnings(bundle, analysis, advice),
                analysis.map(StoredAnalysis::verdict)
                                .filter(v -> v == Verdict.AREA)
                                .isPresent()
                        ? MoreHelpWords.of(job, analysis)
                        : List.of(),
                again(proof),
                JointsLeft.of(board, bundle.observations()),
                AdviceView.words(board));
    }

    private static List<EvidenceStore.Entry> page(List<EvidenceStore.Entry> entries, int before) {
        List<EvidenceStore.Entry> upTo =
                entries.stream().filter(e -> e.observation().seq() < before).toList();
        return upTo.subList(Math.max(0, upTo.size() - PAGE), upTo.size());
    }

    /** How many entries stand before this page. */
    private static int earlier(List<EvidenceStore.Entry> entries, int before) {
        long upTo = entries.stream().filter(e -> e.observation().seq() < before).count();
        return (int) Math.max(0, upTo - PAGE);
    }

    /** The step that the sheet shows. @param overAdvice whether frames or the proof lead, and not the other evidence */
    private record Leading(StepLine step, boolean overAdvice) {}

    private static Leading leading(OpenJobs.Open open, Proof proof, AdviceView judged) {
        Board board = open.job().bundle().board();
        Optional<StepLine> framed = fromFrames(open.job(), open.advice(), open.analysis(), proof, open.minutes())
                .map(step -> Cautions.asking(step, open.advice()))
                .or(() -> mended(open.advice()))
                .or(() -> nothingFound(open.advice(), open.job().bundle().observations()));
        return new Leading(
                framed.or(judged::next)
                        .orElseGet(() -> StepWords.of(NextStep.of(board, Optional.empty(), proof), proof.rail())),
                framed.isPresent());
    }

    /** What to do next, in one sentence, and which part leads: the sheet in a line. */
    static ShelfLine.Words shelf(OpenJobs.Open open) {
        JobFile.Stored job = open.job();
        Proof proof = open.proof();
        AdviceView judged = AdviceView.of(open);
        return new ShelfLine.Words(leading(open, proof, judged).step().sentence(), ShelfLine.lead(open, proof));
    }

    /** Frames and the proof lead where they have something to say; else the other evidence does. */
    private static Optional<StepLine> fromFrames(
            JobFile.Stored job,
            Advice advice,
            Optional<StoredAnalysis> analysis,
            Proof proof,
            RemovalCost.Minutes minutes) {
        boolean proving = proof.before().isPresent()
                && proof.change().map(c -> c.action().usuallyHot()).orElse(false);
        if (analysis.isEmpty() && !proving || proof.illOtherwise()) {
            return Optional.empty();
        }
        NextStep step = NextStep.of(
                job.bundle().board(), analysis.map(a -> a.onBoard(job.bundle().board())), proof, minutes);
        return step instanceof NextStep.Image || outdated(step, job, advice)
                ? Optional.empty()
                : Optional.of(StepWords.of(step, proof.rail()));
    }

    /** Frames that name no part yet give way to what was injected, felt or seen after they were taken. */
    private static boolean outdated(NextStep step, JobFile.Stored job, Advice advice) {
        boolean wantsMore = step instanceof NextStep.GoCloser
                || step instanceof NextStep.CheckLeads
                || step instanceof NextStep.MorePower
                || step instanceof NextStep.TurnOver
                || step instanceof NextStep.LookElsewhere;
        boolean named = advice.next().stream()
                .findFirst()
                .map(s -> s.action() == Action.REMOVE)
                .orElse(false);
        return wantsMore
                && (named || job.sinceFrames().stream().anyMatch(o -> o instanceof Inject || o instanceof Warm));
    }

    /** Nothing was changed, nothing reads wrong, and the device works. */
    private static Optional<StepLine> nothingFound(Advice advice, List<Observation> observations) {
        boolean works = Run.lastWasWell(observations);
        boolean untouched = observations.stream()
                .noneMatch(o -> o instanceof Change c && c.action().usuallyHot());
        return works && untouched && advice.findings().stream().noneMatch(Finding::wrong)
                ? Optional.of(StepWords.nothingFound())
                : Optional.empty();
    }

    /** A repair of what was no short, all of it right again: start it, then hand it back. */
    private static Optional<StepLine> mended(Advice advice) {
        return advice.mending()
                .filter(m -> m.readsWell() && (m.runs() || m.run().isEmpty()))
                .map(m -> StepWords.mended(
                        m.repair(), m.runs(), advice.stops().stream().anyMatch(s -> s.code() == Stop.Code.HOT_BOARD)));
    }

    private static Side firstSide(
            Board board, Bundle bundle, Optional<StoredAnalysis> analysis, List<BoardPicture.Named> flagged) {
        return analysis.flatMap(StoredAnalysis::source)
                .map(s -> s.side())
                .or(() -> bundle.captures().stream().map(c -> c.spec().side()).findFirst())
                .or(() -> flagged.stream()
                        .findFirst()
                        .flatMap(n -> board.part(n.ref()))
                        .map(Part::side))
                .orElse(Side.TOP);
    }

    private static List<CaptureLink> captures(Bundle bundle, Optional<StoredAnalysis> analysis) {
        return bundle.captures().stream()
                .map(c -> new CaptureLink(
                        c.spec().id(),
                        Words.plain(c.spec().side()),
                        c.spec().frameCount(),
                        analysis.flatMap(a -> a.capture(c.spec().id()))
                                .map(f -> "Warmest place up " + Eng.significant(f.hottestK(), 2) + " K.")
                                .orElse("Not looked into yet.")))
                .toList();
    }

    private static List<Figure> figures(Optional<StoredAnalysis> analysis) {
        Optional<FaultResistance> resistance = analysis.flatMap(StoredAnalysis::resistance);
        if (resistance.isEmpty()) {
            return List.of();
        }
        FaultResistance r = resistance.get();
        Eng.Quantity ohms = Eng.prefixed(r.ohms(), "Ω", 2);
        Eng.Quantity low = Eng.prefixed(r.low(), "Ω", 2);
        Eng.Quantity high = Eng.prefixed(r.high(), "Ω", 2);
        Eng.Quantity watts = Eng.prefixed(r.watts(), "W", 2);
        List<Figure> figures = new ArrayList<>();
        figures.add(new Figure(Eng.fixed(r.volts(), 3), "V", "at the supply"));
        figures.add(new Figure(Eng.fixed(r.amps(), 2), "A", "through the leads"));
        figures.add(new Figure(ohms.number(), ohms.unit(), "the short, " + low + " to " + high));
        figures.add(new Figure(watts.number(), watts.unit(), "heat at the fault"));
        return figures;
    }

    private static String meaning(Optional<FaultResistance> resistance) {
        if (resistance.isEmpty()) {
            return "";
        }
        FaultResistance r = resistance.get();
        if (r.amps() < FaultResistance.MIN_AMPS) {
            return "No current: a probe is not touching.";
        }
        if (r.explainedWithoutFault() && r.high() < HARD_SHORT_OHMS) {
            return "Leads and series parts explain nearly all of it: a very hard short, or the probe is on ground.";
        }
        if (r.ohms() < HARD_SHORT_OHMS) {
            return "A hard short, most likely a capacitor. Its heat grows with the square of the current, not with the voltage.";
        }
        if (r.ohms() < CHIP_LIKE_OHMS) {
            return "Tenths of an ohm: a capacitor or a chip.";
        }
        return "Ohms rather than milliohms: more often a chip.";
    }

    /** What is left beside frames and readings that speak together is what warms nothing. */
    private static String remainingTitle(OpenJobs.Open open) {
        return open.together().isPresent()
                ? "Or nothing is shorted"
                : open.analysis().filter(StoredAnalysis::names).isPresent()
                        ? "All the other evidence says"
                        : "What would explain it";
    }

    private static List<SuspectLine> suspects(Board board, Optional<StoredAnalysis> analysis) {
        List<SuspectLine> lines = new ArrayList<>();
        List<StoredAnalysis.StoredSuspect> all = analysis.filter(a -> a.verdict() != Verdict.NONE)
                .map(StoredAnalysis::suspects)
                .orElse(List.of());
        for (int i = 0; i < Math.min(LISTED, all.size()); i++) {
            StoredAnalysis.StoredSuspect suspect = all.get(i);
            Part part = board.part(suspect.ref()).orElseThrow();
            String value = part.value().isEmpty() ? "" : " " + part.value();
            String words = Words.of(part.kind()) + value + ", " + Words.plain(part.side()) + ", "
                    + Eng.fixed(suspect.offMm(), 1) + " mm from the source";
            lines.add(new SuspectLine(i + 1, suspect.ref(), words, Eng.percent(suspect.probability())));
        }
        return lines;
    }

    private static String rest(Board board, String rail, Optional<StoredAnalysis> analysis) {
        if (analysis.isEmpty()) {
            return "";
        }
        StoredAnalysis a = analysis.get();
        if (a.blind()) {
            return "The frames cannot tell: no power was switched while the camera looked, or it did not see the board. "
                    + "The suspects stand as before.";
        }
        if (a.onlyNothingStandsOut()) {
            return "No part stands out in the frames. That nothing of " + rail + " warmed: "
                    + Eng.percent(a.noneProbability()) + " %." + wouldShow(a);
        }
        if (a.verdict() == Verdict.NONE) {
            return "Nothing in the frames beyond what the leads and the series parts explain ("
                    + Eng.percent(a.noneProbability()) + " %)." + wouldShow(a);
        }
        double listed = a.suspects().stream()
                .limit(LISTED)
                .mapToDouble(StoredAnalysis.StoredSuspect::probability)
                .sum();
        double others = Math.max(0, 1 - listed - a.noneProbability() - a.elsewhereProbability());
        long parts = Math.max(0, board.partsOn(rail).count() - LISTED);
        return notMapped(rail, a) + "The other " + parts + " parts of " + rail + " together: " + Eng.percent(others)
                + " %. Something off the rail or off the map: " + Eng.percent(a.elsewhereProbability())
                + " %. Nothing at all: "
                + Eng.percent(a.noneProbability()) + " %."
                + (a.warnings().containsKey(Warning.TOO_LITTLE_POWER) ? wouldShow(a) : "");
    }

    /** What "nothing" is worth: from where on these frames would have shown something. */
    private static String wouldShow(StoredAnalysis a) {
        return a.seenFromWatts().isEmpty()
                ? ""
                : " From " + Eng.prefixed(a.seenFromWatts().getAsDouble(), "W", 2)
                        + " at the fault on these frames would have shown nine in ten of the parts in view.";
    }

    /** Heat that starts where no part is known: the place is the answer, not the nearest part. */
    private static String notMapped(String rail, StoredAnalysis a) {
        return a.source()
                .filter(s -> a.elsewhereProbability() > 0.5)
                .map(s -> "It starts elsewhere: at " + Eng.fixed(s.xMm(), 1) + ", " + Eng.fixed(s.yMm(), 1)
                        + " mm on the "
                        + Words.plain(s.side()) + ", in the ellipse on the picture, where no part of " + rail
                        + " is known. Look there, and put what you see on the map. ")
                .orElse("");
    }

    /** What stands out plainly is not passed over in silence where the heat model names another part. */
    private static Optional<Caution> disagreement(Board board, StoredAnalysis a) {
        Optional<Part> named = a.suspects().stream()
                .findFirst()
                .flatMap(s -> board.part(s.ref()))
                .filter(p -> a.verdict() != Verdict.NONE);
        Optional<Part> seen = a.standsOut().filter(StandsOut::plainly).flatMap(s -> board.part(s.ref()));
        return named.flatMap(n -> seen.filter(s -> Math.hypot(s.xMm() - n.xMm(), s.yMm() - n.yMm()) > ONE_PLACE_MM)
                .map(s -> new Caution(
                        "picture-and-model",
                        "Picture and model disagree: by themselves the frames show " + s.ref() + " most plainly ("
                                + Eng.fixed(a.standsOut().orElseThrow().times(), 0)
                                + " times their own scatter); the heat model names " + n.ref()
                                + ". Look at both places before anything is heated: a shiny body, a lead or the other side may be"
                                + " why.")));
    }

    private static List<Caution> warnings(Bundle bundle, Optional<StoredAnalysis> analysis, Advice advice) {
        Stream<Caution> probe = bundle
                .injection()
                .filter(injection -> PadUnderProbe.nearerToGround(bundle.board(), injection))
                .map(injection -> new Caution(
                        "probe-on-ground",
                        "The hot lead is marked nearer to a ground pad than to one of " + injection.net()
                                + ". If it sat there, only the leads could warm."))
                .stream();
        Stream<Caution> frames = analysis.stream()
                .flatMap(a -> a.warnings().entrySet().stream())
                .map(w -> new Caution(StoredAnalysis.code(w.getKey()), LocateJson.text(w.getKey(), w.getValue())));
        Stream<Caution> disagreement = analysis.flatMap(a -> disagreement(bundle.board(), a)).stream();
        Stream<Caution> judgement = advice
                .notJudged()
                .map(why -> new Caution(
                        "not-judged",
                        "What the readings come to together is not judged: " + why
                                + ". Single readings still say what they say; correct the one that cannot be."))
                .stream();
        return Stream.of(judgement, probe, frames, disagreement).flatMap(s -> s).toList();
    }

    private static Optional<AgainReading> again(Proof proof) {
        boolean wanted = proof.state() == Proof.State.READING_WANTED
                || proof.state() == Proof.State.STILL_THERE
                || proof.state() == Proof.State.WARM_OR_PARTIAL
                || proof.state() == Proof.State.ABOVE_RANGE;
        return wanted
                ? proof.before()
                        .map(b -> new AgainReading(
                                Words.place(b),
                                Words.plain(b.mode()),
                                b.mode() == Observation.ReadMode.DIODE ? "V" : "Ω",
                                Words.value(b)))
                : Optional.empty();
    }
}
