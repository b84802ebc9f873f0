package ohmoscope.web.rails;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.layout.Points;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Technician;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriUtils;

/** The power tree. */
@Controller
class RailsController {
    private static final int MOST_HUNTS = 20;

    private final OpenJobs openJobs;

    private final JobStore jobs;
    private final BoardStore boards;
    private final EvidenceStore evidence;
    private final JobFile files;
    private final Transactions transactions;

    RailsController(
            OpenJobs openJobs,
            JobStore jobs,
            BoardStore boards,
            EvidenceStore evidence,
            JobFile files,
            Transactions transactions) {
        this.openJobs = openJobs;
        this.jobs = jobs;
        this.boards = boards;
        this.evidence = evidence;
        this.files = files;
        this.transactions = transactions;
    }

    /** @param of a net or part to trace up and down; the job's rail when empty */
    @GetMapping("/jobs/{number}/rails")
    String rails(
            @PathVariable String number, @RequestParam(defaultValue = "") String of, Principal principal, Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        String wanted = of.isBlank() ? open.job().bundle().rail() : of.strip();
        model.addAttribute("page", RailsView.of(open, open.tree(), wanted));
        model.addAttribute("words", AdviceView.words(open.job().board()));
        model.addAttribute("wanted", wanted);
        about(open.job(), model);
        return "rails";
    }

    private void about(JobFile.Stored job, Model model) {
        List<Net> nets = job.board().nets();
        model.addAttribute("question", question(job.bundle().railInQuestion()));
        model.addAttribute("stated", job.row().statedRail().orElse(""));
        model.addAttribute(
                "railNets",
                nets.stream()
                        .filter(n -> n.kind() == NetKind.POWER)
                        .map(Net::name)
                        .toList());
        model.addAttribute("allNets", nets.stream().map(Net::name).toList());
        model.addAttribute("kinds", PartKind.values());
        model.addAttribute("notes", boards.row(job.row().boardId()).notes());
    }

    private static String question(RailInQuestion question) {
        return switch (question.known()) {
            case STATED -> question.net() + ", as was said.";
            case FOUND -> question.net() + ": found by its readings. Nobody has said which.";
            case FED -> question.net() + ": it was fed. Nobody has said which.";
            case NOT_YET ->
                "Nobody has said which, and nothing measured points to one: " + question.net()
                        + ", the main rail, is where a hunt begins.";
        };
    }

    /** Says which rail the job is about, or takes that back. */
    @PostMapping("/jobs/{number}/rail")
    String rail(@PathVariable String number, @RequestParam(defaultValue = "") String rail) throws IOException {
        JobFile.Stored job = files.withoutTraces(number);
        Optional<String> said = said(rail, job.board());
        return transactions.run(() -> {
            jobs.setRail(job.row().id(), said);
            files.refreshState(job.row().id());
            return "redirect:/jobs/" + number + "/rails";
        });
    }

    /** A rail as it is chosen; empty for whatever is found. */
    private static Optional<String> said(String rail, Board board) {
        if (!rail.isEmpty() && board.net(rail).isEmpty()) {
            throw new InvalidMember("rail", "is " + rail + ", which this board does not have");
        }
        return Optional.of(rail).filter(r -> !r.isEmpty());
    }

    /** Opens a hunt for another fault of the same device, and goes to it. */
    @PostMapping("/jobs/{number}/hunts")
    String hunt(@PathVariable String number, @RequestParam(defaultValue = "") String rail) throws IOException {
        JobFile.Stored job = files.withoutTraces(number);
        Optional<String> said = said(rail, job.board());
        if (job.job().hunts().size() >= MOST_HUNTS) {
            throw new InvalidMember("hunts", "are " + MOST_HUNTS + " already: open another job");
        }
        return transactions.run(() -> {
            jobs.addHunt(job.row().id(), said);
            files.refreshState(job.row().id());
            return "redirect:/jobs/" + number;
        });
    }

    /** Goes to one of the job's hunts. */
    @PostMapping("/jobs/{number}/hunts/{hunt}")
    String goTo(@PathVariable String number, @PathVariable int hunt) throws IOException {
        long id = jobs.named(number).id();
        return transactions.run(() -> {
            jobs.goToHunt(id, hunt);
            files.refreshState(id);
            return "redirect:/jobs/" + number;
        });
    }

    /** Adds a point that the board's data does not have; from then on the job has a board of its own. */
    @PostMapping("/jobs/{number}/points")
    String point(
            @PathVariable String number,
            @RequestParam String name,
            @RequestParam PartKind kind,
            @RequestParam String net,
            @RequestParam(defaultValue = "") String other,
            @RequestParam(defaultValue = "false") boolean carries)
            throws IOException {
        Points.Met met = new Points.Met(name, kind, net, Optional.of(other).filter(o -> !o.isBlank()), carries);
        JobFile.Stored job = files.withoutTraces(number);
        Board more = Points.with(boards.board(job.row().boardId()), met);
        return transactions.run(() -> {
            jobs.setBoard(job.row().id(), boards.edited(job.row().boardId(), more));
            files.refreshState(job.row().id());
            return "redirect:/jobs/" + number + "/rails?of=" + UriUtils.encode(met.name(), StandardCharsets.UTF_8);
        });
    }

    /** A point by another name, or the same as one that is there: its readings go along. */
    @PostMapping("/jobs/{number}/points/name")
    String rename(
            @PathVariable String number, @RequestParam String was, @RequestParam String called, Principal principal)
            throws IOException {
        JobFile.Stored job = files.withoutTraces(number);
        Board before = boards.board(job.row().boardId());
        Board after = Points.renamed(before, was, called);
        String now = Points.word("called", called);
        return transactions.run(() -> {
            jobs.setBoard(job.row().id(), boards.edited(job.row().boardId(), after));
            evidence.rename(job.row().id(), was, now, Technician.name(principal));
            files.refreshState(job.row().id());
            return "redirect:/jobs/" + number + "/rails?of=" + UriUtils.encode(now, StandardCharsets.UTF_8);
        });
    }
}
