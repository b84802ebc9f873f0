package ohmoscope.web.capture;

import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.CaptureStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** Two captures beside each other, both in the board's axes. */
@Controller
class BesideController {
    private final JobFile jobs;
    private final CaptureStore captures;
    private final AnalysisRunner analyses;

    BesideController(JobFile jobs, CaptureStore captures, AnalysisRunner analyses) {
        this.jobs = jobs;
        this.captures = captures;
        this.analyses = analyses;
    }

    /** One of the two. @param facts name and number */
    record Half(String id, String side, BoardPicture picture, List<String[]> facts) {}

    @GetMapping("/jobs/{number}/captures/{name}/beside/{other}")
    String beside(@PathVariable String number, @PathVariable String name, @PathVariable String other, Model model)
            throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        captures.named(job.row().id(), name);
        captures.named(job.row().id(), other);
        Optional<StoredAnalysis> analysis = analyses.latest(job.row().id())
                .filter(a -> a.capture(name).isPresent() && a.capture(other).isPresent());
        StoredAnalysis known = analysis.orElseThrow(() ->
                new NotFoundException("Not both captures have been looked into yet: look into the frames first."));
        model.addAttribute("number", number);
        model.addAttribute("halves", List.of(half(job, known, name), half(job, known, other)));
        model.addAttribute("source", known.source().map(BesideController::words).orElse("No source was found."));
        return "beside";
    }

    private static Half half(JobFile.Stored job, StoredAnalysis analysis, String id) {
        StoredAnalysis.StoredCapture capture = analysis.capture(id).orElseThrow();
        return new Half(
                id,
                capture.side().name().toLowerCase(Locale.ROOT),
                BoardPicture.inBoardAxes(job.board(), job.bundle().rail(), analysis, id),
                List.of(
                        new String[] {"Warmest place", "+" + Eng.significant(capture.hottestK(), 2) + " K"},
                        new String[] {"After power", Eng.fixed(capture.secondsAfterPower(), 1) + " s"},
                        new String[] {"Noise of a pixel", Eng.fixed(1000 * capture.noiseK(), 0) + " mK"},
                        new String[] {"Lies to", "±" + Eng.fixed(capture.registrationSigmaMm(), 2) + " mm"}));
    }

    private static String words(SourceEstimate source) {
        return "The heat starts at " + Eng.fixed(source.xMm(), 1) + ", " + Eng.fixed(source.yMm(), 1) + " mm on the "
                + source.side().name().toLowerCase(Locale.ROOT) + " side, ±" + Eng.significant(source.sigmaMm(), 2)
                + " mm.";
    }
}
