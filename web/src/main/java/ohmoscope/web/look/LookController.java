package ohmoscope.web.look;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.LookFinding;
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

/** The look tour: a key, and the next part. */
@Controller
class LookController {
    /** Characters; it travels in the address. */
    private static final int MOST_SKIPPED = 4_000;

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
        model.addAttribute("page", LookView.of(open, judge.tree(open.job()), words(skipped)));
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
        List<String> late = new ArrayList<>(words(skipped));
        if (finding.isEmpty()) {
            late.remove(ref);
            late.add(ref);
        } else {
            String line = "look " + ref + " "
                    + finding.get().name().toLowerCase(Locale.ROOT).replace('_', ' ');
            Optional<Bench.Refused> refused = bench.enter(number, line, Technician.name(principal));
            if (refused.isPresent()) {
                throw new InvalidMember("ref", Words.reason(refused.get()));
            }
        }
        String again = String.join(" ", late);
        if (again.length() > MOST_SKIPPED) {
            throw new InvalidMember("skipped", "is longer than a walk round any board");
        }
        return fragment
                ? look(number, again, principal, model)
                : "redirect:"
                        + UriComponentsBuilder.fromPath("/jobs/{number}/look")
                                .queryParam("skipped", "{skipped}")
                                .encode()
                                .buildAndExpand(number, again)
                                .toUriString();
    }

    private static List<String> words(String text) {
        return Arrays.stream(text.split(" ")).filter(w -> !w.isEmpty()).toList();
    }
}
