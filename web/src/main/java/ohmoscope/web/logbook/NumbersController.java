package ohmoscope.web.logbook;

import java.util.List;
import java.util.stream.Collectors;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.LogbookStore;
import ohmoscope.web.store.LogbookStore.By;
import ohmoscope.web.store.LogbookStore.Counted;
import ohmoscope.web.store.LogbookStore.Stated;
import ohmoscope.web.store.OthersStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** What the shop's own jobs come to: how often the named part was the one, how honest the stated chances were, where time goes. */
@Controller
class NumbersController {
    private static final int MOST_MONTHS = 36;
    private static final int MOST_LINES = 12;

    private final LogbookStore logbook;
    private final OthersStore others;

    NumbersController(LogbookStore logbook, OthersStore others) {
        this.logbook = logbook;
        this.others = others;
    }

    /** A line of a table. @param named of those heated, with the share; times in minutes */
    record Line(
            String name,
            long jobs,
            long proven,
            String named,
            long innocent,
            long back,
            String measuring,
            String injecting,
            String reworking,
            String proving) {}

    /** How sure it was, and how often rightly. */
    record Sure(long jobs, String stated, String right) {}

    @GetMapping("/logbook/numbers")
    String numbers(Model model) {
        List<Stated> stated = logbook.stated();
        List<Counted> months = logbook.counted(By.MONTH, MOST_MONTHS);
        model.addAttribute("all", lines(By.ALL, 1));
        model.addAttribute("devices", lines(By.DEVICE, MOST_LINES));
        model.addAttribute("technicians", lines(By.TECHNICIAN, MOST_LINES));
        model.addAttribute("dealers", lines(By.DEALER, MOST_LINES));
        model.addAttribute(
                "months", months.stream().map(NumbersController::line).toList());
        model.addAttribute(
                "sure",
                stated.stream()
                        .map(s -> new Sure(s.jobs(), Eng.percent(s.stated()) + " %", share(s.right())))
                        .toList());
        model.addAttribute(
                "statedPoints",
                stated.stream()
                        .map(s -> Eng.fixed(s.stated(), 4) + "," + Eng.fixed(s.right(), 4))
                        .collect(Collectors.joining(" ")));
        model.addAttribute(
                "monthPoints",
                months.stream()
                        .sorted((a, b) -> a.name().compareTo(b.name()))
                        .map(m -> m.name() + "," + m.jobs() + "," + m.proven() + ","
                                + (m.heated() == 0 ? "" : Eng.fixed(m.named() / (double) m.heated(), 4)))
                        .collect(Collectors.joining(" ")));
        model.addAttribute("sources", others.sources());
        return "numbers";
    }

    private List<Line> lines(By by, int most) {
        return logbook.counted(by, most).stream().map(NumbersController::line).toList();
    }

    private static Line line(Counted c) {
        return new Line(
                c.name().isEmpty() ? "nobody said" : c.name(),
                c.jobs(),
                c.proven(),
                c.heated() == 0
                        ? "–"
                        : c.named() + " of " + c.heated() + " (" + share(c.named() / (double) c.heated()) + ")",
                c.innocent(),
                c.back(),
                minutes(c.measuring()),
                minutes(c.injecting()),
                minutes(c.reworking()),
                minutes(c.proving()));
    }

    /** Of what was counted, unlike a chance, all may be all. */
    private static String share(double of) {
        return Math.round(100 * of) + " %";
    }

    private static String minutes(double seconds) {
        return seconds > 0 ? Eng.fixed(seconds / 60, 1) : "–";
    }
}
