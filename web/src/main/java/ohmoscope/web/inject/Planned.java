package ohmoscope.web.inject;

import java.util.HashMap;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.core.inject.InjectionPlan;
import ohmoscope.core.inject.InjectionReview;
import ohmoscope.core.reading.Unit;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;

/** What was injected into a job's rail so far, and the ladder that is planned from it. */
public record Planned(InjectionReview review, InjectionPlan plan) {
    /** @param joined the nets that anything conducts to from the job's rail */
    public static Planned of(OpenJobs.Open open, Set<String> joined, InjectView.Given given) {
        String rail = open.job().bundle().rail();
        InjectionReview review = InjectionReview.of(rail, open.job().bundle().observations(), open.advice()::sign);
        InjectionPlan plan = InjectionPlan.of(
                new BoardIndex(open.job().board()),
                rail,
                joined,
                review.estimate(meterOhms(open, rail)),
                given.leads(),
                given.bench(),
                given.camera(),
                given.wantedMm(),
                open.schools().injection());
        return new Planned(review, plan);
    }

    private static OptionalDouble meterOhms(OpenJobs.Open open, String rail) {
        return open.advice().signs().stream()
                .filter(s -> s.net().equals(rail) && s.unit() == Unit.OHMS && Double.isFinite(s.value()))
                .mapToDouble(Sign::value)
                .reduce((a, b) -> b);
    }

    /** Whether a step was injected already, about as it is set. */
    public boolean tried(InjectionPlan.Rung rung) {
        return review.points().stream()
                .anyMatch(p -> Math.abs(p.limitAmps() - rung.limitAmps()) < 0.1 * rung.limitAmps()
                        && Math.abs(p.setVolts() - rung.setVolts()) < 0.25 * rung.setVolts());
    }

    /** A pad to touch, in words. */
    public static String words(InjectionPlaces.Place place) {
        return place.ref() + (place.pin().isEmpty() ? "" : ", pad " + place.pin()) + ", " + Words.plain(place.side());
    }

    /** Where the leads go, clear of what is suspected by now. */
    public static InjectionPlaces places(OpenJobs.Open open, String rail) {
        Board board = open.job().board();
        Map<String, Double> suspects = new HashMap<>();
        open.advice().hypotheses().forEach(h -> suspects.merge(h.target(), h.probability(), Double::sum));
        open.analysis().ifPresent(a -> a.suspects().forEach(s -> suspects.merge(s.ref(), s.probability(), Math::max)));
        return InjectionPlaces.of(board, rail, new BoardIndex(board).ground(), suspects);
    }
}
