package ohmoscope.web.sheet;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.util.Optional;
import java.util.OptionalLong;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.EntryChanged;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.SeenBefore;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.AnalysisStore;
import org.jspecify.annotations.Nullable;
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
    private final OpenJobs openJobs;
    private final JobFile jobs;
    private final AnalysisRunner analyses;
    private final Bench bench;
    private final SeenBefore seenBefore;
    private final Clock clock;

    SheetController(
            OpenJobs openJobs, JobFile jobs, AnalysisRunner analyses, Bench bench, SeenBefore seenBefore, Clock clock) {
        this.seenBefore = seenBefore;
        this.openJobs = openJobs;
        this.jobs = jobs;
        this.analyses = analyses;
        this.bench = bench;
        this.clock = clock;
    }

    @GetMapping("/jobs/{number}")
    String sheet(
            @PathVariable String number,
            @RequestParam(defaultValue = "2147483647") int before,
            Principal principal,
            Model model)
            throws IOException {
        // First: an analysis that ends while the page is made must find the page still waiting for it.
        Optional<AnalysisStore.Row> state = analyses.state(jobs.id(number));
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute("sheet", SheetView.of(open, clock.getZone(), before));
        model.addAttribute("analysis", state);
        model.addAttribute("seen", seenBefore.of(open));
        model.addAttribute("counts", seenBefore.counts(open));
        return "sheet";
    }

    /** How far the analysis is; tells the page when there is something new to show. */
    @GetMapping("/jobs/{number}/progress")
    String progress(@PathVariable String number, Model model, HttpServletResponse response) throws IOException {
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
    Echo echo(@PathVariable String number, @RequestParam(defaultValue = "") String line, Principal principal)
            throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        EntryLine.Parsed parsed =
                new EntryLine(job.board(), bench.habit(job, Technician.name(principal))).parse(line, 1);
        return new Echo(!(parsed instanceof EntryLine.Parsed.NotUnderstood), Words.echo(parsed));
    }

    /**
     * Keeps a line, or a pasted block of lines.
     *
     * @param seen the version of the entry that is corrected, as the page showed it
     * @param back the page of the job that it was typed on; empty for the sheet
     */
    @PostMapping("/jobs/{number}/entries")
    String enter(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String line,
            @RequestParam(defaultValue = "") String back,
            @RequestParam(required = false) @Nullable Long seen,
            @RequestHeader(name = "HX-Request", defaultValue = "false") boolean fragment,
            Principal principal,
            Model model,
            HttpServletResponse response)
            throws IOException {
        Optional<String> refused;
        try {
            refused = bench.enter(
                            number,
                            line,
                            seen == null ? OptionalLong.empty() : OptionalLong.of(seen),
                            Technician.name(principal))
                    .map(Words::reason);
        } catch (EntryChanged changed) {
            response.setStatus(HttpServletResponse.SC_CONFLICT);
            refused = Optional.of(Words.changed(changed));
        }
        if (refused.isEmpty()) {
            String page = back.matches("[a-z]+") ? "/" + back : "";
            return "redirect:/jobs/" + number + page;
        }
        model.addAttribute("refused", refused);
        model.addAttribute("line", line);
        if (fragment) {
            response.setHeader("X-Kept", "false");
            response.setHeader("HX-Retarget", "#echo");
            response.setHeader("HX-Reselect", "#echo");
            return "fragments/bits :: echo";
        }
        return sheet(number, Integer.MAX_VALUE, principal, model);
    }
}
