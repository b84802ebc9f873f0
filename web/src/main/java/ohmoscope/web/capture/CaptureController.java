package ohmoscope.web.capture;

import java.io.IOException;
import java.io.OutputStream;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Technician;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.CaptureStore;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** One capture: its frames over the board, time courses, registration. */
@Controller
class CaptureController {
    private static final int MOST_FRAMES = 64;
    private static final List<String> EXPORTS =
            List.of("frames.tiff", "difference.tiff", "difference.png", "difference.csv", "contours.svg", "source.csv");

    private final JobFile jobs;
    private final CaptureStore captures;
    private final AnalysisRunner analyses;

    CaptureController(JobFile jobs, CaptureStore captures, AnalysisRunner analyses) {
        this.jobs = jobs;
        this.captures = captures;
        this.analyses = analyses;
    }

    @GetMapping("/jobs/{number}/captures/{name}")
    String capture(@PathVariable String number, @PathVariable String name, Model model) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        // The state first: an analysis that ends while the page is made must find the page still waiting for it.
        Optional<AnalysisStore.Row> state = analyses.state(job.row().id());
        Optional<StoredAnalysis> analysis = analyses.latest(job.row().id());
        model.addAttribute("number", number);
        model.addAttribute("view", CaptureView.of(job, capture.spec(), analysis));
        model.addAttribute("analysis", state);
        model.addAttribute("exports", EXPORTS);
        model.addAttribute(
                "picture",
                BoardPicture.of(
                        job.board(),
                        job.bundle().rail(),
                        capture.spec().side(),
                        job.bundle().injection(),
                        analysis));
        return "capture";
    }

    /** What the page's script needs to draw frames over the board. */
    @GetMapping("/jobs/{number}/captures/{name}/about")
    @ResponseBody
    CaptureAbout about(@PathVariable String number, @PathVariable String name) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        return CaptureAbout.of(job, capture.spec(), analyses.latest(job.row().id()));
    }

    /** Counts of frames from one on, two bytes a pixel, least significant first. */
    @GetMapping("/jobs/{number}/captures/{name}/frames")
    ResponseEntity<StreamingResponseBody> frames(
            @PathVariable String number, @PathVariable String name, @RequestParam int from, @RequestParam int count)
            throws IOException {
        CaptureStore.Stored capture = captures.named(jobs.id(number), name);
        if (from < 0 || count < 1) {
            throw new InvalidMember("from", "and count must not be negative");
        }
        List<char[]> frames = captures.frames(capture, from, Math.min(MOST_FRAMES, count));
        StreamingResponseBody body = out -> {
            for (char[] frame : frames) {
                write(out, frame);
            }
        };
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .cacheControl(CacheControl.maxAge(java.time.Duration.ofDays(30))
                        .cachePrivate()
                        .immutable())
                .body(body);
    }

    private static void write(OutputStream out, char[] frame) throws IOException {
        byte[] bytes = new byte[frame.length * 2];
        for (int i = 0; i < frame.length; i++) {
            bytes[2 * i] = (byte) frame[i];
            bytes[2 * i + 1] = (byte) (frame[i] >> 8);
        }
        out.write(bytes);
    }

    /** How pairs would lie: each one's residual, for the page while a pair is dragged. */
    @GetMapping("/jobs/{number}/captures/{name}/fit")
    @ResponseBody
    Fit fit(
            @PathVariable String number,
            @PathVariable String name,
            @RequestParam List<Double> px,
            @RequestParam List<Double> py)
            throws IOException {
        CaptureStore.Stored capture = captures.named(jobs.id(number), name);
        Registration registration = Registration.fit(moved(capture.spec().registration(), px, py));
        return new Fit(
                registration.homography().matrix(),
                registration.residualsMm(),
                registration.leftOut().orElse(-1),
                registration.sigmaMm());
    }

    /** @param leftOut the pair that was left out, −1 for none */
    record Fit(double[] matrix, List<Double> residualsMm, int leftOut, double sigmaMm) {}

    /** Keeps the pairs and looks at the frames again. */
    @PostMapping("/jobs/{number}/captures/{name}/registration")
    String register(
            @PathVariable String number,
            @PathVariable String name,
            @RequestParam List<Double> px,
            @RequestParam List<Double> py,
            Principal principal)
            throws IOException {
        long jobId = jobs.id(number);
        CaptureStore.Stored capture = captures.named(jobId, name);
        List<RegistrationPair> pairs = moved(capture.spec().registration(), px, py);
        Registration.requireUsable(pairs);
        captures.addRegistration(capture.id(), pairs, Technician.name(principal));
        analyses.request(jobId);
        return "redirect:/jobs/" + number + "/captures/" + name;
    }

    /** The pairs at other pixels. */
    static List<RegistrationPair> moved(List<RegistrationPair> pairs, List<Double> px, List<Double> py) {
        if (px.size() != pairs.size() || py.size() != pairs.size()) {
            throw new InvalidMember("registration", "has " + pairs.size() + " pairs, but " + px.size() + " were sent");
        }
        List<RegistrationPair> moved = new ArrayList<>();
        for (int i = 0; i < pairs.size(); i++) {
            moved.add(new RegistrationPair(
                    px.get(i), py.get(i), pairs.get(i).xMm(), pairs.get(i).yMm()));
        }
        return moved;
    }
}
