package ohmoscope.web.inject;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.formats.BundleException;
import ohmoscope.web.config.Technician;
import ohmoscope.web.inject.InjectView.Given;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.store.CameraStore;
import ohmoscope.web.store.MeansStore;
import ohmoscope.web.store.MeansStore.Kept;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The injection ladder. */
@Controller
class InjectController {
    private static final int CAMERAS = 6;
    private static final long MOST_BYTES = 40_000_000;

    private final OpenJobs openJobs;
    private final Judge judge;
    private final CameraStore cameras;
    private final MeansStore means;
    private final SupplyFiles supplyFiles;

    InjectController(OpenJobs openJobs, Judge judge, CameraStore cameras, MeansStore means, SupplyFiles supplyFiles) {
        this.openJobs = openJobs;
        this.judge = judge;
        this.cameras = cameras;
        this.means = means;
        this.supplyFiles = supplyFiles;
    }

    @GetMapping("/jobs/{number}/inject")
    String inject(@PathVariable String number, InjectForm form, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        OptionalDouble measured = open.job().bundle().observations().stream()
                .filter(Inject.class::isInstance)
                .map(o -> ((Inject) o).leadOhms())
                .filter(OptionalDouble::isPresent)
                .mapToDouble(OptionalDouble::getAsDouble)
                .filter(Injection::leadsCanBe)
                .reduce((a, b) -> b);
        Optional<Kept> kept = means.of(Technician.name(principal));
        Given asked = form.given(measured, Given.usual(kept));
        Given given = form.byWire() ? reckoned(form, asked, model) : asked;
        model.addAttribute("form", form);
        model.addAttribute("logged", open.job().bundle().supplyLog().isPresent());
        model.addAttribute(
                "page",
                InjectView.of(
                        open,
                        judge.joined(
                                open.job(),
                                open.job().bundle().rail(),
                                open.advice().now()),
                        given,
                        form.triedVolts(),
                        form.triedAmps(),
                        cameras.known(CAMERAS)));
        model.addAttribute("keeps", kept.map(given::isWith).orElse(false));
        return "inject";
    }

    private static Given reckoned(InjectForm form, Given given, Model model) {
        try {
            return form.reckoned(given);
        } catch (InvalidMember bad) {
            model.addAttribute("wireProblem", "The " + bad.getMessage() + ".");
            return given;
        }
    }

    /** Takes in what the supply wrote. */
    @PostMapping("/jobs/{number}/inject/log")
    String take(
            @PathVariable String number,
            @RequestParam MultipartFile file,
            @RequestParam double leads,
            @RequestParam(defaultValue = "false") boolean clock,
            Principal principal,
            Model model)
            throws IOException {
        try {
            if (file.isEmpty() || file.getSize() > MOST_BYTES) {
                throw new InvalidMember("file", file.isEmpty() ? "is empty" : "is larger than 40 MB");
            }
            supplyFiles.keep(
                    number,
                    openJobs.open(number, principal).job().bundle().rail(),
                    new String(file.getBytes(), StandardCharsets.UTF_8),
                    Optional.ofNullable(file.getOriginalFilename()).orElse("supply.csv"),
                    leads,
                    clock,
                    Technician.name(principal));
        } catch (InvalidMember | BundleException bad) {
            model.addAttribute("problem", "Nothing was kept. " + bad.getMessage() + ".");
            return inject(
                    number,
                    Injection.leadsCanBe(leads) ? InjectForm.withLeads(leads) : InjectForm.EMPTY,
                    principal,
                    model);
        }
        return "redirect:/jobs/" + number + "/inject";
    }

    /** Keeps leads and supply for the technician's next jobs. */
    @PostMapping("/jobs/{number}/inject/means")
    String keep(
            @PathVariable String number,
            @RequestParam double leads,
            @RequestParam double rated,
            @RequestParam double mostV,
            @RequestParam double mostA,
            Principal principal) {
        means.keep(Technician.name(principal), new Kept(leads, rated, mostV, mostA));
        return "redirect:/jobs/" + number + "/inject";
    }
}
