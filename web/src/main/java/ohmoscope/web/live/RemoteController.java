package ohmoscope.web.live;

import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Settings;
import ohmoscope.web.phone.PhoneLinks;
import ohmoscope.web.phone.PhoneLinks.Purpose;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** A telephone as the held key of a bench that is open on a page. */
@Controller
class RemoteController {
    private final Settings settings;
    private final JobFile jobs;
    private final PhoneLinks links;
    private final ServletWebServerApplicationContext server;

    RemoteController(Settings settings, JobFile jobs, PhoneLinks links, ServletWebServerApplicationContext server) {
        this.settings = settings;
        this.jobs = jobs;
        this.links = links;
        this.server = server;
    }

    /** The code for a telephone to read; each asking makes a new secret. */
    @GetMapping("/jobs/{number}/live/remote.svg")
    ResponseEntity<String> code(@PathVariable String number) {
        jobs.id(number);
        if (!settings.phone()) {
            throw new NotFoundException("Telephones are switched off.");
        }
        int port = server.getWebServer().getPort();
        return ResponseEntity.ok()
                .cacheControl(CacheControl.noStore())
                .contentType(MediaType.parseMediaType("image/svg+xml"))
                .body(links.code(number, Purpose.REMOTE, port, "/phone/remote/"));
    }

    @GetMapping("/phone/remote/{token}")
    String page(@PathVariable String token, Model model) {
        String number = links.job(token, Purpose.REMOTE)
                .filter(n -> settings.phone())
                .orElseThrow(
                        () -> new NotFoundException("This address has run out. Read the code at the bench again."));
        model.addAttribute("number", number);
        model.addAttribute("token", token);
        return "remote";
    }
}
