package ohmoscope.web.isolate;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.prove.Isolation;
import ohmoscope.core.prove.Parting;
import ohmoscope.core.prove.Posterior;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.NamedPart;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** What was taken off or unplugged, side by side with what that changed. */
@Controller
class IsolateController {
    private static final int MOST_CUTS = 6;

    private final OpenJobs openJobs;

    IsolateController(OpenJobs openJobs) {
        this.openJobs = openJobs;
    }

    /** @param back parts and plugs that are off and belong back */
    record Page(
            JobHead head,
            List<Line> lines,
            PartingTable parting,
            List<Back> back,
            List<AdviceView.Other> next,
            List<AdviceView.StopLine> stops,
            String look,
            List<String> words) {
        /** Whether a soldered part is off. */
        public boolean partOff() {
            return back.stream().anyMatch(Back::part);
        }
    }

    /**
     * How the rail is parted.
     *
     * @param net where the meter stays; empty where nothing is shorted
     * @param readFirst a transistor that came off since the last reading; empty when none
     */
    record PartingTable(String net, String readFirst, List<CutLine> cuts) {}

    /** One way of parting it. @param fill what the entry line begins with once it is done */
    record CutLine(String words, String free, String still, String minutes, String fill) {}

    /** What is off. @param part whether it is soldered, so that its joints are asked afterwards */
    record Back(String name, boolean part) {}

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
                        parting(open),
                        back(open),
                        next,
                        AdviceView.stops(open),
                        Eng.fixed(open.minutes().look(), 0),
                        AdviceView.words(open.job().board())));
        return "isolate";
    }

    private static List<Back> back(OpenJobs.Open open) {
        BoardState now = open.advice().now();
        List<Back> back = new ArrayList<>();
        now.unplugged().stream().sorted().forEach(u -> back.add(new Back(u, false)));
        now.absent().stream()
                .sorted()
                .forEach(a -> back.add(new Back(a, open.job().board().part(a).isPresent())));
        if (!now.battery()) {
            back.add(new Back("battery", false));
        }
        return back;
    }

    /** Of the net that reads shorted, by who may short it; nothing where none does. */
    private static PartingTable parting(OpenJobs.Open open) {
        Optional<String> net = open.advice().findings().stream()
                .filter(f -> f.code() == Finding.Code.RAIL_SHORTED)
                .flatMap(f -> f.place().stream())
                .reduce((a, b) -> a.equals(open.job().bundle().rail()) ? a : b);
        Map<String, Double> suspects = NamedPart.suspected(open, Posterior::warms);
        // Nothing is parted, and nothing measured, before a port whose pins touch is off.
        boolean portFirst = open.advice().next().stream().anyMatch(s -> s.reason() == Step.Reason.PINS_TOUCH);
        if (net.isEmpty() || suspects.isEmpty() || portFirst) {
            return new PartingTable("", "", List.of());
        }
        Parting parting = Parting.of(
                open.job().board(),
                net.get(),
                suspects,
                open.advice().now(),
                open.job().bundle().observations(),
                open.minutes());
        return new PartingTable(
                net.get(),
                parting.readFirst().orElse(""),
                parting.cuts().stream().limit(MOST_CUTS).map(PartingWords::line).toList());
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
