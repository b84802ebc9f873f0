package ohmoscope.core.locate.search;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.fit.ModelRefiner.Refined;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Judgement.Spotted;

/**
 * What spares the search of the same movie with some more frames its first round.
 *
 * @param captures those that said something, in the order of the model's clocks
 * @param freeStart where the best place for the heat was sought
 * @param climbs where seeking it again begins
 */
record WarmStart(Round begun, List<String> captures, HeatSource freeStart, SourceSearch.Starts climbs) {
    WarmStart {
        captures = List.copyOf(captures);
    }

    /**
     * What a search's first round came to.
     *
     * @param madeFor whom the weights were made round
     * @param spotted each candidate's spot, by reference
     * @param refined each side's heat model
     * @param nuisances as they were settled
     */
    record Round(
            HeatSource madeFor, Map<String, Spotted> spotted, Map<Side, Refined> refined, List<Nuisance> nuisances) {
        Round {
            spotted = Map.copyOf(spotted);
            refined = new EnumMap<>(refined);
            nuisances = List.copyOf(nuisances);
        }

        static Round of(
                HeatSource madeFor,
                List<Candidate> candidates,
                Spotted[] spotted,
                Map<Side, Refined> refined,
                List<Nuisance> nuisances) {
            Map<String, Spotted> byRef = new HashMap<>();
            for (int i = 0; i < spotted.length; i++) {
                byRef.put(candidates.get(i).part().ref(), spotted[i]);
            }
            return new Round(madeFor, byRef, refined, nuisances);
        }

        /** Fills in each candidate's spot. */
        void spots(List<Candidate> candidates, Spotted[] into) {
            for (int i = 0; i < into.length; i++) {
                into[i] = spotted.get(candidates.get(i).part().ref());
            }
        }

        /** What is known now of the watts, where it was settled then. */
        List<Nuisance> moved(List<Nuisance> stated) {
            List<Nuisance> moved = new ArrayList<>();
            for (int i = 0; i < stated.size(); i++) {
                HeatSource from = stated.get(i).sources().get(0);
                HeatSource to = nuisances.get(i).sources().get(0);
                moved.add(stated.get(i).moved(to.xMm() - from.xMm(), to.yMm() - from.yMm()));
            }
            return moved;
        }
    }

    /** Whether a search is of the same movies, candidates and contacts. */
    boolean suits(List<String> now, List<Candidate> candidates, List<Nuisance> stated) {
        return now.equals(captures)
                && stated.size() == begun.nuisances().size()
                && candidates.stream()
                        .allMatch(c -> begun.spotted().containsKey(c.part().ref()));
    }

    /** Where to climb from, should the best place be sought where it was then. */
    Optional<SourceSearch.Starts> climbsFrom(HeatSource start) {
        return start.equals(freeStart) ? Optional.of(climbs) : Optional.empty();
    }
}
