package ohmoscope.web.receive;

import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Settings;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.IntakeStore.Content;
import ohmoscope.web.store.IntakeStore.Intake;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Receiving a device: what the customer says, its condition, what came with it, pictures, hazards. */
@Controller
class ReceiveController {
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);
    private static final List<String> USUAL_ITEMS =
            List.of("battery", "drive", "memory", "display cable", "radio card", "backup cell", "screws", "charger");

    private final OpenJobs openJobs;
    private final JobFile jobs;
    private final IntakeStore intakes;
    private final Pictures pictures;
    private final Settings settings;
    private final Bench bench;
    private final Clock clock;

    ReceiveController(
            OpenJobs openJobs,
            JobFile jobs,
            IntakeStore intakes,
            Pictures pictures,
            Settings settings,
            Bench bench,
            Clock clock) {
        this.openJobs = openJobs;
        this.jobs = jobs;
        this.intakes = intakes;
        this.pictures = pictures;
        this.settings = settings;
        this.bench = bench;
        this.clock = clock;
    }

    /** The page. @param offered items that often come with a device and are not on its list yet */
    record Page(
            JobHead head,
            Intake intake,
            List<Hazard> hazards,
            List<ItemLine> items,
            List<String> offered,
            List<PhotoLine> photos,
            List<Choice> battery,
            List<AdviceView.StopLine> stops) {}

    /** An answer to whether the battery is in. @param line the entry that says so */
    record Choice(String line, String words, boolean chosen) {}

    /** A hazard to tick, with what it asks for. */
    record Hazard(String code, String words, String asks, boolean ticked) {}

    /** One thing of the fit-up list. */
    record ItemLine(String name, String came, boolean wanted, String back) {}

    /** One photograph. */
    record PhotoLine(long id, String caption, String at, String pinned) {}

    @GetMapping("/jobs/{number}/receive")
    String receive(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        long id = open.job().row().id();
        Intake intake =
                intakes.latest(id).orElseGet(() -> new Intake(open.job().row().title(), "", "", List.of()));
        List<IntakeStore.Item> items = intakes.items(id);
        List<String> offered = new ArrayList<>(USUAL_ITEMS);
        open.job().board().parts().stream()
                .filter(p -> p.kind() == PartKind.CONNECTOR && !p.value().isEmpty())
                .map(p -> p.value().toLowerCase(Locale.ROOT))
                .filter(v -> !v.contains("port") && !v.contains("jack") && !v.contains("battery"))
                .distinct()
                .limit(6)
                .forEach(offered::add);
        offered.removeIf(o -> items.stream().anyMatch(i -> i.name().equals(o)));
        model.addAttribute(
                "page",
                new Page(
                        open.head(),
                        intake,
                        hazards(intake),
                        items.stream()
                                .map(i -> new ItemLine(
                                        i.name(),
                                        i.came() ? "came with it" : "was missing",
                                        i.came() && i.checked().isEmpty(),
                                        i.checked()
                                                .map(t -> "seen back " + STAMP.format(t.atZone(clock.getZone())))
                                                .orElse("")))
                                .toList(),
                        offered.stream().distinct().toList(),
                        intakes.photos(id).stream()
                                .map(p -> new PhotoLine(
                                        p.id(),
                                        p.caption(),
                                        STAMP.format(p.at().atZone(clock.getZone())),
                                        p.pinned().orElse("")))
                                .toList(),
                        battery(open.advice()),
                        AdviceView.stops(open)));
        model.addAttribute("phone", settings.phone());
        return "receive";
    }

    private static List<Choice> battery(Advice advice) {
        boolean known = advice.batteryKnown();
        boolean in = advice.now().battery();
        return List.of(
                new Choice("unplugged battery", "It is out", known && !in),
                new Choice("plugged battery", "It is in", known && in));
    }

    @PostMapping("/jobs/{number}/receive/battery")
    String battery(@PathVariable String number, @RequestParam String line, Principal principal) throws IOException {
        if (!line.equals("unplugged battery") && !line.equals("plugged battery")) {
            throw new InvalidMember("line", "is neither 'unplugged battery' nor 'plugged battery'");
        }
        bench.enter(number, line, Technician.name(principal));
        return back(number);
    }

    private static List<Hazard> hazards(Intake intake) {
        List<String> ticked = intake.hazards();
        return List.of(
                new Hazard(
                        "swollen-cell",
                        "Swollen or punctured cell",
                        "Stop. Take it outdoors, away from what burns; local rules for damaged cells.",
                        ticked.contains("swollen-cell")),
                new Hazard(
                        "hot-cell",
                        "Cell warm without load",
                        "Stop. Watch it outdoors until it is cold.",
                        ticked.contains("hot-cell")),
                new Hazard(
                        "liquid",
                        "Liquid got in",
                        "No power before it is open, dry and looked at; gloves for what leaked from a cell.",
                        ticked.contains("liquid")),
                new Hazard(
                        "only-copy",
                        "The customer's only copy is on it",
                        "Ask before anything that may lose it.",
                        ticked.contains("only-copy")));
    }

    @PostMapping("/jobs/{number}/receive")
    String keep(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String account,
            @RequestParam(defaultValue = "") String earlier,
            @RequestParam(defaultValue = "") String condition,
            @RequestParam(defaultValue = "") List<String> hazards,
            Principal principal)
            throws IOException {
        for (String text : List.of(account, earlier, condition)) {
            if (text.length() > 4000) {
                throw new InvalidMember("text", "must not be longer than 4000 characters");
            }
        }
        bench.receive(
                number,
                new Intake(
                        account.strip(),
                        earlier.strip(),
                        condition.strip(),
                        hazards.stream()
                                .filter(h -> h.matches("swollen-cell|hot-cell|liquid|only-copy"))
                                .toList()),
                Technician.name(principal));
        return back(number);
    }

    private static String back(String number) {
        return "redirect:/jobs/" + number + "/receive";
    }

    @PostMapping("/jobs/{number}/receive/items")
    String item(
            @PathVariable String number,
            @RequestParam String name,
            @RequestParam(defaultValue = "true") boolean came,
            Principal principal) {
        String clean = name.strip().toLowerCase(Locale.ROOT);
        if (clean.isEmpty() || clean.length() > 80) {
            throw new InvalidMember("name", "must have 1 to 80 characters");
        }
        intakes.addItem(jobs.id(number), clean, came, Technician.name(principal));
        return back(number);
    }

    /** @param page where to go back to */
    @PostMapping("/jobs/{number}/receive/items/back")
    String checked(
            @PathVariable String number,
            @RequestParam String name,
            @RequestParam(defaultValue = "receive") String page,
            Principal principal) {
        if (!intakes.check(jobs.id(number), name, Technician.name(principal))) {
            throw new InvalidMember("name", "is " + name + ", which is not on this job's list");
        }
        return page.equals("hand-back") ? "redirect:/jobs/" + number + "/hand-back" : back(number);
    }

    @PostMapping("/jobs/{number}/receive/photos")
    String photo(
            @PathVariable String number,
            @RequestParam List<MultipartFile> photos,
            @RequestParam(defaultValue = "") String caption,
            Principal principal)
            throws IOException {
        pictures.keep(jobs.id(number), photos, caption, Technician.name(principal));
        return back(number);
    }

    @GetMapping("/jobs/{number}/photos/{photo}")
    ResponseEntity<byte[]> content(@PathVariable String number, @PathVariable long photo) {
        Content content = intakes.photo(jobs.id(number), photo)
                .orElseThrow(() -> new NotFoundException("Job " + number + " has no such picture."));
        return ResponseEntity.ok()
                .cacheControl(CacheControl.maxAge(java.time.Duration.ofDays(30)).cachePrivate())
                .contentType(MediaType.parseMediaType(content.mediaType()))
                .body(content.bytes());
    }
}
