package ohmoscope.web.inject;

import java.io.IOException;
import java.security.Principal;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation.Inject;
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

/** The injection ladder. */
@Controller
class InjectController {
    private static final int CAMERAS = 6;

    private final Desk desk;
    private final Judge judge;
    private final CameraStore cameras;
    private final MeansStore means;

    InjectController(Desk desk, Judge judge, CameraStore cameras, MeansStore means) {
        this.desk = desk;
        this.judge = judge;
        this.cameras = cameras;
        this.means = means;
    }

    /**
     * @param leads ohms of both leads; what the last injection said, else what the technician keeps, else usual ones
     * @param volts a setting to try out
     * @param amps its limit
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
        Given given = new Given(
                leads.orElse(measured.orElse(usual.leadOhms())),
                rated.orElse(usual.leadRatedA()),
                mostV.orElse(usual.mostV()),
                mostA.orElse(usual.mostA()),
                pixel.orElse(usual.pixelMm()),
                noise.orElse(usual.noiseK()),
                frames.orElse(usual.framesPerS()),
                wanted.orElse(usual.wantedMm()));
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
