package ohmoscope.web.receive;

import java.io.IOException;
import java.util.List;
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
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** A telephone's camera for one job's pictures, when that is switched on. */
@Controller
class PhoneController {
    private static final String BY = "phone";

    private final Settings settings;
    private final JobFile jobs;
    private final PhoneLinks links;
    private final Pictures pictures;
    private final ServletWebServerApplicationContext server;

    PhoneController(
            Settings settings,
            JobFile jobs,
            PhoneLinks links,
            Pictures pictures,
            ServletWebServerApplicationContext server) {
        this.settings = settings;
        this.jobs = jobs;
        this.links = links;
        this.pictures = pictures;
        this.server = server;
    }

    /** The code for a telephone to read; each asking makes a new secret. */
    @GetMapping("/jobs/{number}/phone.svg")
    ResponseEntity<String> code(@PathVariable String number) {
        jobs.id(number);
        if (!settings.phone()) {
            throw new NotFoundException("Pictures by telephone are switched off.");
        }
        int port = server.getWebServer().getPort();
        return ResponseEntity.ok()
                .cacheControl(CacheControl.noStore())
                .contentType(MediaType.parseMediaType("image/svg+xml"))
                .body(links.code(number, Purpose.PICTURES, port, "/phone/"));
    }

    @GetMapping("/phone/{token}")
    String page(@PathVariable String token, @RequestParam(defaultValue = "0") int kept, Model model) {
        model.addAttribute("number", job(token));
        model.addAttribute("token", token);
        model.addAttribute("kept", kept);
        return "phone";
    }

    @PostMapping("/phone/{token}")
    String take(
            @PathVariable String token,
            @RequestParam List<MultipartFile> photos,
            @RequestParam(defaultValue = "") String caption)
            throws IOException {
        int kept = pictures.keep(jobs.id(job(token)), photos, caption, BY);
        return "redirect:/phone/" + token + "?kept=" + kept;
    }

    private String job(String token) {
        return links.job(token, Purpose.PICTURES)
                .filter(n -> settings.phone())
                .orElseThrow(
                        () -> new NotFoundException("This address has run out. Read the code at the bench again."));
    }
}
