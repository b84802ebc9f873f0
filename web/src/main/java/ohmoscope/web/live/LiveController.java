package ohmoscope.web.live;

import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import ohmoscope.core.board.Side;
import ohmoscope.web.config.Technician;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.BenchStore;
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

    LiveController(OpenJobs openJobs, LivePlans plans, LiveBenches benches) {
        this.openJobs = openJobs;
        this.plans = plans;
        this.benches = benches;
    }

    /** @param bench the one that is opened; empty where there is none, or several and none was chosen */
    record Page(
            JobHead head,
            List<AdviceView.StopLine> stops,
            String ceiling,
            List<BenchStore.Named> benches,
            OptionalLong bench,
            String inUse,
            List<String> hot,
            String back,
            List<String> words) {}

    @GetMapping("/jobs/{number}/live")
    String live(@PathVariable String number, @RequestParam Optional<Long> bench, Principal principal, Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        LivePlans.Plan plan =
                plans.of(number, Technician.name(principal), Side.TOP, OptionalDouble.empty(), Optional.empty());
        List<BenchStore.Named> all = benches.all();
        OptionalLong chosen = all.stream()
                .filter(b -> bench.map(id -> id == b.id()).orElse(all.size() == 1))
                .mapToLong(BenchStore.Named::id)
                .findFirst();
        model.addAttribute(
                "page",
                new Page(
                        open.head(),
                        AdviceView.stops(open),
                        ohmoscope.web.kit.Eng.significant(plan.planned().plan().ceilingVolts(), 2) + " V",
                        all,
                        chosen,
                        chosen.isPresent() ? benches.user(chosen.getAsLong()).orElse("") : "",
                        plan.places().hot().stream()
                                .map(p -> p.ref() + (p.pin().isEmpty() ? "" : ", pad " + p.pin()) + ", "
                                        + Words.plain(p.side()))
                                .toList(),
                        plan.places().back().stream()
                                .findFirst()
                                .map(p -> p.ref() + (p.pin().isEmpty() ? "" : ", pad " + p.pin()) + ", "
                                        + Words.plain(p.side()))
                                .orElse("a fat pad of ground"),
                        AdviceView.words(open.job().board())));
        return "live";
    }
}
