package ohmoscope.core.locate.posterior;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.HeatSource;

/** What warms besides the fault, and how much of the supply's power may be expected at it. */
public final class KnownHeat {
    /** A contact's resistance, one sigma, ohms. */
    private static final double CONTACT_OHMS = 0.02;

    /** A ground or power plane between the probes, one sigma, ohms. */
    private static final double COPPER_OHMS = 0.004;

    private static final int COPPER_POINTS = 6;

    private static final double COPPER_FOOTPRINT_MM2 = 4;

    /** At a fault of which the supply's log says nothing, one sigma. */
    private static final double UNKNOWN_WATTS = 0.5;

    private static final double TIP_FOOTPRINT_MM2 = 0.25;

    private static final double TIP_LAG_S = 0.1;

    private KnownHeat() {}

    /** The leads' contacts, the series parts that carry the current, and the copper between the leads. */
    public static List<Nuisance> nuisances(LocateInput input, Rail rail, Optional<FaultResistance> resistance) {
        double amps2 = Math.pow(resistance.map(FaultResistance::amps).orElse(1.0), 2);
        List<Nuisance> list = new ArrayList<>();
        Optional<ProbePlace> at = input.injection().flatMap(Injection::at);
        Optional<ProbePlace> back = input.injection().flatMap(Injection::returnAt);
        at.ifPresent(place -> list.add(contact("lead", place, amps2)));
        back.ifPresent(place -> list.add(contact("return", place, amps2)));
        for (Part part : rail.path()) {
            double watts = amps2 * part.resistanceOhms().orElse(0);
            double sigma = part.resistanceOhms().isPresent() ? 0.3 * watts + 1e-5 : amps2 * CONTACT_OHMS;
            list.add(new Nuisance(Kind.SERIES_PART, part.ref(), List.of(middle(new Candidate(part, 1))), watts, sigma));
        }
        if (at.isPresent() && back.isPresent()) {
            list.add(new Nuisance(Kind.COPPER, "copper", between(at.get(), back.get()), 0, amps2 * COPPER_OHMS + 1e-5));
        }
        return list;
    }

    private static List<HeatSource> between(ProbePlace from, ProbePlace to) {
        List<HeatSource> sources = new ArrayList<>();
        for (int i = 1; i <= COPPER_POINTS; i++) {
            double share = i / (COPPER_POINTS + 1.0);
            sources.add(new HeatSource(
                    from.xMm() + share * (to.xMm() - from.xMm()),
                    from.yMm() + share * (to.yMm() - from.yMm()),
                    from.side(),
                    COPPER_FOOTPRINT_MM2,
                    TIP_LAG_S));
        }
        return sources;
    }

    /** A part as a source at its own place. */
    public static HeatSource middle(Candidate candidate) {
        return candidate
                .spots()
                .get(0)
                .at(candidate.part().xMm(), candidate.part().yMm());
    }

    private static Nuisance contact(String what, ProbePlace at, double amps2) {
        HeatSource source = new HeatSource(at.xMm(), at.yMm(), at.side(), TIP_FOOTPRINT_MM2, TIP_LAG_S);
        return new Nuisance(Kind.CONTACT, what, List.of(source), 0, amps2 * CONTACT_OHMS + 1e-5);
    }

    /** Watts at the fault as the supply tells them. */
    public static WattsPrior expected(Optional<FaultResistance> resistance) {
        return resistance.map(WattsPrior::of).orElse(WattsPrior.normal(0, UNKNOWN_WATTS));
    }
}
