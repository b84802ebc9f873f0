package ohmoscope.core.prove;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;

/** What to do now: one step, from what the frames and the proof say. Words are the page's affair. */
public sealed interface NextStep {
    /** Nothing has been computed from frames yet. */
    record Image() implements NextStep {}

    /** Both probes on ground, or a bad contact: set them again. */
    record CheckLeads() implements NextStep {}

    /** Nothing to see: more power. */
    record MorePower(double watts) implements NextStep {}

    /** The heat comes through the board. */
    record TurnOver(Part first) implements NextStep {}

    /** The heat starts where no part of the rail stands. @param there what stands at the place, of whatever net */
    record LookElsewhere(SourceEstimate at, Optional<Part> there) implements NextStep {}

    /** A place with several suspects. */
    record GoCloser(Part first, Optional<Part> second) implements NextStep {}

    /** One part may be acted on. */
    record Lift(Part part, double probability, Optional<Neighbour> neighbour) implements NextStep {}

    /** The same reading again. */
    record ReadAgain(Change after, Optional<Read> before) implements NextStep {}

    /** The short is still there. */
    record StillThere(Change after) implements NextStep {}

    /** Neither cleared nor shorted: let it cool and read again. */
    record LetCool(Change after) implements NextStep {}

    /** The short is gone. @param runs whether the device has been seen to work since */
    record HandBack(Change repair, boolean runs) implements NextStep {}

    /** The part that must be kept cool, and how far its body is from the suspect's. */
    record Neighbour(Part part, double gapMm) {}

    /** By the usual minutes. */
    static NextStep of(Board board, Optional<LocateResult> located, Proof proof) {
        return of(board, located, proof, RemovalCost.Minutes.USUAL);
    }

    /** @param minutes what lifting costs this bench: may ask for more certainty than the frames' own verdict, never less */
    static NextStep of(Board board, Optional<LocateResult> located, Proof proof, RemovalCost.Minutes minutes) {
        if (proof.change().isPresent() && proof.state() != Proof.State.NOTHING_CHANGED) {
            Change last = proof.change().get();
            return switch (proof.state()) {
                case CLEARED -> new HandBack(proof.repair().orElse(last), proof.runs());
                case STILL_THERE -> new StillThere(last);
                case WARM_OR_PARTIAL -> new LetCool(last);
                default -> new ReadAgain(last, proof.before());
            };
        }
        return located.map(result -> fromFrames(board, result, minutes)).orElseGet(Image::new);
    }

    private static NextStep fromFrames(Board board, LocateResult result, RemovalCost.Minutes minutes) {
        if (result.warnings().containsKey(Warning.NO_CONTACT)
                || result.warnings().containsKey(Warning.INJECTED_INTO_GROUND)) {
            return new CheckLeads();
        }
        if (result.blind()) {
            return new Image();
        }
        if (result.verdict() == Verdict.NONE || result.suspects().isEmpty()) {
            return new MorePower(result.resistance().map(r -> r.watts()).orElse(0.0));
        }
        if (result.elsewhereProbability() >= 0.5 && result.source().isPresent()) {
            SourceEstimate at = result.source().get();
            return new LookElsewhere(at, standingAt(board, at));
        }
        Part first = result.suspects().get(0).part();
        double probability = result.suspects().get(0).probability();
        if (result.verdict() == Verdict.PART
                && probability >= RemovalCost.on(board, first, minutes).probabilityFrom()) {
            return new Lift(first, probability, neighbour(board, first));
        }
        if (result.warnings().containsKey(Warning.OTHER_SIDE)) {
            return new TurnOver(first);
        }
        List<Part> others =
                result.suspects().stream().skip(1).limit(1).map(s -> s.part()).toList();
        return new GoCloser(first, others.stream().findFirst());
    }

    private static Optional<Part> standingAt(Board board, SourceEstimate at) {
        return board.parts().stream()
                .filter(p -> p.side() == at.side() && p.covers(at.xMm(), at.yMm(), 2 * at.sigmaMm()))
                .min(Comparator.comparingDouble(p -> Math.hypot(p.xMm() - at.xMm(), p.yMm() - at.yMm())));
    }

    private static Optional<Neighbour> neighbour(Board board, Part part) {
        return board.parts().stream()
                .filter(p ->
                        p.side() == part.side() && !p.ref().equals(part.ref()) && !p.covers(part.xMm(), part.yMm(), 0))
                .map(p -> new Neighbour(p, BodyGap.mm(part, p)))
                .min(Comparator.comparingDouble(n -> n.gapMm() - (n.part().sensitive() ? SENSITIVE_COUNTS_MM : 0)));
    }

    /** A part that must not be overheated is named even when another is this much nearer. */
    double SENSITIVE_COUNTS_MM = 6;
}
