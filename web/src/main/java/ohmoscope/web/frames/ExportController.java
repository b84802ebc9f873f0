package ohmoscope.web.frames;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Difference;
import ohmoscope.formats.frames.FrameExport;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.store.CaptureStore;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** A capture's frames, difference, contours and source for other programs. */
@Controller
class ExportController {
    private final JobFile jobs;
    private final CaptureStore captures;
    private final AnalysisRunner analyses;

    ExportController(JobFile jobs, CaptureStore captures, AnalysisRunner analyses) {
        this.jobs = jobs;
        this.captures = captures;
        this.analyses = analyses;
    }

    /** Writes one kind of file. */
    private interface Writing {
        void to(OutputStream out) throws IOException;
    }

    @GetMapping("/jobs/{number}/captures/{name}/export/{what}")
    ResponseEntity<StreamingResponseBody> export(
            @PathVariable String number, @PathVariable String name, @PathVariable String what) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        CaptureSpec spec = capture.spec();
        Writing writing = switch (what) {
            case "frames.tiff" -> out -> FrameExport.tiff(spec, capture.frames(), out);
            case "difference.tiff" ->
                out -> FrameExport.tiff(difference(job, capture), spec.width(), spec.height(), out);
            case "difference.png" -> out -> FrameExport.png(difference(job, capture), spec.width(), spec.height(), out);
            case "difference.csv" -> out -> FrameExport.csv(difference(job, capture), spec.width(), out);
            case "contours.svg" -> {
                String svg = ContourSvg.of(job.board(), name, spec.side(), analysis(job));
                yield out -> out.write(svg.getBytes(StandardCharsets.UTF_8));
            }
            case "source.csv" -> {
                String table = source(analysis(job));
                yield out -> out.write(table.getBytes(StandardCharsets.UTF_8));
            }
            default -> throw new NotFoundException("There is no such export: " + what + ".");
        };
        String file = (number + "-" + name + "-" + what).replaceAll("[^A-Za-z0-9._-]", "_");
        return Download.of(file, type(what), writing::to);
    }

    private static MediaType type(String what) {
        return switch (what.substring(what.lastIndexOf('.'))) {
            case ".png" -> MediaType.IMAGE_PNG;
            case ".svg" -> MediaType.valueOf("image/svg+xml");
            case ".csv" -> MediaType.valueOf("text/csv");
            default -> MediaType.valueOf("image/tiff");
        };
    }

    private StoredAnalysis analysis(JobFile.Stored job) {
        return analyses.latest(job.row().id())
                .orElseThrow(() -> new NotFoundException("The frames have not been looked into yet."));
    }

    private static float[] difference(JobFile.Stored job, CaptureStore.Stored capture) throws IOException {
        CaptureSpec spec = capture.spec();
        Optional<OnSpan> during =
                job
                        .supplyLog()
                        .onSpansDuring(spec.timesS().get(0), spec.timesS().get(spec.frameCount() - 1))
                        .stream()
                        .findFirst();
        return during.isPresent() ? Difference.of(spec, capture.frames(), during.get()) : new float[spec.pixels()];
    }

    private static String source(StoredAnalysis analysis) {
        StringBuilder table = new StringBuilder("x_mm,y_mm,side,sigma_mm,watts\n");
        analysis.source()
                .ifPresent(s -> table.append(String.format(
                        Locale.ROOT,
                        "%.3f,%.3f,%s,%.3f,%.5f%n",
                        s.xMm(),
                        s.yMm(),
                        s.side().name().toLowerCase(Locale.ROOT),
                        s.sigmaMm(),
                        s.watts())));
        return table.toString();
    }
}
