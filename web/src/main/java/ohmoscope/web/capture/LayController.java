package ohmoscope.web.capture;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.EdgeSnap;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.photomap.PhotoBodies;
import ohmoscope.web.store.CaptureStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The board laid over the camera's own picture: drag, nudge, or let it snap. */
@Controller
class LayController {
    private final JobFile jobs;
    private final CaptureStore captures;
    private final AnalysisRunner analyses;
    private final PhotoBodies bodies;

    LayController(JobFile jobs, CaptureStore captures, AnalysisRunner analyses, PhotoBodies bodies) {
        this.jobs = jobs;
        this.captures = captures;
        this.analyses = analyses;
        this.bodies = bodies;
    }

    @GetMapping("/jobs/{number}/captures/{name}/lay")
    String lay(@PathVariable String number, @PathVariable String name, Model model) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        model.addAttribute("number", number);
        model.addAttribute(
                "view",
                CaptureView.of(job, capture.spec(), analyses.latest(job.row().id())));
        return "lay";
    }

    /** Shapes to lay over the picture, board millimetres. @param kelvinPerCount of the frames */
    record Shapes(
            int width,
            int height,
            double kelvinPerCount,
            List<double[]> outline,
            List<Shape> parts,
            List<RegistrationPair> pairs) {}

    /** A body by its corners. */
    record Shape(String ref, List<double[]> corners) {}

    @GetMapping("/jobs/{number}/captures/{name}/shapes")
    @ResponseBody
    Shapes shapes(@PathVariable String number, @PathVariable String name) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureSpec spec = captures.named(job.row().id(), name).spec();
        Board board = job.board();
        List<Shape> parts = board.parts().stream()
                .filter(p -> p.side() == spec.side())
                .map(p -> new Shape(p.ref(), corners(p)))
                .toList();
        return new Shapes(
                spec.width(),
                spec.height(),
                spec.kelvinPerCount(),
                board.outline().corners().stream().map(LayController::place).toList(),
                parts,
                spec.registration());
    }

    private static double[] place(PointMm point) {
        return new double[] {point.xMm(), point.yMm()};
    }

    private static List<double[]> corners(Part part) {
        return part.corners().stream().map(LayController::place).toList();
    }

    /**
     * Where the picture's own edges put the pairs.
     *
     * @param words what was found
     */
    record Snap(boolean usable, List<Double> px, List<Double> py, String words) {}

    @GetMapping("/jobs/{number}/captures/{name}/snap")
    @ResponseBody
    Snap snap(
            @PathVariable String number,
            @PathVariable String name,
            @RequestParam List<Double> px,
            @RequestParam List<Double> py)
            throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        CaptureSpec spec = capture.spec();
        List<RegistrationPair> pairs = CaptureController.moved(spec.registration(), px, py);
        float[] picture = FrameScan.baseline(spec, capture.frames());
        Board seen = bodies.with(job.board(), job.row().boardId(), spec.side());
        EdgeSnap.Snapped snapped = EdgeSnap.from(picture, spec.width(), spec.height(), seen, spec.side(), pairs)
                .snap(pairs);
        List<Double> xs = new ArrayList<>();
        List<Double> ys = new ArrayList<>();
        for (RegistrationPair pair : snapped.usable() ? snapped.pairs() : pairs) {
            xs.add(Math.round(pair.xPx() * 100) / 100.0);
            ys.add(Math.round(pair.yPx() * 100) / 100.0);
        }
        String words = snapped.usable()
                ? "Snapped: the pairs moved by " + Eng.fixed(snapped.movedPx(), 1)
                        + " pixels. Look whether the bodies fit, then keep them."
                : "The picture shows no edges clear enough to go by: drag the pairs by eye.";
        return new Snap(snapped.usable(), xs, ys, words);
    }
}
