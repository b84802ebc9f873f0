package ohmoscope.web.name;

import java.io.IOException;
import java.security.Principal;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.judge.Judge;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** The suspects side by side: what speaks for and against each, and what being wrong would cost. */
@Controller
class NameController {
    private final OpenJobs openJobs;
    private final Judge judge;

    NameController(OpenJobs openJobs, Judge judge) {
        this.openJobs = openJobs;
        this.judge = judge;
    }

    @GetMapping("/jobs/{number}/name")
    String name(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute("page", NameView.of(open, refs -> judge.weigh(open.job(), refs)));
        return "name";
    }
}
