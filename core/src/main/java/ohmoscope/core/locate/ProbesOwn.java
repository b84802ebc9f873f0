package ohmoscope.core.locate;

import java.util.List;
import ohmoscope.core.locate.MovieFit.Nuisance;
import ohmoscope.core.locate.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.MovieFit.Solved;

/** How far heat may be a probe's own: how a contact warms the pad and the part that it stands on is known roughly. */
final class ProbesOwn {
    /** How often a part's heat that is found right at a probe is the probe's. */
    static final double SHARE_OF_PARTS = 0.5;

    /** What the contact's model leaves unexplained there, about. */
    static final double UNEXPLAINED_NATS = 40;

    /** From here on a part is acted on even if the heat is at a probe. */
    static final double SURE_OF_PART = 0.95;

    /** How far from a probe its contact is mistaken for a part that is much hotter. */
    private static final double REACH_MM = 1.2;

    /** A contact counts as so many times the source's watts at most. */
    private static final double MOST_OVER_SOURCE = 8;

    private ProbesOwn() {}

    /** @return 1 where a place is a probe's, 0 far from any */
    static double at(HeatSource source, Solved solved, List<Nuisance> nuisances) {
        double most = 0;
        for (int i = 0; i < nuisances.size(); i++) {
            if (nuisances.get(i).kind() == Kind.CONTACT) {
                List<HeatSource> contacts = nuisances.get(i).sources();
                double watts = solved.amplitudes()[i] / contacts.size();
                for (HeatSource contact : contacts) {
                    most = Math.max(most, at(source, solved.score().watts(), contact, watts));
                }
            }
        }
        return most;
    }

    /**
     * What is left of a contact's heat falls about as the square of the distance: it is mistaken for weaker heat as far
     * out as the root of how much the weaker that is.
     */
    static double at(HeatSource source, double watts, HeatSource contact, double contactWatts) {
        if (contact.side() != source.side()) {
            return 0;
        }
        double over = watts > 0 ? Math.min(MOST_OVER_SOURCE, contactWatts / watts) : 0;
        double offMm = Math.hypot(contact.xMm() - source.xMm(), contact.yMm() - source.yMm());
        return Math.exp(-offMm * offMm / (2 * REACH_MM * REACH_MM * (1 + over)));
    }
}
