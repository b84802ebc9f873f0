package ohmoscope.web.rails;

import java.io.IOException;
import java.security.Principal;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.sheet.AdviceView;
import ohmoscope.web.sheet.OpenJobs;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;

/** The power tree. */
@Controller
class RailsController {
    private final OpenJobs openJobs;
    private final Judge judge;

    RailsController(OpenJobs openJobs, Judge judge) {
        this.openJobs = openJobs;
        this.judge = judge;
    }

    /** @param of a net or part to trace up and down; the job's rail when empty */
    @GetMapping("/jobs/{number}/rails")
    String rails(
            @PathVariable String number, @RequestParam(defaultValue = "") String of, Principal principal, Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        String wanted = of.isBlank() ? open.job().row().rail() : of.strip();
        model.addAttribute("page", RailsView.of(open, judge.tree(open.job()), wanted));
        model.addAttribute("words", AdviceView.words(open.job().board()));
        model.addAttribute("wanted", wanted);
        return "rails";
    }
}
