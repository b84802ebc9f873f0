package ohmoscope.web.survey;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.sheet.OpenJobs;
import ohmoscope.web.sheet.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;

/** The survey sheet: a number and Enter, again and again. */
@Controller
class SurveyController {
    /** Characters; it travels in the address. */
    private static final int MOST_SKIPPED = 4_000;

    private final OpenJobs openJobs;
    private final Judge judge;
    private final Bench bench;

    SurveyController(OpenJobs openJobs, Judge judge, Bench bench) {
        this.judge = judge;
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
        model.addAttribute("page", SurveyView.of(open, judge.tree(open.job()), words(skipped)));
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
        List<String> late = new ArrayList<>(words(skipped));
        if (value.isBlank()) {
            late.remove(net);
            late.add(net);
        } else {
            Optional<Bench.Refused> refused =
                    bench.enter(number, start + " " + value.strip(), Technician.name(principal));
            model.addAttribute("refused", refused.map(Words::reason));
            model.addAttribute("typed", refused.isPresent() ? value : "");
        }
        String again = String.join(" ", late);
        if (again.length() > MOST_SKIPPED) {
            throw new InvalidMember("skipped", "is longer than a walk round any board");
        }
        return fragment || model.getAttribute("refused") instanceof Optional<?> r && r.isPresent()
                ? survey(number, again, principal, model)
                : "redirect:"
                        + UriComponentsBuilder.fromPath("/jobs/{number}/survey")
                                .queryParam("skipped", "{skipped}")
                                .encode()
                                .buildAndExpand(number, again)
                                .toUriString();
    }

    private static List<String> words(String text) {
        return Arrays.stream(text.split(" ")).filter(w -> !w.isEmpty()).toList();
    }
}
