package ohmoscope.web.proof;

import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.prove.Proof;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.store.DecisionStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tools.jackson.databind.json.JsonMapper;

/** Closing the loop: lift, read again, hand back. */
@Controller
class ProofController {
    private final JobFile jobs;
    private final Bench bench;
    private final AnalysisRunner analyses;
    private final DecisionStore decisions;
    private final JsonMapper mapper;
    private final Clock clock;

    ProofController(
            JobFile jobs,
            Bench bench,
            AnalysisRunner analyses,
            DecisionStore decisions,
            JsonMapper mapper,
            Clock clock) {
        this.jobs = jobs;
        this.bench = bench;
        this.analyses = analyses;
        this.decisions = decisions;
        this.mapper = mapper;
        this.clock = clock;
    }

    @PostMapping("/jobs/{number}/lift")
    String lift(@PathVariable String number, @RequestParam String ref, Principal principal) throws IOException {
        bench.lift(number, ref, Technician.name(principal));
        return "redirect:/jobs/" + number;
    }

    @PostMapping("/jobs/{number}/again")
    String again(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String value,
            @RequestParam(defaultValue = "false") boolean open,
            Principal principal)
            throws IOException {
        bench.readAgain(
                number, open ? OptionalDouble.empty() : OptionalDouble.of(number(value)), Technician.name(principal));
        return "redirect:/jobs/" + number;
    }

    private static double number(String value) {
        try {
            return Double.parseDouble(value.trim().replace(',', '.'));
        } catch (NumberFormatException noNumber) {
            throw new InvalidMember("value", "must be a number such as 0.43, was \"" + value + "\"");
        }
    }

    @GetMapping("/jobs/{number}/hand-back")
    String handBack(@PathVariable String number, Model model) throws IOException {
        JobFile.Stored job = jobs.read(number);
        Optional<Change> change = Proof.of(
                        job.board(), job.row().rail(), job.bundle().observations())
                .change();
        Optional<StoredAnalysis> then = change.flatMap(
                        c -> decisions.of(job.row().id(), c.seq()))
                .map(DecisionStore.Row::known)
                .filter(known -> !known.isEmpty())
                .map(known -> mapper.readValue(known, StoredAnalysis.class));
        model.addAttribute(
                "page", HandBackView.of(job, analyses.latest(job.row().id()), then, clock.getZone()));
        return "hand-back";
    }
}
