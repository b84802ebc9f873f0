package ohmoscope.web.look;

import java.io.IOException;
import java.security.Principal;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.kit.Round;
import ohmoscope.web.kit.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The look tour: a key, and the next part. */
@Controller
class LookController {
    private final OpenJobs openJobs;
    private final Judge judge;
    private final Bench bench;

    LookController(OpenJobs openJobs, Judge judge, Bench bench) {
        this.openJobs = openJobs;
        this.judge = judge;
        this.bench = bench;
    }

    @GetMapping("/jobs/{number}/look")
    String look(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String skipped,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute(
                "page",
                LookView.of(open, judge.tree(open.job()), Round.of(skipped).skipped()));
        return "look";
    }

    /** Keeps what was seen on the part that is asked for, or passes it over when nothing is said. */
    @PostMapping("/jobs/{number}/look")
    String keep(
            @PathVariable String number,
            @RequestParam String ref,
            @RequestParam Optional<LookFinding> finding,
            @RequestParam(defaultValue = "") String skipped,
            @RequestHeader(name = "HX-Request", defaultValue = "false") boolean fragment,
            Principal principal,
            Model model)
            throws IOException {
        Round round = Round.of(skipped);
        if (finding.isEmpty()) {
            round = round.passedOver(ref);
        } else {
            String line = "look " + ref + " "
                    + finding.get().name().toLowerCase(Locale.ROOT).replace('_', ' ');
            Optional<Bench.Refused> refused = bench.enter(number, line, Technician.name(principal));
            if (refused.isPresent()) {
                throw new InvalidMember("ref", Words.reason(refused.get()));
            }
        }
        return fragment ? look(number, round.text(), principal, model) : round.redirect(number, "look");
    }
}
