package ohmoscope.web.isolate;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.prove.Isolation;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** What was taken off or unplugged, side by side with what that changed. */
@Controller
class IsolateController {
    private final OpenJobs openJobs;

    IsolateController(OpenJobs openJobs) {
        this.openJobs = openJobs;
    }

    /** @param back parts and plugs that are off and belong back */
    record Page(
            JobHead head,
            List<Line> lines,
            List<String> back,
            List<AdviceView.Other> next,
            List<AdviceView.StopLine> stops,
            List<String> words) {}

    /** One change. */
    record Line(int seq, String what, String heat, List<Compared> compared) {}

    /** @param verdict free again, still there, changed, or not read again */
    record Compared(String where, String before, String after, String verdict, String mark) {}

    @GetMapping("/jobs/{number}/isolate")
    String isolate(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        List<Line> lines = Isolation.of(open.job().board(), open.job().bundle().observations()).steps().stream()
                .map(s -> new Line(
                        s.change().seq(),
                        s.change().target() + " " + Words.plain(s.change().action()),
                        s.change().heat() ? "with heat" : "without heat",
                        s.pairs().stream().map(p -> compared(open, p)).toList()))
                .toList();
        Set<String> back = new LinkedHashSet<>();
        back.addAll(open.advice().now().unplugged().stream().sorted().toList());
        back.addAll(open.advice().now().absent().stream().sorted().toList());
        if (!open.advice().now().battery()) {
            back.add("battery");
        }
        List<AdviceView.Other> next = new ArrayList<>();
        for (Step step : open.advice().next()) {
            switch (step.action()) {
                case DISCONNECT, SEPARATE, REMOVE, FIT, LEAVE_OFF ->
                    next.add(new AdviceView.Other(
                            AdviceWords.sentence(step), AdviceWords.why(step, open.advice()), AdviceView.fill(step)));
                default -> {}
            }
        }
        model.addAttribute(
                "page",
                new Page(
                        open.head(),
                        lines,
                        List.copyOf(back),
                        next,
                        AdviceView.stops(open),
                        AdviceView.words(open.job().board())));
        return "isolate";
    }

    private static Compared compared(OpenJobs.Open open, Isolation.Pair pair) {
        String where =
                Words.place(pair.before()) + ", " + Words.plain(pair.before().mode());
        String before = Words.value(pair.before());
        if (pair.after().isEmpty()) {
            return new Compared(where, before, "", "not read again: same point, same mode", "look");
        }
        boolean wasBad = bad(open, pair.before());
        boolean isBad = bad(open, pair.after().get());
        String verdict = wasBad && !isBad ? "free again" : wasBad ? "still there" : isBad ? "worse" : "as before";
        return new Compared(where, before, Words.value(pair.after().get()), verdict, isBad ? "bad" : "ok");
    }

    private static boolean bad(OpenJobs.Open open, Read read) {
        return open.advice()
                .sign(read.seq())
                .map(s -> s.says().concern() == Says.Concern.WRONG)
                .orElseGet(() -> read.across()
                        .flatMap(open.job().board()::part)
                        .flatMap(part -> new Interpreter(open.job().board()).across(part, read))
                        .isPresent());
    }
}
