package ohmoscope.web.logbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.CasesJson;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.Technician;
import ohmoscope.web.store.ExperienceStore;
import ohmoscope.web.store.OthersStore;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Proven cases as a file for other shops, and theirs for this one. */
@Controller
class CasesController {
    private static final int MOST_BYTES = 20_000_000;
    private static final int MOST_NAME = 120;

    private final ExperienceStore own;
    private final OthersStore others;

    CasesController(ExperienceStore own, OthersStore others) {
        this.own = own;
        this.others = others;
    }

    @GetMapping("/logbook/cases.json")
    ResponseEntity<byte[]> cases() {
        return Download.of("cases.json", MediaType.APPLICATION_JSON, CasesJson.write(own.told()));
    }

    @PostMapping("/logbook/cases")
    String takeIn(
            @RequestParam MultipartFile file,
            @RequestParam String name,
            @RequestParam double weight,
            Principal principal)
            throws IOException {
        String whose = name.strip();
        if (whose.isEmpty() || whose.length() > MOST_NAME) {
            throw new InvalidMember("name", "must say in 1 to " + MOST_NAME + " characters whose cases they are");
        }
        if (!(weight > 0 && weight <= 1)) {
            throw new InvalidMember("weight", "must be above 0 and 1 at most, was " + weight);
        }
        if (file.getSize() > MOST_BYTES) {
            throw new InvalidMember("file", "is larger than " + MOST_BYTES / 1_000_000 + " MB");
        }
        String json = new String(file.getBytes(), StandardCharsets.UTF_8);
        String called = file.getOriginalFilename() == null ? "cases.json" : file.getOriginalFilename();
        others.takeIn(whose, weight, CasesJson.read(json, called), Technician.name(principal));
        return "redirect:/logbook/numbers";
    }

    @PostMapping("/logbook/cases/forget")
    String forget(@RequestParam String name) {
        others.forget(name);
        return "redirect:/logbook/numbers";
    }
}
