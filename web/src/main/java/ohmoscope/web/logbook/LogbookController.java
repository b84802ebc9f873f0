package ohmoscope.web.logbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Download;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.LogbookStore;
import ohmoscope.web.store.LogbookStore.Asked;
import ohmoscope.web.store.LogbookStore.Row;
import org.apache.commons.csv.CSVFormat;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;

/** All jobs by how they went: searched, filtered, as a table for elsewhere; what a shop calls them. */
@Controller
class LogbookController {
    private static final int PAGE = 50;
    private static final int MOST_ROWS = 50_000;
    private static final int MOST_TAGS = 12;
    private static final Pattern TAG = Pattern.compile("[\\p{Alnum}][\\p{Alnum} ._-]{0,39}");
    private static final DateTimeFormatter OPENED = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

    private final LogbookStore logbook;
    private final JobStore jobs;
    private final JobFile files;
    private final TransactionTemplate transaction;
    private final Clock clock;

    LogbookController(
            LogbookStore logbook, JobStore jobs, JobFile files, TransactionTemplate transaction, Clock clock) {
        this.logbook = logbook;
        this.jobs = jobs;
        this.files = files;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** What is looked for; days as 2031-05-24. */
    record Filters(
            @Nullable String q,
            @Nullable String state,
            @Nullable String device,
            @Nullable String technician,
            @Nullable String dealer,
            @Nullable String tag,
            @Nullable String from,
            @Nullable String to) {
        Filters {
            q = said(q);
            state = said(state);
            device = said(device);
            technician = said(technician);
            dealer = said(dealer);
            tag = said(tag);
            from = said(from);
            to = said(to);
        }

        private static String said(@Nullable String typed) {
            return typed == null ? "" : typed;
        }

        Asked asked() {
            return new Asked(q, state, device, technician, dealer, tag, day("from", from), day("to", to));
        }

        /** The same behind the question mark of an address. */
        String query() {
            return UriComponentsBuilder.newInstance()
                    .queryParam("q", "{q}")
                    .queryParam("state", "{state}")
                    .queryParam("device", "{device}")
                    .queryParam("technician", "{technician}")
                    .queryParam("dealer", "{dealer}")
                    .queryParam("tag", "{tag}")
                    .queryParam("from", "{from}")
                    .queryParam("to", "{to}")
                    .encode()
                    .buildAndExpand(q, state, device, technician, dealer, tag, from, to)
                    .getQuery();
        }
    }

    /** A job in a line. @param went whether the named part was the one, in words */
    record Line(
            String number,
            boolean usable,
            String title,
            String device,
            String rail,
            String opened,
            String ended,
            String went,
            String minutes,
            String technician,
            String brought,
            String tags) {}

    @GetMapping("/logbook")
    String logbook(@ModelAttribute Filters filters, @RequestParam(defaultValue = "1") int page, Model model) {
        Asked asked = filters.asked();
        long count = logbook.count(asked);
        int pages = (int) Math.max(1, (count + PAGE - 1) / PAGE);
        int at = Math.max(1, Math.min(pages, page));
        model.addAttribute(
                "lines",
                logbook.page(asked, PAGE, (long) (at - 1) * PAGE).stream()
                        .map(this::line)
                        .toList());
        model.addAttribute("asked", filters);
        model.addAttribute("query", filters.query());
        model.addAttribute("count", count);
        model.addAttribute("page", at);
        model.addAttribute("pages", pages);
        model.addAttribute("devices", logbook.devices());
        model.addAttribute("technicians", logbook.technicians());
        model.addAttribute("dealers", logbook.dealers());
        model.addAttribute("tags", logbook.tags());
        return "logbook";
    }

    /** The same as a table, without what a browser shows of it. */
    @GetMapping("/logbook.csv")
    ResponseEntity<byte[]> csv(@ModelAttribute Filters filters) {
        Asked asked = filters.asked();
        String rows = logbook.page(asked, MOST_ROWS, 0).stream()
                .map(LogbookController::csv)
                .collect(Collectors.joining("\n"));
        String text =
                "job,opened_at,device,rail,complaint,proven,part,named_part,named_probability,taken_off_for_nothing,"
                        + "worked_minutes,technician,dealer,owner,tags\n" + rows + "\n";
        return Download.of(
                "logbook.csv",
                new MediaType("text", "csv", StandardCharsets.UTF_8),
                text.getBytes(StandardCharsets.UTF_8));
    }

    private static String csv(Row row) {
        return CSVFormat.DEFAULT.format(
                row.number(),
                row.openedAt(),
                row.device(),
                row.rail(),
                row.title(),
                row.proven() ? "yes" : "no",
                row.ref().orElse(""),
                row.named().orElse(""),
                row.namedProbability().isPresent()
                        ? Eng.fixed(row.namedProbability().getAsDouble(), 3)
                        : "",
                row.innocent(),
                Eng.fixed(row.workedSeconds() / 60.0, 1),
                row.technician(),
                row.people().dealer(),
                row.people().owner(),
                row.tags());
    }

    /** What the shop calls a job, and whether its device was here before. */
    @PostMapping("/jobs/{number}/logbook")
    String keep(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String tags,
            @RequestParam(defaultValue = "") String dealer,
            @RequestParam(defaultValue = "") String owner,
            @RequestParam(defaultValue = "") String back)
            throws IOException {
        long job = files.id(number);
        Set<String> clean = tags(tags);
        String from = back.strip();
        if (from.equals(number)) {
            throw new InvalidMember("back", "is this job: give the number of an earlier one, or nothing");
        }
        Optional<Long> earlier = from.isEmpty()
                ? Optional.empty()
                : Optional.of(jobs.find(from)
                        .orElseThrow(() -> new InvalidMember("back", "is " + from + ", and no job has that number"))
                        .id());
        LogbookStore.People people = new LogbookStore.People(dealer.strip(), owner.strip());
        transaction.executeWithoutResult(t -> {
            logbook.tag(job, clean);
            logbook.people(job, people);
            logbook.backFrom(job, earlier);
        });
        return "redirect:/jobs/" + number + "/hand-back";
    }

    private static Set<String> tags(String typed) {
        Set<String> tags = Arrays.stream(typed.split(","))
                .map(t -> t.strip().toLowerCase(Locale.ROOT))
                .filter(t -> !t.isEmpty())
                .collect(Collectors.toCollection(TreeSet::new));
        tags.stream().filter(t -> !TAG.matcher(t).matches()).findFirst().ifPresent(t -> {
            throw new InvalidMember(
                    "tags", "have “" + t + "”: letters, digits, spaces, dots and hyphens, 40 at most, by commas");
        });
        if (tags.size() > MOST_TAGS) {
            throw new InvalidMember("tags", "are more than " + MOST_TAGS);
        }
        return tags;
    }

    private static Optional<LocalDate> day(String name, String typed) {
        try {
            return typed.isBlank() ? Optional.empty() : Optional.of(LocalDate.parse(typed.strip()));
        } catch (DateTimeException odd) {
            throw new InvalidMember(name, "must be a day as 2031-05-24, was " + typed);
        }
    }

    private Line line(Row row) {
        return new Line(
                row.number(),
                JobStore.usable(row.number()),
                row.title(),
                row.device(),
                row.rail(),
                OPENED.format(row.openedAt().atZone(clock.getZone())),
                row.proven() ? row.ref().orElse("") : "",
                went(row),
                row.workedSeconds() >= 60 ? Eng.fixed(row.workedSeconds() / 60.0, 0) : "",
                row.technician(),
                brought(row.people()),
                row.tags());
    }

    private static String brought(LogbookStore.People people) {
        return Stream.of(people.dealer(), people.owner().isEmpty() ? "" : "for " + people.owner())
                .filter(w -> !w.isEmpty())
                .collect(Collectors.joining(" "));
    }

    private static String went(Row row) {
        String innocent = row.innocent() == 0
                ? ""
                : "; " + row.innocent() + (row.innocent() == 1 ? " part" : " parts") + " off for nothing";
        if (!row.proven()) {
            return "not proven" + innocent;
        }
        String named = row.named()
                .map(n -> (n.equals(row.ref().orElse("")) ? "named before heat" : "had named " + n)
                        + (row.namedProbability().isPresent()
                                ? " at " + Eng.percent(row.namedProbability().getAsDouble()) + " %"
                                : ""))
                .orElse("nothing was named");
        return named + innocent;
    }
}
