package ohmoscope.web.live;

import java.io.IOException;
import java.security.Principal;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Side;
import ohmoscope.web.config.Settings;
import ohmoscope.web.config.Technician;
import ohmoscope.web.job.OpenJobs;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;

/** The live page: the ladder under a held key, the picture while it comes. */
@Controller
class LiveController {
    private final OpenJobs openJobs;
    private final LivePlans plans;
    private final LiveBenches benches;
    private final Settings settings;

    LiveController(OpenJobs openJobs, LivePlans plans, LiveBenches benches, Settings settings) {
        this.settings = settings;
        this.openJobs = openJobs;
        this.plans = plans;
        this.benches = benches;
    }

    @GetMapping("/jobs/{number}/live")
    String live(@PathVariable String number, @RequestParam Optional<Long> bench, Principal principal, Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        LivePlans.Plan plan =
                plans.of(number, Technician.name(principal), Side.TOP, OptionalDouble.empty(), Optional.empty());
        model.addAttribute("page", LiveView.of(open, plan, benches, bench, settings.phone()));
        return "live";
    }
}
