package ohmoscope.web.proof;

import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.GoodReadings;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.prove.Proof;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.store.DecisionStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.IntakeStore;
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
    private final OpenJobs openJobs;
    private final Bench bench;
    private final DecisionStore decisions;
    private final Judge judge;
    private final IntakeStore intakes;
    private final EvidenceStore evidence;
    private final JsonMapper mapper;
    private final Clock clock;

    ProofController(
            OpenJobs openJobs,
            Bench bench,
            DecisionStore decisions,
            Judge judge,
            IntakeStore intakes,
            EvidenceStore evidence,
            JsonMapper mapper,
            Clock clock) {
        this.openJobs = openJobs;
        this.bench = bench;
        this.decisions = decisions;
        this.judge = judge;
        this.intakes = intakes;
        this.evidence = evidence;
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
    String handBack(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        JobFile.Stored job = open.job();
        Optional<Change> change = open.proof().repair();
        Optional<StoredAnalysis> then = change.flatMap(
                        c -> decisions.of(job.row().id(), c.seq()))
                .map(DecisionStore.Row::known)
                .filter(known -> !known.isEmpty())
                .map(known -> mapper.readValue(known, StoredAnalysis.class));
        List<Observation> before = job.bundle().observations().stream()
                .takeWhile(o -> change.map(c -> o.seq() < c.seq()).orElse(true))
                .toList();
        model.addAttribute(
                "page", HandBackView.of(open, then, judge.advise(job, before, open.schools()), clock.getZone()));
        model.addAttribute("stops", AdviceView.stops(open));
        model.addAttribute(
                "toFit",
                intakes.items(job.row().id()).stream()
                        .filter(i -> i.came() && i.checked().isEmpty())
                        .map(IntakeStore.Item::name)
                        .toList());
        model.addAttribute(
                "teaches", evidence.learnt(job.row().id()) ? 0 : good(open).size());
        return "hand-back";
    }

    /** What the board reads now that it is proven; nothing before. */
    private static List<GoodReadings.Good> good(OpenJobs.Open open) {
        return open.proof().state() == Proof.State.CLEARED
                ? open.proof().change().stream()
                        .flatMap(c ->
                                GoodReadings.after(
                                        open.job().board(), open.job().bundle().observations(), c.seq())
                                        .stream())
                        .toList()
                : List.of();
    }

    /** Keeps a proven board's readings for the next of its kind; only when somebody says so. */
    @PostMapping("/jobs/{number}/hand-back/good")
    String learn(@PathVariable String number, Principal principal) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        List<GoodReadings.Good> readings = good(open);
        if (readings.isEmpty()) {
            throw new InvalidMember("readings", "cannot be kept as good ones: nothing proves this repair yet");
        }
        evidence.learn(open.job().row().boardId(), open.job().row().id(), readings, Technician.name(principal));
        return "redirect:/jobs/" + number + "/hand-back";
    }
}
