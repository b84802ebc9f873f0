package ohmoscope.web.capture;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.Onset;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.LastUsed;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.store.CaptureStore;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** Pictures over the board that are computed, not measured: what the engine believes, and how fast each place warmed. */
@Controller
class FieldController {
    private static final int KEPT = 16;

    private final JobFile jobs;
    private final CaptureStore captures;
    private final AnalysisRunner analyses;
    /** Onsets cost two passes over the frames; they change with the registration only. */
    private final Map<Key, Field> onsets = LastUsed.map(KEPT);

    private record Key(long capture, List<RegistrationPair> registration, List<OnSpan> on) {}

    FieldController(JobFile jobs, CaptureStore captures, AnalysisRunner analyses) {
        this.jobs = jobs;
        this.captures = captures;
        this.analyses = analyses;
    }

    /** A grid over the board, board millimetres; null where nothing is known. */
    record Field(double x0, double y0, double step, int columns, int rows, Float[] values) {
        static Field of(BoardField field) {
            Float[] values = new Float[field.values().length];
            for (int i = 0; i < values.length; i++) {
                float v = field.values()[i];
                values[i] = Float.isNaN(v) ? null : Math.round(v * 1e4f) / 1e4f;
            }
            return new Field(field.x0Mm(), field.y0Mm(), field.stepMm(), field.columns(), field.rows(), values);
        }
    }

    /** Kelvin at a frame's time, if this suspect is the fault. */
    @GetMapping("/jobs/{number}/captures/{name}/fields/predicted")
    @ResponseBody
    Field predicted(
            @PathVariable String number,
            @PathVariable String name,
            @RequestParam String suspect,
            @RequestParam int frame)
            throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureSpec spec = captures.named(job.row().id(), name).spec();
        if (frame < 0 || frame >= spec.frameCount()) {
            throw new InvalidMember("frame", "must be from 0 to " + (spec.frameCount() - 1) + ", was " + frame);
        }
        StoredAnalysis analysis = analyses.latest(job.row().id())
                .filter(a -> a.drawn().contains(suspect))
                .orElseThrow(() -> new NotFoundException(suspect
                        + " is not among the leading suspects, or the frames were looked into before pictures of"
                        + " them were kept: look into the frames again."));
        return Field.of(analysis.predicted(
                job.board(), job.supplyLog(), suspect, spec, spec.timesS().get(frame)));
    }

    /** Seconds from power to half of the last warmth. */
    @GetMapping("/jobs/{number}/captures/{name}/fields/onset")
    @ResponseBody
    Field onset(@PathVariable String number, @PathVariable String name) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        CaptureStore.Stored capture = captures.named(job.row().id(), name);
        CaptureSpec spec = capture.spec();
        List<OnSpan> on = job.supplyLog().onSpans();
        Key key = new Key(capture.id(), spec.registration(), on);
        Field known = onsets.get(key);
        if (known != null) {
            return known;
        }
        Optional<OnSpan> first =
                job
                        .supplyLog()
                        .onSpansDuring(spec.timesS().get(0), spec.timesS().get(spec.frameCount() - 1))
                        .stream()
                        .findFirst();
        OnSpan span = first.orElseThrow(() ->
                new NotFoundException("Nothing was switched on while this capture looked, so nothing began to warm."));
        Field field = Field.of(Onset.of(
                spec,
                capture.frames(),
                FrameScan.of(spec, capture.frames()),
                Registration.fit(spec.registration()).homography(),
                job.board().outline(),
                span));
        onsets.put(key, field);
        return field;
    }
}
