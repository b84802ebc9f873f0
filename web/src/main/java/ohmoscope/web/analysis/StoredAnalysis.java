package ohmoscope.web.analysis;

import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Contours;
import ohmoscope.core.imaging.Motion;
import ohmoscope.core.imaging.WarmthMap;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.search.PredictedPicture;
import ohmoscope.core.prove.Posterior;

/**
 * A result of locate as it is kept: what the pages show of it, and no more.
 *
 * @param seconds what the computation took
 */
public record StoredAnalysis(
        Verdict verdict,
        List<StoredSuspect> suspects,
        double noneProbability,
        double elsewhereProbability,
        Optional<SourceEstimate> source,
        Optional<FaultResistance> resistance,
        Map<Warning, Double> warnings,
        List<StoredCapture> captures,
        SlabParameters slab,
        List<FittedHeat> heats,
        double seconds,
        Optional<StandsOut> standsOut,
        OptionalDouble seenFromWatts) {
    public StoredAnalysis {
        seenFromWatts = seenFromWatts == null ? OptionalDouble.empty() : seenFromWatts;
        standsOut = standsOut == null ? Optional.empty() : standsOut;
        // Results of earlier versions have none.
        heats = heats == null ? List.of() : List.copyOf(heats);
    }

    /** Whether a part, or some of a place, is named. */
    public boolean names() {
        return verdict != Verdict.NONE && !suspects.isEmpty();
    }

    /** With what the meter says of whether anything warms at all. */
    public StoredAnalysis weighed(Posterior posterior) {
        double share = posterior.frames();
        return new StoredAnalysis(
                verdict,
                suspects.stream()
                        .map(s -> new StoredSuspect(s.ref(), Math.min(1, s.probability() * share), s.offMm()))
                        .toList(),
                1 - posterior.warm(),
                Math.min(1, elsewhereProbability * share),
                source,
                resistance,
                warnings,
                captures,
                slab,
                heats,
                seconds,
                standsOut,
                seenFromWatts);
    }

    /** Whether no frame could tell anything. */
    public boolean blind() {
        return LocateResult.blind(verdict, noneProbability);
    }

    /** Whether nothing is called, though less likely than not: nothing else stands out either. */
    public boolean onlyNothingStandsOut() {
        return LocateResult.onlyNothingStandsOut(verdict, noneProbability);
    }

    /** A suspect by its reference. */
    public record StoredSuspect(String ref, double probability, double offMm) {}

    /** One line of equal warmth; x and y in turn, board millimetres. */
    public record StoredContour(double kelvin, double[] xyMm) {}

    /**
     * What a capture turned out to be.
     *
     * @param turn of each frame about its middle, radians; empty in results of earlier versions
     * @param clockOffsetS the supply's clock against this capture's; empty in results of earlier versions
     */
    public record StoredCapture(
            String id,
            Side side,
            double noiseK,
            double shakePx,
            double driftK,
            int segments,
            int repeatedFrames,
            List<Integer> segment,
            List<Double> shiftXPx,
            List<Double> shiftYPx,
            List<Double> turn,
            double registrationSigmaMm,
            List<Double> residualsMm,
            int leftOutPair,
            OptionalDouble clockOffsetS,
            double secondsAfterPower,
            double hottestK,
            List<StoredContour> contours) {
        public StoredCapture {
            turn = turn == null ? List.of() : turn;
            clockOffsetS = clockOffsetS == null ? OptionalDouble.empty() : clockOffsetS;
        }

        /** Root mean square over the frames. */
        public double turnedDegrees() {
            double mean2 = turn.stream().mapToDouble(t -> t * t).average().orElse(0);
            return Math.toDegrees(Math.sqrt(mean2));
        }
    }

    static StoredAnalysis of(LocateInput input, LocateResult result, double seconds) throws IOException {
        List<StoredCapture> captures = new ArrayList<>();
        List<OnSpan> on = input.supplyLog().onSpans();
        for (int i = 0; i < input.captures().size(); i++) {
            captures.add(capture(input, result, i, on));
        }
        return new StoredAnalysis(
                result.verdict(),
                result.suspects().stream()
                        .map(s -> new StoredSuspect(s.part().ref(), s.probability(), s.offMm()))
                        .toList(),
                result.noneProbability(),
                result.elsewhereProbability(),
                result.source(),
                result.resistance(),
                result.warnings(),
                captures,
                result.slab(),
                result.heats(),
                seconds,
                result.standsOut(),
                result.seenFromWatts());
    }

    private static StoredCapture capture(LocateInput input, LocateResult result, int index, List<OnSpan> on)
            throws IOException {
        LocateInput.Capture capture = input.captures().get(index);
        LocateResult.CaptureFinding finding = result.captures().get(index);
        CaptureSpec spec = capture.spec();
        double first = spec.timesS().get(0);
        double last = spec.timesS().get(spec.frameCount() - 1);
        Optional<OnSpan> span =
                input.supplyLog().onSpansDuring(first, last).stream().reduce((a, b) -> b);
        Optional<WarmthMap> warmth = Optional.empty();
        if (span.isPresent()) {
            warmth = Optional.of(WarmthMap.of(
                    spec,
                    capture.frames(),
                    finding.scan(),
                    finding.registration(),
                    input.board().outline(),
                    withFirstStart(span.get(), on, first)));
        }
        return new StoredCapture(
                spec.id(),
                spec.side(),
                finding.scan().noiseK(),
                finding.scan().shakePx(),
                finding.scan().driftK(),
                finding.scan().segments(),
                finding.scan().repeatedFrames(),
                finding.scan().segment(),
                finding.scan().motion().stream().map(Motion::xPx).toList(),
                finding.scan().motion().stream().map(Motion::yPx).toList(),
                finding.scan().motion().stream().map(Motion::turn).toList(),
                finding.registration().sigmaMm(),
                finding.registration().residualsMm(),
                finding.registration().leftOut().orElse(-1),
                OptionalDouble.of(finding.clockOffsetS()),
                warmth.map(WarmthMap::secondsAfterPower).orElse(0.0),
                warmth.map(WarmthMap::hottestK).orElse(0.0),
                warmth.map(StoredAnalysis::contours).orElse(List.of()));
    }

    /** Pulses are one warming: from the first that this capture saw to the last. */
    private static OnSpan withFirstStart(OnSpan last, List<OnSpan> on, double captureStart) {
        double from = on.stream()
                .filter(s -> s.toS() > captureStart)
                .mapToDouble(OnSpan::fromS)
                .min()
                .orElse(last.fromS());
        return new OnSpan(from, last.fromSigmaS(), last.toS(), last.toSigmaS(), last.volts(), last.amps());
    }

    private static List<StoredContour> contours(WarmthMap map) {
        return Contours.of(map).stream()
                .map(c -> {
                    double[] xy = new double[2 * c.points().size()];
                    for (int i = 0; i < c.points().size(); i++) {
                        xy[2 * i] = hundredth(c.points().get(i).xMm());
                        xy[2 * i + 1] = hundredth(c.points().get(i).yMm());
                    }
                    return new StoredContour(c.kelvin(), xy);
                })
                .toList();
    }

    private static double hundredth(double mm) {
        return Math.round(mm * 100) / 100.0;
    }

    /** The result as the core knows it, for what is judged from it; captures' scans are not kept. */
    public LocateResult onBoard(Board board) {
        List<Suspect> known = suspects.stream()
                .flatMap(s -> board.part(s.ref()).stream().map(p -> new Suspect(p, s.probability(), s.offMm())))
                .toList();
        Map<Warning, Double> sorted = new EnumMap<>(Warning.class);
        sorted.putAll(warnings);
        return new LocateResult(
                verdict,
                known,
                noneProbability,
                elsewhereProbability,
                source,
                resistance,
                sorted,
                List.of(),
                slab,
                heats,
                standsOut,
                seenFromWatts);
    }

    public Optional<StoredCapture> capture(String id) {
        return captures.stream().filter(c -> c.id().equals(id)).findFirst();
    }

    /** The same with one capture's picture alone. */
    public StoredAnalysis only(String id) {
        return new StoredAnalysis(
                verdict,
                suspects,
                noneProbability,
                elsewhereProbability,
                source,
                resistance,
                warnings,
                captures.stream().filter(c -> c.id().equals(id)).toList(),
                slab,
                heats,
                seconds,
                standsOut,
                seenFromWatts);
    }

    /** A capture of the side, the last first; empty when that side was not looked at. */
    public Optional<StoredCapture> captureOf(Side side) {
        return captures.stream().filter(c -> c.side() == side).reduce((a, b) -> b);
    }

    /** The suspects that can be drawn, most probable first. */
    public List<String> drawn() {
        return heats.stream().filter(FittedHeat::suspect).map(FittedHeat::what).toList();
    }

    /**
     * What a capture looks like at a time if this suspect is the fault: its own heat, and what warms besides.
     *
     * @param suspect one of {@link #drawn}
     */
    public BoardField predicted(Board board, SupplyLog log, String suspect, CaptureSpec spec, double tS) {
        List<FittedHeat> warm = heats.stream()
                .filter(h -> !h.suspect() || h.what().equals(suspect))
                .toList();
        double clockOffsetS = capture(spec.id())
                .map(StoredCapture::clockOffsetS)
                .orElse(OptionalDouble.empty())
                .orElse(0);
        return PredictedPicture.of(
                board,
                slab,
                Waveform.resistive(log),
                clockOffsetS,
                warm,
                spec.side(),
                tS,
                PredictedPicture.blurMm(spec));
    }

    /** The warning's name in the contract. */
    public static String code(Warning warning) {
        return warning.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
