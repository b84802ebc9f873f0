package ohmoscope.web.settings;

import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.web.config.Technician;
import ohmoscope.web.store.SchoolStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Each technician's schools, with the reason of the default. */
@Controller
class SettingsController {
    private final SchoolStore schools;

    SettingsController(SchoolStore schools) {
        this.schools = schools;
    }

    /** One question on which practitioners differ. */
    record Question(String name, String asks, String reason, List<Choice> choices) {}

    /** One answer. */
    record Choice(String value, String words, boolean chosen) {}

    @GetMapping("/settings")
    String settings(Principal principal, Model model) {
        Schools now = schools.of(Technician.name(principal));
        List<Question> questions = new ArrayList<>();
        questions.add(question(
                "meter",
                "Reading an unpowered rail",
                "Diode mode by default: a good board's reading is sharper than its ohms, and a leaky junction shows.",
                now.meter(),
                "Diode mode",
                "Ohms"));
        questions.add(question(
                "lead",
                "Lead on ground, in diode mode",
                "Red by default: the chips' own junctions then conduct, which is what good boards' readings are kept for.",
                now.lead(),
                "Red",
                "Black"));
        questions.add(question(
                "proof",
                "Proving that a rail is shorted",
                "The meter first by default: it needs no current and takes a second. A supply at one volt says volts and "
                        + "amperes at a real current.",
                now.proof(),
                "Meter first",
                "Bench supply"));
        questions.add(question(
                "injection",
                "Putting current into a short",
                "Low and climb by default: never above nominal, and under 0.3 V nothing but the short conducts. The rail's "
                        + "own voltage shows partial shorts, but protection may hide them after a burst.",
                now.injection(),
                "Low, and climb",
                "The rail's voltage behind a limit"));
        questions.add(question(
                "port",
                "A port that looks whole, on a shorted rail",
                "Measure first by default: it saves a port. Touching pins always come off first, whatever is chosen.",
                now.port(),
                "Measure first",
                "Off first"));
        questions.add(question(
                "warmth",
                "Finding warmth",
                "The camera by default: no liquid near current, no finger near heat.",
                now.warmth(),
                "Thermal camera",
                "A film of alcohol (flammable: air moving, no flame, never petrol)",
                "A finger (a part can burn it within a second)",
                "Freezing spray (its propellant may burn; eyes and skin covered)"));
        questions.add(question(
                "memory",
                "What others of the model had",
                "Heard by default: proven jobs that were kept count as up to twelve cases beside the trade's own, make no fault "
                        + "more than five times as likely, and only choose what is read first. Off shows them and counts them "
                        + "for nothing.",
                now.memory(),
                "Heard",
                "Not heard"));
        model.addAttribute("questions", questions);
        return "settings";
    }

    private static Question question(String name, String asks, String reason, Enum<?> now, String... words) {
        List<Choice> choices = new ArrayList<>();
        Object[] all = now.getDeclaringClass().getEnumConstants();
        for (int i = 0; i < all.length; i++) {
            String value = ((Enum<?>) all[i]).name().toLowerCase(Locale.ROOT).replace('_', '-');
            choices.add(new Choice(value, words[i], all[i] == now));
        }
        return new Question(name, asks, reason, choices);
    }

    @PostMapping("/settings")
    String set(@RequestParam String name, @RequestParam String choice, Principal principal) {
        schools.set(Technician.name(principal), name, choice);
        return "redirect:/settings";
    }
}
