package ohmoscope.web.begin;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.Technician;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.JobStore;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** A new job, from nothing but the device. */
@Controller
class NewJobController {
    private final Opening opening;
    private final JobStore jobs;
    private final OpenJobs openJobs;
    private final BoardStore boards;

    NewJobController(Opening opening, JobStore jobs, OpenJobs openJobs, BoardStore boards) {
        this.opening = opening;
        this.jobs = jobs;
        this.openJobs = openJobs;
        this.boards = boards;
    }

    /** A board to begin with. @param device what chooses it when it is typed */
    record Choice(String value, String words, String device) {}

    /** The form as it was filled in. @param refused why it was not taken, empty for a fresh one */
    record Page(
            String number,
            String device,
            String account,
            String battery,
            String board,
            boolean map,
            List<Choice> shelved,
            List<Choice> generic,
            List<String> devices,
            Optional<String> refused) {}

    @GetMapping("/new")
    String form(Model model) throws IOException {
        model.addAttribute("page", page("", "", "", "", "", false, Optional.empty()));
        return "new";
    }

    @PostMapping("/new")
    String open(
            @RequestParam(defaultValue = "") String number,
            @RequestParam(defaultValue = "") String device,
            @RequestParam(defaultValue = "") String account,
            @RequestParam(defaultValue = "") String battery,
            @RequestParam(defaultValue = "") String board,
            @RequestParam(defaultValue = "") List<MultipartFile> files,
            @RequestParam(defaultValue = "false") boolean map,
            Principal principal,
            Model model)
            throws IOException {
        try {
            Opening.Opened opened = opening.open(
                    new Opening.Said(number.strip(), device.strip(), account, battery, board),
                    files,
                    Technician.name(principal));
            if (opened.disagree().isPresent()) {
                return "redirect:/boards/" + opened.disagree().get() + "/files?job=" + opened.number();
            }
            return "redirect:/jobs/" + opened.number() + (map || board.equals(Opening.PHOTOGRAPHS) ? "/map" : "");
        } catch (BundleException | InvalidMember refused) {
            model.addAttribute(
                    "page", page(number, device, account, battery, board, map, Optional.of(refused.getMessage())));
            return "new";
        }
    }

    @GetMapping("/jobs/{number}/board")
    String other(@PathVariable String number, Principal principal, Model model) throws IOException {
        return other(number, "", Optional.empty(), principal, model);
    }

    private String other(String number, String board, Optional<String> refused, Principal principal, Model model)
            throws IOException {
        model.addAttribute("about", openJobs.open(number, principal).head());
        model.addAttribute("page", page("", "", "", "", board, false, refused));
        return "other-board";
    }

    /** Another board under a job that has begun. */
    @PostMapping("/jobs/{number}/board")
    String exchange(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String board,
            @RequestParam(defaultValue = "") List<MultipartFile> files,
            Principal principal,
            Model model)
            throws IOException {
        try {
            opening.exchange(number, board, files);
            return "redirect:/jobs/" + number + "/rails";
        } catch (BundleException | InvalidMember refused) {
            return other(number, board, Optional.of(refused.getMessage()), principal, model);
        }
    }

    /** A generic board to copy and change. */
    @GetMapping("/new/{slug}.json")
    ResponseEntity<byte[]> generic(@PathVariable String slug) throws IOException {
        return Download.of(
                slug + ".json",
                MediaType.APPLICATION_JSON,
                BoardJson.write(GenericBoards.named(slug).board()));
    }

    private Page page(
            String number,
            String device,
            String account,
            String battery,
            String board,
            boolean map,
            Optional<String> refused)
            throws IOException {
        List<Choice> shelved = boards.library("").stream()
                .map(b -> new Choice(
                        "shelved:" + b.id(),
                        BoardNames.of(b.name(), b.revision())
                                + (b.jobs() == 0 ? "" : b.jobs() == 1 ? " (1 job)" : " (" + b.jobs() + " jobs)"),
                        b.name()))
                .toList();
        List<Choice> generic = new ArrayList<>();
        for (GenericBoards.Generic one : GenericBoards.all()) {
            generic.add(new Choice("generic:" + one.slug(), one.board().name(), ""));
        }
        List<String> devices = Stream.concat(
                        jobs.devices().stream(), shelved.stream().map(Choice::device))
                .distinct()
                .toList();
        return new Page(
                number.isEmpty() ? jobs.nextNumber() : number,
                device,
                account,
                battery,
                board,
                map,
                shelved,
                generic,
                devices,
                refused);
    }
}
