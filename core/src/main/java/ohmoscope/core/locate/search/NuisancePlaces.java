package ohmoscope.core.locate.search;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.locate.fit.MovieFit;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.PositionPrior;
import ohmoscope.core.locate.search.PlaceSearch.Shift;

/**
 * Where contacts and series parts are: where the board says, give or take what moves the picture; the picture knows
 * better.
 */
public final class NuisancePlaces {
    private final List<Nuisance> stated;
    private final WattsPrior expected;
    private final double sigmaMm;

    /**
     * @param stated as the board says
     * @param expected watts of a source
     * @param sigmaMm one sigma of what moves the picture
     */
    public NuisancePlaces(List<Nuisance> stated, WattsPrior expected, double sigmaMm) {
        this.stated = List.copyOf(stated);
        this.expected = expected;
        this.sigmaMm = sigmaMm;
    }

    public List<Nuisance> stated() {
        return stated;
    }

    /** Those that matter to the shape of a heat spot. */
    public static List<Nuisance> local(List<Nuisance> nuisances) {
        return nuisances.stream().filter(n -> n.kind() != Kind.COPPER).toList();
    }

    /** One after another settled beside the others and a suspect. @param now where they are, in the stated order */
    public List<Nuisance> besides(
            HeatSource suspect, List<Nuisance> now, List<CaptureModel> captures, HeatModel model) {
        Nuisance own = new Nuisance(Kind.SUSPECT, "suspect", List.of(suspect), expected.mean(), expected.sigma());
        return settled(now, List.of(own), captures, model);
    }

    private List<Nuisance> settled(
            List<Nuisance> now, List<Nuisance> besides, List<CaptureModel> captures, HeatModel model) {
        List<Nuisance> settled = new ArrayList<>(now);
        for (int i = 0; i < settled.size(); i++) {
            Nuisance own = stated.get(i);
            if (own.kind() == Kind.COPPER) {
                continue;
            }
            List<Nuisance> others = new ArrayList<>(local(settled));
            others.remove(settled.get(i));
            others.addAll(besides);
            MovieFit rest =
                    new MovieFit(captures, others, WattsPrior.normal(own.priorWatts(), own.sigmaWatts()), model);
            Shift shift = new PlaceSearch(rest::score).shifted(positionPrior(i));
            settled.set(i, own.moved(shift.dxMm(), shift.dyMm()));
        }
        return settled;
    }

    /**
     * Where everything lies best without any source.
     *
     * @param missedNats how much better the frames are explained so, at least 0
     */
    record Alone(List<Nuisance> nuisances, double missedNats) {}

    /**
     * How much better the frames are explained without any source once everything may lie where that suits best. Measured
     * where it was settled beside a suspect, no source at all would explain less than it can, and the suspect win by
     * having pushed a contact out of its way.
     *
     * @param now where they were settled beside the suspect
     * @param gain twice the log-likelihood that they gain there by themselves, over nothing
     * @param coarse for the places
     * @param fine for what it comes to
     */
    Alone alone(List<Nuisance> now, double gain, List<CaptureModel> coarse, List<CaptureModel> fine, HeatModel model) {
        if (local(stated).isEmpty()) {
            return new Alone(now, 0);
        }
        List<Nuisance> alone = settled(settled(stated, List.of(), coarse, model), List.of(), coarse, model);
        return aloneAt(alone, now, gain, fine, model);
    }

    /**
     * The same, its places known.
     *
     * @param alone where everything lies best without a source
     */
    Alone aloneAt(List<Nuisance> alone, List<Nuisance> now, double gain, List<CaptureModel> fine, HeatModel model) {
        if (local(stated).isEmpty()) {
            return new Alone(now, 0);
        }
        double best = new MovieFit(fine, alone, expected, model).aloneGain() / 2 - cost(alone);
        return new Alone(alone, Math.max(0, best - (gain / 2 - cost(now))));
    }

    /** What is known of the watts now, at the places that were settled before. @param settled in the stated order */
    List<Nuisance> at(List<Nuisance> settled) {
        List<Nuisance> moved = new ArrayList<>();
        for (int i = 0; i < stated.size(); i++) {
            HeatSource from = stated.get(i).sources().get(0);
            HeatSource to = settled.get(i).sources().get(0);
            moved.add(stated.get(i).moved(to.xMm() - from.xMm(), to.yMm() - from.yMm()));
        }
        return moved;
    }

    private double cost(List<Nuisance> now) {
        double nats = 0;
        for (int i = 0; i < now.size(); i++) {
            if (now.get(i).kind() != Kind.COPPER) {
                HeatSource at = now.get(i).sources().get(0);
                nats += positionPrior(i).cost(at.xMm(), at.yMm());
            }
        }
        return nats;
    }

    private PositionPrior positionPrior(int i) {
        return PositionPrior.of(stated.get(i).sources().get(0), sigmaMm);
    }
}
