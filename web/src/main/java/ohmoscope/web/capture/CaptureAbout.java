package ohmoscope.web.capture;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;

/**
 * What the script needs to lay frames over the board. Board places are millimetres as in the bundle.
 *
 * @param toPx the map from board millimetres to camera pixels, row-major 3×3
 * @param steps relative power: time and whether it is on from then
 * @param segment camera segment by frame, −1 for a repeated one
 * @param shiftX shake by frame, pixels; {@link ohmoscope.core.imaging.Motion} says how a place moves
 * @param turn by frame, radians
 */
record CaptureAbout(
        String id,
        boolean bottom,
        int width,
        int height,
        int frames,
        double[] times,
        double kelvinPerCount,
        double[] toPx,
        double[] box,
        List<RegistrationPair> pairs,
        List<Double> residualsMm,
        List<Step> steps,
        List<Integer> segment,
        List<Double> shiftX,
        List<Double> shiftY,
        List<Double> turn,
        List<double[]> suspects) {
    /** From this time on the output was on or off. */
    record Step(double t, boolean on) {}

    static CaptureAbout of(JobFile.Stored job, CaptureSpec spec, Optional<StoredAnalysis> analysis) {
        Registration registration = Registration.fit(spec.registration());
        Optional<StoredAnalysis.StoredCapture> found = analysis.flatMap(a -> a.capture(spec.id()));
        var outline = job.board().outline();
        SupplyLog log = job.supplyLog();
        return new CaptureAbout(
                spec.id(),
                spec.side() == Side.BOTTOM,
                spec.width(),
                spec.height(),
                spec.frameCount(),
                spec.times(),
                spec.kelvinPerCount(),
                registration.homography().matrix(),
                new double[] {outline.minXMm(), outline.minYMm(), outline.maxXMm(), outline.maxYMm()},
                spec.registration(),
                registration.residualsMm(),
                log.onSpans().stream()
                        .flatMap(s -> java.util.stream.Stream.of(new Step(s.fromS(), true), new Step(s.toS(), false)))
                        .toList(),
                found.map(StoredAnalysis.StoredCapture::segment).orElse(List.of()),
                found.map(StoredAnalysis.StoredCapture::shiftXPx).orElse(List.of()),
                found.map(StoredAnalysis.StoredCapture::shiftYPx).orElse(List.of()),
                found.map(StoredAnalysis.StoredCapture::turn).orElse(List.of()),
                analysis.stream()
                        .flatMap(a -> a.suspects().stream().limit(1))
                        .flatMap(s -> job.board().part(s.ref()).stream())
                        .map(p -> new double[] {p.xMm(), p.yMm()})
                        .toList());
    }
}
