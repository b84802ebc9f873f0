package ohmoscope.web.config;

import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.ModelAttribute;

/** The chosen theme, known before the first paint; empty while nobody has chosen, and the system's wish counts. */
@ControllerAdvice
class ThemeAdvice {
    @ModelAttribute("theme")
    String theme(@CookieValue(name = "theme", defaultValue = "") String theme) {
        return theme.equals("dim") || theme.equals("light") ? theme : "";
    }
}
