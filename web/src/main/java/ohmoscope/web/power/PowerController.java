package ohmoscope.web.power;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.DrawReading;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.evidence.TraceReading;
import ohmoscope.core.prove.BareStart;
import ohmoscope.formats.TraceCsv;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.DrawWords;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.multipart.MultipartFile;

/** First power: what the device draws from outside, with traces drawn and read. */
@Controller
class PowerController {
    private static final long MOST_BYTES = 40_000_000;
    private static final int MOST_POINTS = 3000;

    private final OpenJobs openJobs;
    private final JobFile jobs;
    private final Bench bench;

    PowerController(OpenJobs openJobs, JobFile jobs, Bench bench) {
        this.openJobs = openJobs;
        this.jobs = jobs;
        this.bench = bench;
    }

    /**
     * The page.
     *
     * @param ports connectors that the device may be powered through
     * @param bare what it needs to start, a line for each connector
     * @param loose traces that no entry names
     */
    record Page(
            JobHead head,
            List<AdviceView.StopLine> stops,
            List<Draw> draws,
            List<String> loose,
            List<String> ports,
            List<BareWords.Line> bare,
            List<String> words) {}

    /** One time that it was powered. @param trace the trace's name under the job; empty when there is none */
    record Draw(int seq, String headline, String how, List<String> findings, String trace, Optional<Shape> shape) {}

    /** What a trace shows. */
    record Shape(String words, String meaning, List<TraceWords.Compared> expected) {}

    @GetMapping("/jobs/{number}/power")
    String power(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Map<String, String> traces = jobs.traces(open.job().row().id());
        List<Draw> draws = new ArrayList<>();
        List<String> named = new ArrayList<>();
        for (Observation observation : open.job().bundle().observations()) {
            if (observation instanceof Power p) {
                String name = p.trace().map(PowerController::fileName).orElse("");
                named.add(name);
                draws.add(new Draw(
                        p.seq(),
                        Words.headline(p),
                        Words.meaning(p),
                        said(open.advice(), p),
                        name,
                        Optional.ofNullable(traces.get(name)).map(csv -> shape(open.job(), p, name, csv))));
            }
        }
        model.addAttribute(
                "page",
                new Page(
                        open.head(),
                        AdviceView.stops(open),
                        draws,
                        traces.keySet().stream()
                                .filter(t -> !named.contains(t))
                                .sorted()
                                .toList(),
                        open.tree().inputs().stream().map(Part::ref).toList(),
                        BareStart.of(open.job().board(), open.advice().now()).items().stream()
                                .map(BareWords::line)
                                .toList(),
                        AdviceView.words(open.job().board())));
        return "power";
    }

    private static List<String> said(Advice advice, Power power) {
        Optional<DrawReading> draw = Optional.ofNullable(advice.draws().get(power.seq()));
        Stream<String> findings = DrawWords.found(advice.because(power.seq()), draw);
        Stream<String> leak = draw.map(DrawWords::leak).stream();
        return Stream.concat(findings, leak)
                .filter(s -> !s.isEmpty())
                .distinct()
                .toList();
    }

    private static String fileName(String trace) {
        return trace.replaceFirst("^traces/", "");
    }

    private static Shape shape(JobFile.Stored job, Power power, String name, String csv) {
        try {
            TraceReading reading = TraceReading.of(TraceCsv.read(csv, name));
            return new Shape(
                    TraceWords.shape(reading),
                    TraceWords.meaning(reading.shape()),
                    TraceWords.expected(
                            power.port().flatMap(job.board()::part).flatMap(Part::expects), reading, power.state()));
        } catch (IOException unreadable) {
            return new Shape(unreadable.getMessage() + ".", "", List.of());
        }
    }

    /** A trace's samples, thinned for drawing. */
    record Samples(double[] t, Optional<double[]> volts, Optional<double[]> amps) {}

    @GetMapping("/jobs/{number}/traces/{name}")
    @ResponseBody
    Samples samples(@PathVariable String number, @PathVariable String name) throws IOException {
        String csv = jobs.trace(jobs.id(number), name)
                .orElseThrow(() -> new NotFoundException("Job " + number + " has no trace " + name + "."));
        Trace trace = TraceCsv.read(csv, name);
        int every = Math.max(1, trace.timesS().length / MOST_POINTS);
        return new Samples(
                thinned(trace.timesS(), every),
                trace.volts().map(v -> thinned(v, every)),
                trace.amps().map(a -> thinned(a, every)));
    }

    private static double[] thinned(double[] values, int every) {
        double[] kept = new double[(values.length + every - 1) / every];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = values[i * every];
        }
        return kept;
    }

    @PostMapping("/jobs/{number}/power")
    String take(
            @PathVariable String number,
            @RequestParam MultipartFile file,
            @RequestParam(defaultValue = "charger") String from,
            @RequestParam(defaultValue = "") String port,
            @RequestParam(defaultValue = "") String side,
            @RequestParam(defaultValue = "out") String battery,
            @RequestParam(defaultValue = "off") String state,
            Principal principal,
            Model model)
            throws IOException {
        if (file.isEmpty() || file.getSize() > MOST_BYTES) {
            throw new InvalidMember("file", file.isEmpty() ? "is empty" : "is larger than 40 MB");
        }
        String name = file.getOriginalFilename() == null ? "trace.csv" : file.getOriginalFilename();
        try {
            Trace trace = TraceCsv.read(new String(file.getBytes(), StandardCharsets.UTF_8), name);
            TraceReading reading = TraceReading.of(trace);
            bench.trace(
                    number,
                    name,
                    TraceCsv.write(trace),
                    (seq, stored) -> new Drawn(
                                    constant(PowerSource.class, "from", from),
                                    port.isBlank() ? Optional.empty() : Optional.of(port),
                                    side.isBlank() ? Optional.empty() : Optional.of(side),
                                    constant(BatteryState.class, "battery", battery),
                                    constant(DeviceState.class, "state", state))
                            .entry(seq, stored, reading),
                    Technician.name(principal));
        } catch (IOException unreadable) {
            model.addAttribute("problem", unreadable.getMessage() + ".");
            return power(number, principal, model);
        }
        return "redirect:/jobs/" + number + "/power";
    }

    private static <E extends Enum<E>> E constant(Class<E> type, String member, String word) {
        try {
            return Enum.valueOf(type, word.toUpperCase(Locale.ROOT));
        } catch (IllegalArgumentException unknown) {
            throw new InvalidMember(member, "is not " + word);
        }
    }
}
