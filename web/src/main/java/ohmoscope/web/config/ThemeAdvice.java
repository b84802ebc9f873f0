package ohmoscope.web.config;

import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.ModelAttribute;

/** The chosen theme, known before the first paint. */
@ControllerAdvice
class ThemeAdvice {
    @ModelAttribute("theme")
    String theme(@CookieValue(name = "theme", defaultValue = "light") String theme) {
        return theme.equals("dim") ? "dim" : "light";
    }
}
