package ohmoscope.web.proof;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.GoodDraws;
import ohmoscope.core.evidence.GoodReadings;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.job.Outcome;
import ohmoscope.core.prove.Proof;
import ohmoscope.formats.EntriesFile;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.EvidenceStrips;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.SeenBefore;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.DecisionStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.LogbookStore;
import ohmoscope.web.store.ReworkStore;
import ohmoscope.web.store.Transactions;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tools.jackson.databind.json.JsonMapper;

/** Closing the loop: lift, read again, hand back. */
@Controller
class ProofController {
    private final OpenJobs openJobs;
    private final Bench bench;
    private final DecisionStore decisions;
    private final Judge judge;
    private final IntakeStore intakes;
    private final GoodStore good;
    private final ReworkStore reworks;
    private final SeenBefore seenBefore;
    private final LogbookStore logbook;
    private final HandBackPdf document;
    private final Transactions transactions;
    private final JsonMapper mapper;
    private final Clock clock;

    ProofController(
            OpenJobs openJobs,
            Bench bench,
            DecisionStore decisions,
            Judge judge,
            IntakeStore intakes,
            GoodStore good,
            ReworkStore reworks,
            SeenBefore seenBefore,
            LogbookStore logbook,
            HandBackPdf document,
            Transactions transactions,
            JsonMapper mapper,
            Clock clock) {
        this.openJobs = openJobs;
        this.bench = bench;
        this.decisions = decisions;
        this.judge = judge;
        this.intakes = intakes;
        this.good = good;
        this.reworks = reworks;
        this.seenBefore = seenBefore;
        this.logbook = logbook;
        this.document = document;
        this.transactions = transactions;
        this.mapper = mapper;
        this.clock = clock;
    }

    @PostMapping("/jobs/{number}/lift")
    String lift(@PathVariable String number, @RequestParam String ref, Principal principal) throws IOException {
        bench.lift(number, ref, Technician.name(principal));
        return "redirect:/jobs/" + number;
    }

    @PostMapping("/jobs/{number}/again")
    String again(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String value,
            @RequestParam(defaultValue = "false") boolean open,
            Principal principal)
            throws IOException {
        bench.readAgain(
                number, open ? OptionalDouble.empty() : OptionalDouble.of(number(value)), Technician.name(principal));
        return "redirect:/jobs/" + number;
    }

    private static double number(String value) {
        try {
            return Double.parseDouble(value.trim().replace(',', '.'));
        } catch (NumberFormatException noNumber) {
            throw new InvalidMember("value", "must be a number such as 0.43, was \"" + value + "\"");
        }
    }

    @GetMapping("/jobs/{number}/hand-back")
    String handBack(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        JobFile.Stored job = open.job();
        model.addAttribute("page", view(open));
        model.addAttribute("stops", AdviceView.stops(open));
        model.addAttribute("photos", pictures(open));
        model.addAttribute(
                "symptom",
                open.proof().illOtherwise()
                        ? open.proof().run().map(Words::headline).orElse("")
                        : "");
        model.addAttribute(
                "toFit",
                intakes.items(job.row().id()).stream()
                        .filter(i -> i.came() && i.checked().isEmpty())
                        .map(IntakeStore.Item::name)
                        .toList());
        model.addAttribute("keepable", proven(open).isPresent() && !seenBefore.kept(open));
        model.addAttribute("tags", String.join(", ", logbook.tags(job.row().id())));
        model.addAttribute("people", logbook.people(job.row().id()));
        model.addAttribute("back", logbook.backFrom(job.row().id()).orElse(""));
        model.addAttribute("teaches", good.learnt(job.row().id()) ? "" : words(taught(open)));
        return "hand-back";
    }

    private List<ShownPicture> pictures(OpenJobs.Open open) {
        return ShownPicture.of(
                open.job(),
                intakes.photos(open.job().row().id()),
                proven(open).or(() -> open.proof().repair()));
    }

    private HandBackView view(OpenJobs.Open open) throws IOException {
        JobFile.Stored job = open.job();
        Optional<Change> change = open.proof().repair();
        Optional<StoredAnalysis> then = change.flatMap(
                        c -> decisions.of(job.row().id(), c.seq()))
                .map(DecisionStore.Row::known)
                .filter(known -> !known.isEmpty())
                .map(known -> mapper.readValue(known, StoredAnalysis.class));
        List<Observation> before = job.bundle().observations().stream()
                .takeWhile(o -> change.map(c -> o.seq() < c.seq()).orElse(true))
                .toList();
        return HandBackView.of(
                open,
                then,
                judge.advise(job, before, open.schools()),
                reworks.ofJob(job.row().id()),
                clock.getZone());
    }

    private static Optional<Change> proven(OpenJobs.Open open) {
        return Outcome.repair(open.proof(), open.advice().mending());
    }

    /** Keeps a proven job for the next of its kind; only when somebody says so. */
    @PostMapping("/jobs/{number}/hand-back/case")
    String keepCase(@PathVariable String number, Principal principal) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Change repair = proven(open)
                .orElseThrow(() -> new InvalidMember("case", "cannot be kept: nothing proves this repair yet"));
        seenBefore.keep(open, repair, view(open).wrong(), Technician.name(principal));
        return "redirect:/jobs/" + number + "/hand-back";
    }

    /** The same as a document. @param edition technician, with all entries, or customer */
    @GetMapping("/jobs/{number}/hand-back.pdf")
    ResponseEntity<byte[]> handBackPdf(
            @PathVariable String number, @RequestParam(defaultValue = "technician") String edition, Principal principal)
            throws IOException {
        HandBackPdf.Edition chosen = switch (edition) {
            case "technician" -> HandBackPdf.Edition.TECHNICIAN;
            case "customer" -> HandBackPdf.Edition.CUSTOMER;
            default -> throw new InvalidMember("edition", "must be technician or customer");
        };
        OpenJobs.Open open = openJobs.open(number, principal);
        long id = open.job().row().id();
        byte[] pdf = document.of(
                view(open), HandBackPdf.pictures(pictures(open), photo -> intakes.photo(id, photo)), chosen);
        return Download.of(number + "-" + edition + ".pdf", MediaType.APPLICATION_PDF, pdf);
    }

    /** All entries, for whoever keeps records elsewhere. */
    @GetMapping("/jobs/{number}/entries.{kind:csv|json}")
    ResponseEntity<String> entries(@PathVariable String number, @PathVariable String kind, Principal principal)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        List<EvidenceStrips.Strip> strips =
                EvidenceStrips.of(open.job(), open.job().entries(), open.advice(), clock.getZone());
        List<EntriesFile.Row> rows = new ArrayList<>();
        for (int i = 0; i < strips.size(); i++) {
            EvidenceStore.Entry entry = open.job().entries().get(i);
            rows.add(new EntriesFile.Row(
                    entry.observation(),
                    entry.recordedAt(),
                    entry.recordedBy(),
                    strips.get(i).headline(),
                    strips.get(i).meaning()));
        }
        boolean table = kind.equals("csv");
        return Download.of(
                number + "-entries." + kind,
                table ? new MediaType("text", "csv", StandardCharsets.UTF_8) : MediaType.APPLICATION_JSON,
                table ? EntriesFile.csv(rows) : EntriesFile.json(number, rows));
    }

    /** What a proven repair shows of a good board. */
    private record Taught(List<GoodReadings.Good> readings, List<GoodDraws.Good> draws) {
        boolean nothing() {
            return readings.isEmpty() && draws.isEmpty();
        }
    }

    /** What the board reads and draws now that it is proven; nothing before. */
    private static Taught taught(OpenJobs.Open open) {
        Optional<Change> repair =
                open.proof().state() == Proof.State.CLEARED ? open.proof().change() : Optional.empty();
        return repair.map(c -> new Taught(
                        GoodReadings.after(
                                open.job().board(), open.job().bundle().observations(), c.seq()),
                        GoodDraws.after(
                                open.tree().inputs().stream().map(Part::ref).toList(),
                                open.job().bundle().observations(),
                                c.seq())))
                .orElseGet(() -> new Taught(List.of(), List.of()));
    }

    private static String words(Taught taught) {
        return Stream.of(
                        counted(taught.readings().size(), "reading"),
                        counted(taught.draws().size(), "draw"))
                .filter(w -> !w.isEmpty())
                .collect(Collectors.joining(" and "));
    }

    private static String counted(int count, String what) {
        return count == 0 ? "" : count + " " + what + (count == 1 ? "" : "s");
    }

    /** Keeps a proven board's readings for the next of its kind; only when somebody says so. */
    @PostMapping("/jobs/{number}/hand-back/good")
    String learn(@PathVariable String number, Principal principal) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Taught taught = taught(open);
        if (taught.nothing()) {
            throw new InvalidMember("readings", "cannot be kept as good ones: nothing proves this repair yet");
        }
        long board = open.job().row().boardId();
        long job = open.job().row().id();
        String by = Technician.name(principal);
        transactions.run(() -> {
            good.learn(board, job, taught.readings(), by);
            good.learnDraws(board, job, taught.draws(), by);
            return job;
        });
        return "redirect:/jobs/" + number + "/hand-back";
    }
}
