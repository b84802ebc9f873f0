package ohmoscope.web.sheet;

import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.util.Optional;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.prove.Walk;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.store.AnalysisStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The job sheet and its entry line. */
@Controller
class SheetController {
    private final JobFile jobs;
    private final AnalysisRunner analyses;
    private final Bench bench;
    private final Clock clock;

    SheetController(JobFile jobs, AnalysisRunner analyses, Bench bench, Clock clock) {
        this.jobs = jobs;
        this.analyses = analyses;
        this.bench = bench;
        this.clock = clock;
    }

    @GetMapping("/jobs/{number}")
    String sheet(@PathVariable String number, Model model) throws IOException {
        JobFile.Stored job = jobs.read(number);
        Optional<StoredAnalysis> analysis = analyses.latest(job.row().id());
        Walk walk = jobs.walk(job, analysis);
        model.addAttribute("sheet", SheetView.of(job, analysis, walk, clock.getZone()));
        model.addAttribute("analysis", analyses.state(job.row().id()));
        return "sheet";
    }

    /** How far the analysis is; tells the page when there is something new to show. */
    @GetMapping("/jobs/{number}/progress")
    String progress(@PathVariable String number, Model model, jakarta.servlet.http.HttpServletResponse response)
            throws IOException {
        Optional<AnalysisStore.Row> state = analyses.state(jobs.id(number));
        model.addAttribute("analysis", state);
        model.addAttribute("number", number);
        if (state.map(s -> !s.pending()).orElse(true)) {
            response.setHeader("HX-Trigger", "analysed");
        }
        return "fragments/progress :: progress";
    }

    @PostMapping("/jobs/{number}/analysis")
    String analyse(@PathVariable String number) throws IOException {
        analyses.request(jobs.id(number));
        return "redirect:/jobs/" + number;
    }

    @PostMapping("/jobs/{number}/analysis/cancel")
    String cancel(@PathVariable String number) throws IOException {
        analyses.cancel(jobs.id(number));
        return "redirect:/jobs/" + number;
    }

    /** What a line would be kept as, or why it would not. */
    record Echo(boolean understood, String words) {}

    @GetMapping("/jobs/{number}/echo")
    @ResponseBody
    Echo echo(@PathVariable String number, @RequestParam(defaultValue = "") String line) throws IOException {
        EntryLine.Parsed parsed = new EntryLine(jobs.read(number).board()).parse(line, 1);
        return parsed instanceof EntryLine.Parsed.Entry entry
                ? new Echo(true, Words.echo(entry.observation()))
                : new Echo(false, Words.reason((EntryLine.Parsed.NotUnderstood) parsed));
    }

    @PostMapping("/jobs/{number}/entries")
    String enter(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String line,
            @RequestHeader(name = "HX-Request", defaultValue = "false") boolean fragment,
            Principal principal,
            Model model)
            throws IOException {
        Optional<EntryLine.Parsed.NotUnderstood> refused = bench.enter(number, line, Technician.name(principal));
        model.addAttribute("refused", refused.map(Words::reason));
        model.addAttribute("line", refused.isPresent() ? line : "");
        if (refused.isPresent() || fragment) {
            return sheet(number, model);
        }
        return "redirect:/jobs/" + number;
    }
}
