package ohmoscope.web.shelf;

import java.time.Clock;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.prove.Walk;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.ShelfRow;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The shelf: all jobs, newest first. */
@Controller
class ShelfController {
    private static final int PAGE = 40;
    private static final DateTimeFormatter OPENED = DateTimeFormatter.ofPattern("d MMM, HH:mm", Locale.ENGLISH);

    private final JobStore jobs;
    private final Clock clock;

    ShelfController(JobStore jobs, Clock clock) {
        this.jobs = jobs;
        this.clock = clock;
    }

    /**
     * @param usable whether the number can stand in an address; a job of an earlier version may have one that cannot
     * @param stepNumber how far along the walk, from 1
     */
    record Line(
            long id,
            boolean usable,
            String number,
            String title,
            String device,
            String rail,
            boolean railStated,
            String opened,
            String next,
            int stepNumber,
            String lead,
            String leadWords) {}

    @GetMapping("/")
    String shelf(
            @RequestParam(name = "q", defaultValue = "") String words,
            @RequestParam(name = "page", defaultValue = "1") int page,
            Model model) {
        long count = jobs.count(words);
        int pages = (int) Math.max(1, (count + PAGE - 1) / PAGE);
        int at = Math.max(1, Math.min(pages, page));
        List<Line> lines = jobs.page(words, PAGE, (long) (at - 1) * PAGE).stream()
                .map(this::line)
                .toList();
        model.addAttribute("lines", lines);
        model.addAttribute("words", words);
        model.addAttribute("count", count);
        model.addAttribute("page", at);
        model.addAttribute("pages", pages);
        return "shelf";
    }

    /** Another number for a job that cannot be opened by the one it has. */
    @PostMapping("/shelf/{id}/number")
    String rename(@PathVariable long id, @RequestParam String number) {
        String clean = number.strip();
        if (!JobStore.usable(clean)) {
            throw new InvalidMember("number", "must have 1 to 40 letters, digits, dots, underscores or hyphens");
        }
        if (!jobs.rename(id, clean)) {
            throw new InvalidMember("number", "is " + clean + ", which another job has, or the job is gone");
        }
        return "redirect:/jobs/" + clean;
    }

    private Line line(ShelfRow row) {
        Walk.Step step = Walk.Step.valueOf(row.step());
        String words = row.lead().map(l -> words(l, row.verdict().orElse(""))).orElse("nothing stands out yet");
        return new Line(
                row.id(),
                JobStore.usable(row.number()),
                row.number(),
                row.title(),
                BoardNames.of(row.device(), row.revision()),
                row.rail(),
                row.railStated(),
                OPENED.format(row.openedAt().atZone(clock.getZone())),
                row.nextStep().orElse(Words.of(step)),
                step.ordinal() + 1,
                row.lead().map(JobStore.Lead::ref).orElse(""),
                words);
    }

    private static String words(JobStore.Lead lead, String verdict) {
        String percent = Eng.percent(lead.probability()) + " %";
        return switch (lead.by()) {
            case PROOF -> "mended";
            case METER -> percent + " by meter";
            case FRAMES -> percent + (verdict.equals("AREA") ? ", not settled" : "");
        };
    }
}
