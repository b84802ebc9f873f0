package ohmoscope.web.survey;

import java.io.IOException;
import java.security.Principal;
import java.util.Optional;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Round;
import ohmoscope.web.kit.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The survey sheet: a number and Enter, again and again. */
@Controller
class SurveyController {
    private final OpenJobs openJobs;
    private final Bench bench;

    SurveyController(OpenJobs openJobs, Bench bench) {
        this.openJobs = openJobs;
        this.bench = bench;
    }

    @GetMapping("/jobs/{number}/survey")
    String survey(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String skipped,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute(
                "page", SurveyView.of(open, open.tree(), Round.of(skipped).skipped()));
        return "survey";
    }

    /**
     * Keeps the reading of the point that is asked for, or passes it over when the value is empty.
     *
     * @param start the entry line up to the number
     * @param value a number with or without unit, or OL
     */
    @PostMapping("/jobs/{number}/survey")
    String keep(
            @PathVariable String number,
            @RequestParam String start,
            @RequestParam String net,
            @RequestParam(defaultValue = "") String value,
            @RequestParam(defaultValue = "") String skipped,
            @RequestHeader(name = "HX-Request", defaultValue = "false") boolean fragment,
            Principal principal,
            Model model)
            throws IOException {
        Round round = Round.of(skipped);
        if (value.isBlank()) {
            round = round.passedOver(net);
        } else {
            Optional<Bench.Refused> refused =
                    bench.enter(number, start + " " + value.strip(), Technician.name(principal));
            model.addAttribute("refused", refused.map(Words::reason));
            model.addAttribute("typed", refused.isPresent() ? value : "");
        }
        return fragment || model.getAttribute("refused") instanceof Optional<?> r && r.isPresent()
                ? survey(number, round.text(), principal, model)
                : round.redirect(number, "survey");
    }
}
