package ohmoscope.web.job;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.inject.Means;
import ohmoscope.core.inject.MoreHelp;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.kit.Eng;

/** What would tell the place more sharply, in sentences with their numbers. */
public final class MoreHelpWords {
    private static final double LEADS_CARRY_A = 4;
    private static final double LEAST_NOISE_K = 0.001;
    private static final double BLUR_PX = 0.8;

    private MoreHelpWords() {}

    /** Empty when nothing was found, or nothing would help. */
    public static List<String> of(JobFile.Stored job, Optional<StoredAnalysis> analysis) {
        Optional<MoreHelp.Now> now = analysis.flatMap(a -> now(job, a));
        return now.map(n -> MoreHelp.of(n, LEADS_CARRY_A).stream()
                        .map(o -> sentence(o, n))
                        .toList())
                .orElse(List.of());
    }

    private static Optional<MoreHelp.Now> now(JobFile.Stored job, StoredAnalysis analysis) {
        if (analysis.verdict() == Verdict.NONE
                || analysis.source().isEmpty()
                || analysis.resistance().isEmpty()) {
            return Optional.empty();
        }
        SourceEstimate source = analysis.source().get();
        List<CaptureSpec> specs =
                job.bundle().captures().stream().map(c -> c.spec()).toList();
        Optional<CaptureSpec> best = specs.stream()
                .filter(s -> s.side() == source.side())
                .findFirst()
                .or(() -> specs.stream().findFirst());
        double seconds = job.supplyLog().onSpans().stream()
                .mapToDouble(MoreHelpWords::seconds)
                .max()
                .orElse(0);
        double amps = analysis.resistance().get().amps();
        if (best.isEmpty() || seconds <= 0 || amps <= 0 || source.watts() <= 0) {
            return Optional.empty();
        }
        CaptureSpec spec = best.get();
        double pixel =
                Registration.fit(spec.registration()).homography().pitchMm(spec.width() / 2.0, spec.height() / 2.0);
        double noise = analysis.capture(spec.id())
                .map(StoredAnalysis.StoredCapture::noiseK)
                .orElse(0.07);
        double span = spec.timesS().get(spec.frameCount() - 1) - spec.timesS().get(0);
        double rate = span > 0 ? Math.max(0.1, Math.min(1000, (spec.frameCount() - 1) / span)) : 1;
        return Optional.of(new MoreHelp.Now(
                analysis.slab(),
                new Means.Camera(
                        Math.max(0.02, Math.min(10, pixel)),
                        Math.max(LEAST_NOISE_K, noise),
                        rate,
                        Math.min(10, BLUR_PX * pixel)),
                source.sigmaMm(),
                source.beyondBoundMm().orElse(MoreHelp.UNEVEN_COPPER_MM),
                source.watts(),
                amps,
                seconds,
                spec.side() == source.side()));
    }

    private static double seconds(OnSpan span) {
        return span.toS() - span.fromS();
    }

    private static String sentence(MoreHelp.Option option, MoreHelp.Now now) {
        String gain = ": ±" + Eng.significant(now.sigmaMm(), 2) + " mm now, ±" + Eng.significant(option.sigmaMm(), 2)
                + " mm then.";
        return switch (option.way()) {
            case CLOSER -> "Move the camera closer, to " + Eng.fixed(option.value(), 0) + " times the scale" + gain;
            case MORE_CURRENT ->
                "Let " + Eng.significant(option.value(), 2) + " A through instead of " + Eng.significant(now.amps(), 2)
                        + " A" + gain;
            case LONGER -> "Leave it on for " + Eng.significant(option.value(), 2) + " s" + gain;
            case PULSES -> "Pulse it, 1 s on and 1 s off, " + Eng.fixed(option.value(), 0) + " times" + gain;
            case FLIP -> "Turn the board over and look at the side where the heat starts" + gain;
        };
    }
}
