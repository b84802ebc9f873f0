package ohmoscope.web.name;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.EntryWeight;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.MoreHelpWords;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/**
 * The suspects with what speaks for and against each.
 *
 * @param basis what the probabilities rest on
 * @param capture a capture in which a suspect's predicted picture can be seen; empty when there is none
 */
record NameView(
        JobHead head,
        List<AdviceView.StopLine> stops,
        String basis,
        List<Case> cases,
        List<String> moreHelp,
        String capture,
        List<String> words) {
    private static final int MOST = 5;
    /** Even a clear case is shown beside its runners-up. */
    private static final int FEWEST = 3;

    private static final double LEAST = 0.005;
    /** Sigmas from the source at which a distance begins to speak against a part. */
    private static final double NEAR = 1.5;

    private static final double FAR = 3;
    private static final int MOST_ENTRIES = 4;
    private static final double MUCH_HEAT = 2.5;

    /**
     * One suspect.
     *
     * @param act whether lifting it costs less, on the whole, than another look
     * @param drawn whether its predicted picture can be seen
     */
    record Case(String ref, String what, String percent, List<Says> says, String cost, boolean act, boolean drawn) {}

    /** @param direction for, against, or neither @param by the meter, the camera, the eye */
    record Says(String direction, String by, String sentence) {}

    private record Suspected(Part part, double probability) {}

    /** @param weigh what each entry does to the odds of these parts */
    static NameView of(OpenJobs.Open open, Function<Set<String>, List<EntryWeight>> weigh) {
        Board board = open.job().board();
        Optional<StoredAnalysis> frames = open.analysis()
                .filter(a -> a.verdict() != Verdict.NONE && !a.suspects().isEmpty());
        List<Suspected> suspected = frames.map(a -> fromFrames(board, a)).orElseGet(() -> fromMeter(open));
        Set<String> refs = suspected.stream().map(s -> s.part().ref()).collect(Collectors.toSet());
        List<EntryWeight> weights = refs.isEmpty() ? List.of() : weigh.apply(refs);
        Map<Integer, Observation> entries = new LinkedHashMap<>();
        open.job().bundle().observations().forEach(o -> entries.put(o.seq(), o));
        List<Case> cases = new ArrayList<>();
        for (Suspected suspect : suspected) {
            List<Says> says = new ArrayList<>();
            frames.ifPresent(a -> says.addAll(camera(a, suspect.part())));
            says.addAll(entries(weights, entries, suspect.part().ref()));
            cases.add(suspect(board, suspect, says, frames, open.minutes()));
        }
        return new NameView(
                open.head(),
                AdviceView.stops(open),
                basis(open, frames),
                cases,
                MoreHelpWords.of(open.job(), open.analysis()),
                open.job().bundle().captures().stream()
                        .map(c -> c.spec().id())
                        .findFirst()
                        .orElse(""),
                AdviceView.words(board));
    }

    private static List<Suspected> fromFrames(Board board, StoredAnalysis analysis) {
        long likely = analysis.suspects().stream()
                .filter(s -> s.probability() >= LEAST)
                .count();
        return analysis.suspects().stream()
                .limit(Math.max(FEWEST, Math.min(MOST, likely)))
                .flatMap(s -> board.part(s.ref()).stream().map(p -> new Suspected(p, s.probability())))
                .toList();
    }

    private static List<Suspected> fromMeter(OpenJobs.Open open) {
        return open.advice().hypotheses().stream()
                .filter(h -> h.probability() >= LEAST)
                .flatMap(h -> open.job().board().part(h.target()).stream().map(p -> new Suspected(p, h.probability())))
                .limit(MOST)
                .toList();
    }

    private static String basis(OpenJobs.Open open, Optional<StoredAnalysis> frames) {
        if (frames.isPresent()) {
            return "Probabilities from the frames, with what the meter and the eye say of each part before them.";
        }
        return open.analysis().isPresent()
                ? "The frames show nothing beyond what leads and series parts explain; these are the meter's and the eye's alone."
                : "Nothing has been imaged yet: these are the meter's and the eye's alone.";
    }

    private static Case suspect(
            Board board,
            Suspected suspect,
            List<Says> says,
            Optional<StoredAnalysis> frames,
            RemovalCost.Minutes minutes) {
        Part part = suspect.part();
        RemovalCost cost = RemovalCost.on(board, part, minutes);
        // A shop may ask for more certainty than is usual, not for less.
        double from =
                Math.max(cost.probabilityFrom(), RemovalCost.on(board, part).probabilityFrom());
        boolean seen = frames.map(a -> a.captures().stream().anyMatch(c -> c.side() == part.side()))
                .orElse(true);
        boolean act = seen && suspect.probability() >= from;
        String look = Eng.fixed(cost.lookMinutes(), 0);
        String words = "Lifted and good, it costs about " + Eng.fixed(cost.minutes(), 0) + " minutes; at "
                + Eng.percent(suspect.probability()) + " % that is "
                + Eng.significant(cost.expectedMinutes(suspect.probability()), 2)
                + " to be expected. Another look costs "
                + look + ": "
                + (act
                        ? "lift it."
                        : seen
                                ? "look again first; lift from " + Eng.percent(from) + " % on."
                                : "turn the board over first, its side has not been seen.");
        return new Case(
                part.ref(),
                Words.of(part.kind()) + (part.value().isEmpty() ? "" : " " + part.value()) + ", "
                        + Words.plain(part.side()) + ", "
                        + part.pins().stream()
                                .map(p -> p.net())
                                .distinct()
                                .limit(3)
                                .collect(Collectors.joining(" to ")),
                Eng.percent(suspect.probability()),
                says,
                words,
                act,
                frames.map(a -> a.drawn().contains(part.ref())).orElse(false));
    }

    private static List<Says> camera(StoredAnalysis analysis, Part part) {
        List<Says> says = new ArrayList<>();
        analysis.source().ifPresent(source -> {
            says.add(place(source, part));
            if (source.side() != part.side()) {
                says.add(new Says(
                        "against",
                        "camera",
                        "Heat comes too early for the other side: it seems to start on the "
                                + Words.plain(source.side()) + " side."));
            }
        });
        Optional<FittedHeat> own = analysis.heats().stream()
                .filter(h -> h.suspect() && h.what().equals(part.ref()))
                .findFirst();
        if (own.isPresent() && analysis.resistance().isPresent()) {
            double promised = analysis.resistance().get().watts();
            double needed = own.get().watts();
            if (promised > 0) {
                boolean odd = needed > MUCH_HEAT * promised || needed < promised / (2 * MUCH_HEAT);
                says.add(new Says(
                        odd ? "against" : "for",
                        "camera",
                        "As the fault it would release " + Eng.prefixed(needed, "W", 2) + "; the supply puts about "
                                + Eng.prefixed(promised, "W", 2) + " into the short."));
            }
        }
        return says;
    }

    private static Says place(SourceEstimate source, Part part) {
        double off = Math.hypot(part.xMm() - source.xMm(), part.yMm() - source.yMm());
        boolean on = part.covers(source.xMm(), source.yMm(), source.sigmaMm());
        double sigmas = off / source.sigmaMm();
        String where = Eng.fixed(off, 1) + " mm from where the heat starts, which is known to ±"
                + Eng.significant(source.sigmaMm(), 1) + " mm";
        if (on || sigmas < NEAR) {
            return new Says("for", "camera", "Its middle is " + where + (on ? "; its body reaches there." : "."));
        }
        return new Says(sigmas > FAR ? "against" : "neither", "camera", "Its middle is " + where + ".");
    }

    /** The entries that move this part's odds most. */
    private static List<Says> entries(List<EntryWeight> weights, Map<Integer, Observation> entries, String ref) {
        return weights.stream()
                .filter(w -> strength(w, ref) > Math.log(1.15))
                .sorted(Comparator.comparingDouble(w -> -strength(w, ref)))
                .limit(MOST_ENTRIES)
                .map(w -> says(w.factor(ref), entries.get(w.seq())))
                .toList();
    }

    private static double strength(EntryWeight weight, String ref) {
        return Math.abs(Math.log(weight.factor(ref)));
    }

    private static Says says(double factor, Observation entry) {
        String by = entry instanceof Observation.Look ? "eye" : entry instanceof Observation.Warm ? "hand" : "meter";
        String effect = factor > 1
                ? "makes it " + Eng.significant(factor, 2) + " times as likely"
                : "makes it " + Eng.significant(1 / factor, 2) + " times less likely";
        return new Says(
                factor > 1 ? "for" : "against",
                by,
                "Entry " + entry.seq() + ", " + Words.headline(entry) + ", " + effect + ".");
    }
}
