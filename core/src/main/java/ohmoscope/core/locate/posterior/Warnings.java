package ohmoscope.core.locate.posterior;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.MovieFit.Solved;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;

/** What camera, supply and probes did that whoever reads a result should know, each with its size. */
public final class Warnings {
    /** Below this the source is hardly above the noise. */
    private static final double MIN_SNR = 8;

    private static final double MOVED_PX = 0.35;

    private static final double DRIFT_K = 0.25;

    private static final double SATURATED_SHARE = 1e-4;

    private final LocateInput input;
    private final Optional<FaultResistance> resistance;
    private final List<Prepared> prepared;
    private final LinesOfSight linesOfSight;

    /** @param prepared one a capture, in the input's order */
    public Warnings(
            LocateInput input,
            Optional<FaultResistance> resistance,
            List<Prepared> prepared,
            LinesOfSight linesOfSight) {
        this.input = input;
        this.resistance = resistance;
        this.prepared = prepared;
        this.linesOfSight = linesOfSight;
    }

    /** @param suspects likeliest first, at least one */
    public Map<Warning, Double> of(Verdict verdict, List<Suspect> suspects, Solved atFree, List<Nuisance> nuisances) {
        Score freeScore = atFree.score();
        Map<Warning, Double> warnings = ofCameraAndSupply();
        boolean heat = verdict != Verdict.NONE;
        if (!heat && resistance.map(FaultResistance::explainedWithoutFault).orElse(false)) {
            warnings.put(Warning.INJECTED_INTO_GROUND, resistance.orElseThrow().totalOhms());
        }
        if (!heat || freeScore.snr() < MIN_SNR) {
            if (!warnings.containsKey(Warning.INJECTED_INTO_GROUND)) {
                warnings.put(
                        Warning.TOO_LITTLE_POWER,
                        heat
                                ? freeScore.watts()
                                : resistance.map(FaultResistance::watts).orElse(0.0));
            }
        }
        Side side = suspects.get(0).part().side();
        if (heat && !linesOfSight.looked(side)) {
            warnings.put(Warning.OTHER_SIDE, suspects.get(0).probability());
        }
        double[] watts = atFree.amplitudes();
        for (int i = 0; i < nuisances.size(); i++) {
            Kind kind = nuisances.get(i).kind();
            if (kind == Kind.CONTACT && heat && watts[i] > freeScore.watts()) {
                warnings.put(Warning.LEAD_IS_HOTTEST, watts[i]);
            } else if (kind == Kind.SERIES_PART && heat && watts[i] > 0.5 * freeScore.watts()) {
                warnings.put(Warning.SERIES_PART_WARM, watts[i]);
            }
        }
        double wire = prepared.stream().mapToDouble(Prepared::wireK).max().orElse(0);
        if (wire > 0 && !warnings.containsKey(Warning.LEAD_IS_HOTTEST) && !heat) {
            warnings.put(Warning.LEAD_IS_HOTTEST, wire);
        }
        return warnings;
    }

    public Map<Warning, Double> ofCameraAndSupply() {
        Map<Warning, Double> warnings = new EnumMap<>(Warning.class);
        for (Prepared p : prepared) {
            if (p.scan().shakePx() > MOVED_PX) {
                warnings.merge(Warning.CAMERA_MOVED, p.scan().shakePx(), Math::max);
            }
            if (p.scan().driftK() > DRIFT_K) {
                warnings.merge(Warning.CAMERA_DRIFT, p.scan().driftK(), Math::max);
            }
            if (p.scan().saturatedShare() > SATURATED_SHARE) {
                warnings.merge(Warning.SATURATED, p.scan().saturatedShare(), Math::max);
            }
            if (p.registration().poor()) {
                warnings.merge(Warning.REGISTRATION_POOR, p.registration().sigmaMm(), Math::max);
            }
        }
        List<OnSpan> on = input.supplyLog().onSpans();
        if (!on.isEmpty() && on.stream().allMatch(s -> s.amps() < FaultResistance.MIN_AMPS)) {
            warnings.put(Warning.NO_CONTACT, on.get(0).amps());
        }
        burst(warnings);
        return warnings;
    }

    /** A high current that shut itself off while the output stayed on. */
    private void burst(Map<Warning, Double> warnings) {
        double most = 0;
        double last = 0;
        for (var row : input.supplyLog().rows()) {
            if (row.output()) {
                most = Math.max(most, row.amps());
                last = row.amps();
            }
        }
        OptionalDouble limit = input.injection().map(Injection::limitAmps).orElse(OptionalDouble.empty());
        if (most > 20 * FaultResistance.MIN_AMPS && last < 0.1 * most && limit.isPresent()) {
            warnings.put(Warning.CURRENT_LIMITED_OUT, most);
        }
    }
}
