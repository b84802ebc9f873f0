package ohmoscope.web.look;

import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Round;
import ohmoscope.web.kit.Words;
import ohmoscope.web.receive.Pictures;
import ohmoscope.web.store.IntakeStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The look tour: a key, and the next part. */
@Controller
class LookController {
    private final OpenJobs openJobs;
    private final Bench bench;
    private final IntakeStore intakes;
    private final Pictures pictures;

    LookController(OpenJobs openJobs, Bench bench, IntakeStore intakes, Pictures pictures) {
        this.openJobs = openJobs;
        this.bench = bench;
        this.intakes = intakes;
        this.pictures = pictures;
    }

    @GetMapping("/jobs/{number}/look")
    String look(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String skipped,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute(
                "page",
                LookView.of(
                        open,
                        Round.of(skipped).skipped(),
                        intakes.photos(open.job().row().id())));
        return "look";
    }

    /** Keeps what was seen on the part that is asked for, or passes it over when nothing is said. */
    @PostMapping("/jobs/{number}/look")
    String keep(
            @PathVariable String number,
            @RequestParam String ref,
            @RequestParam Optional<LookFinding> finding,
            @RequestParam(defaultValue = "") String skipped,
            @RequestHeader(name = "HX-Request", defaultValue = "false") boolean fragment,
            Principal principal,
            Model model)
            throws IOException {
        Round round = Round.of(skipped);
        if (finding.isEmpty()) {
            round = round.passedOver(ref);
        } else {
            String line = "look " + ref + " "
                    + finding.get().name().toLowerCase(Locale.ROOT).replace('_', ' ');
            Optional<Bench.Refused> refused = bench.enter(number, line, Technician.name(principal));
            if (refused.isPresent()) {
                throw new InvalidMember("ref", Words.reason(refused.get()));
            }
        }
        return fragment ? look(number, round.text(), principal, model) : round.redirect(number, "look");
    }

    /** Keeps what the microscope shows, pinned to the part. */
    @PostMapping("/jobs/{number}/look/pictures")
    String picture(
            @PathVariable String number,
            @RequestParam String ref,
            @RequestParam List<MultipartFile> pictures,
            @RequestParam(defaultValue = "") String skipped,
            Principal principal)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        if (open.job().board().part(ref).isEmpty()) {
            throw new InvalidMember("ref", "is " + ref + ", which is no part of this board");
        }
        this.pictures.keep(
                open.job().row().id(), pictures, ref + " under the microscope", Technician.name(principal), ref);
        return Round.of(skipped).redirect(number, "look");
    }
}
