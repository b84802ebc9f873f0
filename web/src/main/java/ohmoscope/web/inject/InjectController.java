package ohmoscope.web.inject;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.formats.BundleException;
import ohmoscope.web.config.Technician;
import ohmoscope.web.inject.InjectView.Given;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.sheet.Desk;
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

    private final Desk desk;
    private final Judge judge;
    private final CameraStore cameras;
    private final MeansStore means;
    private final SupplyFiles supplyFiles;

    InjectController(Desk desk, Judge judge, CameraStore cameras, MeansStore means, SupplyFiles supplyFiles) {
        this.desk = desk;
        this.judge = judge;
        this.cameras = cameras;
        this.means = means;
        this.supplyFiles = supplyFiles;
    }

    /**
     * @param leads ohms of both leads; what the last injection said, else what the technician keeps, else usual ones
     * @param volts a setting to try out
     * @param amps its limit
     * @param length of each lead, metres, and its gauge; they stand for the ohms when {@code by} is {@code wire}
     */
    @GetMapping("/jobs/{number}/inject")
    String inject(
            @PathVariable String number,
            @RequestParam Optional<Double> leads,
            @RequestParam Optional<Double> rated,
            @RequestParam Optional<Double> mostV,
            @RequestParam Optional<Double> mostA,
            @RequestParam Optional<Double> pixel,
            @RequestParam Optional<Double> noise,
            @RequestParam Optional<Double> frames,
            @RequestParam Optional<Double> wanted,
            @RequestParam Optional<Double> volts,
            @RequestParam Optional<Double> amps,
            @RequestParam Optional<Double> length,
            @RequestParam(defaultValue = "") String gauge,
            @RequestParam(defaultValue = "") String by,
            Principal principal,
            Model model)
            throws IOException {
        Desk.Open open = desk.open(number, principal);
        OptionalDouble measured = open.job().bundle().observations().stream()
                .filter(Inject.class::isInstance)
                .map(o -> ((Inject) o).leadOhms())
                .filter(OptionalDouble::isPresent)
                .mapToDouble(OptionalDouble::getAsDouble)
                .reduce((a, b) -> b);
        Optional<Kept> kept = means.of(Technician.name(principal));
        Given usual = Given.usual(kept);
        Given asked = new Given(
                leads.orElse(measured.orElse(usual.leadOhms())),
                rated.orElse(usual.leadRatedA()),
                mostV.orElse(usual.mostV()),
                mostA.orElse(usual.mostA()),
                pixel.orElse(usual.pixelMm()),
                noise.orElse(usual.noiseK()),
                frames.orElse(usual.framesPerS()),
                wanted.orElse(usual.wantedMm()));
        Given given = by.equals("wire") ? reckoned(asked, length, gauge, model) : asked;
        model.addAttribute("logged", open.job().bundle().supplyLog().isPresent());
        model.addAttribute(
                "page",
                InjectView.of(
                        open,
                        judge.joined(
                                open.job(),
                                open.job().row().rail(),
                                open.advice().now()),
                        given,
                        volts.map(OptionalDouble::of).orElse(OptionalDouble.empty()),
                        amps.map(OptionalDouble::of).orElse(OptionalDouble.empty()),
                        cameras.known(CAMERAS)));
        model.addAttribute("keeps", kept.map(given::isWith).orElse(false));
        return "inject";
    }

    private static Given reckoned(Given given, Optional<Double> length, String gauge, Model model) {
        model.addAttribute("length", length.map(given::text).orElse(""));
        model.addAttribute("gauge", gauge);
        try {
            return given.withWire(length.orElseThrow(() -> new InvalidMember("length", "is missing")), gauge);
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
        Optional<Double> none = Optional.empty();
        try {
            if (file.isEmpty() || file.getSize() > MOST_BYTES) {
                throw new InvalidMember("file", file.isEmpty() ? "is empty" : "is larger than 40 MB");
            }
            supplyFiles.keep(
                    number,
                    desk.open(number, principal).job().row().rail(),
                    new String(file.getBytes(), StandardCharsets.UTF_8),
                    Optional.ofNullable(file.getOriginalFilename()).orElse("supply.csv"),
                    leads,
                    clock,
                    Technician.name(principal));
        } catch (InvalidMember | BundleException bad) {
            model.addAttribute("problem", "Nothing was kept. " + bad.getMessage() + ".");
            return inject(
                    number,
                    Optional.of(leads),
                    none,
                    none,
                    none,
                    none,
                    none,
                    none,
                    none,
                    none,
                    none,
                    none,
                    "",
                    "",
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
