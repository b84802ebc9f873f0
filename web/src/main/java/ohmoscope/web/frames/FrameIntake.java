package ohmoscope.web.frames;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.UUID;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.formats.frames.StackCapture;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.CameraStore;
import ohmoscope.web.store.CaptureStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Service;

/** Makes a capture of uploaded frames and keeps it with its job. */
@Service
class FrameIntake {
    private final FrameDrafts drafts;
    private final JobFile jobs;
    private final CaptureStore captures;
    private final CameraStore cameras;
    private final EvidenceStore evidence;
    private final AnalysisRunner analyses;
    private final Transactions transactions;

    FrameIntake(
            FrameDrafts drafts,
            JobFile jobs,
            CaptureStore captures,
            CameraStore cameras,
            EvidenceStore evidence,
            AnalysisRunner analyses,
            Transactions transactions) {
        this.drafts = drafts;
        this.jobs = jobs;
        this.captures = captures;
        this.cameras = cameras;
        this.evidence = evidence;
        this.analyses = analyses;
        this.transactions = transactions;
    }

    /** What the page begins with. */
    FrameForm first(JobFile.Stored job, FrameStack stack) {
        List<Capture> before = job.bundle().captures();
        String name = "frames-" + (before.size() + 1);
        Side side = before.isEmpty()
                ? job.bundle()
                        .injection()
                        .flatMap(Injection::at)
                        .map(at -> at.side())
                        .orElse(Side.TOP)
                : before.get(before.size() - 1).spec().side();
        return FrameForm.first(stack, cameras.fitting(stack), name, side, 0);
    }

    /**
     * @return the new capture's name
     * @throws InvalidMember for a member of the form that is missing or impossible
     */
    String keep(String number, UUID draft, FrameForm form, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        FrameStack stack = drafts.stack(draft);
        StackCapture.Reading reading = form.reading();
        String name = String.valueOf(form.name());
        Side side = form.side() == null ? Side.TOP : form.side();
        List<CaptureSpec> before =
                job.bundle().captures().stream().map(Capture::spec).toList();
        if (before.stream().anyMatch(c -> c.id().equals(name))) {
            throw new InvalidMember("name", "is that of a capture this job already has: " + name);
        }
        int width = reading.turn().width(stack.width(), stack.height());
        int height = reading.turn().height(stack.width(), stack.height());
        Optional<CaptureSpec> like = before.stream()
                .filter(c -> c.side() == side && c.width() == width && c.height() == height)
                .reduce((a, b) -> b);
        Capture capture = StackCapture.of(
                stack, reading, name, side, CornerPairs.guess(job.board().outline(), side, width, height, like));
        Optional<SupplyLog> log =
                job.bundle().supplyLog().isPresent() ? Optional.empty() : Optional.of(logOf(form, capture.spec()));
        long jobId = job.row().id();
        transactions.run(() -> {
            if (log.isPresent()) {
                evidence.addInjection(jobId, job.bundle().injection().or(() -> Optional.of(injection(job))), log);
            }
            captures.add(jobId, before.size(), capture, by, done -> {});
            return jobId;
        });
        String camera = form.camera() == null ? "" : form.camera().strip();
        if (!camera.isEmpty() && !form.shapeOnly()) {
            cameras.keep(camera, stack, reading, by);
        }
        analyses.request(jobId);
        jobs.refreshState(jobId);
        drafts.drop(draft);
        return name;
    }

    /** Before, while and after the output was on, from what was noted by hand. */
    private static SupplyLog logOf(FrameForm form, CaptureSpec spec) {
        double start = spec.timesS().get(0);
        double on = start + FrameForm.wanted("when the output came on", form.on());
        double end = spec.timesS().get(spec.frameCount() - 1);
        double off = form.off() == null ? end + 1 : start + form.off();
        if (!(on < off)) {
            throw new InvalidMember("when the output went off", "must be after it came on");
        }
        double volts = FrameForm.wanted("volts at the supply", form.volts());
        double amps = FrameForm.wanted("amperes", form.amps());
        List<SupplyLog.Row> rows = new ArrayList<>();
        rows.add(new SupplyLog.Row(Math.min(start, on - 0.02), 0, 0, false));
        rows.add(new SupplyLog.Row(on - 0.01, 0, 0, false));
        rows.add(new SupplyLog.Row(on + 0.01, volts, amps, true));
        rows.add(new SupplyLog.Row(off - 0.01, volts, amps, true));
        rows.add(new SupplyLog.Row(off + 0.01, 0, 0, false));
        return new SupplyLog(rows);
    }

    /** As the newest entry about an injection says. */
    private static Injection injection(JobFile.Stored job) {
        return injected(job)
                .map(i -> new Injection(
                        i.net(),
                        Optional.empty(),
                        Optional.empty(),
                        i.setVolts(),
                        i.limitAmps(),
                        i.leadOhms(),
                        OptionalDouble.empty()))
                .orElseGet(() -> Injection.into(job.bundle().rail(), OptionalDouble.empty()));
    }

    static Optional<Observation.Inject> injected(JobFile.Stored job) {
        return job.bundle().observations().stream()
                .filter(o -> o instanceof Observation.Inject)
                .map(o -> (Observation.Inject) o)
                .reduce((a, b) -> b);
    }

    /** What was recognised, in words. */
    static String recognised(FrameStack stack) {
        String depth = switch (stack.depth()) {
            case EIGHT_BIT -> "a picture for the eye, 8 bits: its shape can be used, watts and kelvin cannot";
            case SIXTEEN_BIT -> "16-bit counts";
            case FLOAT -> "numbers with a fraction, most often degrees";
        };
        String times = stack.timesS().isPresent() ? ", with their times" : "";
        String still = stack.stillPictures()
                ? " Before and after only: the poorest case. The place can be told, the side of the board hardly."
                : "";
        return String.format(
                Locale.ROOT,
                "%s, %d frames of %d×%d, %s%s.%s",
                stack.format(),
                stack.count(),
                stack.width(),
                stack.height(),
                depth,
                times,
                still);
    }
}
