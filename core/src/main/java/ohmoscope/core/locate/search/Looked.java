package ohmoscope.core.locate.search;

import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.PositionPrior;

/**
 * How a candidate explains the frames at some place.
 *
 * @param at that place
 * @param logLikelihood the fit's score there, less what is paid, nats
 * @param placeNats what it costs it to lie there, whatever the heat model is worth
 * @param paidNats what the place costs as a part of the model, and the choice among places
 */
record Looked(HeatSource at, double logLikelihood, double placeNats, double paidNats) {
    static Looked of(HeatSource at, Score score, double placeNats, double paidNats) {
        return new Looked(at, score.logLikelihood() - paidNats, placeNats, paidNats);
    }

    double penalised() {
        return logLikelihood - placeNats;
    }

    /** The better of two. @param doubt by which likelihoods are divided */
    Looked or(Looked other, double doubt) {
        return other.believed(doubt) > believed(doubt) ? other : this;
    }

    private double believed(double doubt) {
        return logLikelihood / doubt - PositionPrior.kept(placeNats, doubt);
    }

    /** Against another scale. @param nats which explain nothing */
    Looked less(double nats) {
        return new Looked(at, logLikelihood - nats, placeNats, paidNats);
    }

    /** At the same place in another movie. @param score the fit's there */
    Looked scored(Score score) {
        return of(at, score, placeNats, paidNats);
    }
}
