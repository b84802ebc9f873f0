package ohmoscope.web.port;

import java.io.IOException;
import java.security.Principal;
import java.util.Optional;
import ohmoscope.web.job.OpenJobs;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;

/** A port by its pins. What is marked stands in the address; only a finding that is kept becomes evidence. */
@Controller
class PortController {
    private final OpenJobs openJobs;

    PortController(OpenJobs openJobs) {
        this.openJobs = openJobs;
    }

    /** @param ref the port; the first that the device is powered through when empty */
    @GetMapping("/jobs/{number}/port")
    String port(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String ref,
            @RequestParam(defaultValue = "") String marks,
            @RequestParam(defaultValue = "front") String view,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Optional<String> wanted = Optional.of(ref).filter(r -> !r.isBlank());
        model.addAttribute("page", PortView.of(open, open.tree(), wanted, marks, view.equals("pads")));
        return "port";
    }
}
