package ohmoscope.web.photomap;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.Side;
import ohmoscope.web.store.PhotoStore;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.thymeleaf.context.LazyContextVariable;

/** The photograph under every picture of a board that has one, whichever page shows it. */
@ControllerAdvice
class UnderlayAdvice {
    private static final Pattern JOB = Pattern.compile("/jobs/([A-Za-z0-9._-]{1,40})(?:/.*)?");
    private static final Pattern BOARD = Pattern.compile("/boards/(\\d{1,15})");

    private final PhotoStore photos;

    UnderlayAdvice(PhotoStore photos) {
        this.photos = photos;
    }

    /** Addresses by the side's name; worked out only where a page shows a board. */
    @ModelAttribute("underlay")
    LazyContextVariable<Map<String, String>> underlay(HttpServletRequest request) {
        String path = request.getServletPath();
        return new LazyContextVariable<>() {
            @Override
            protected Map<String, String> loadValue() {
                return addresses(path);
            }
        };
    }

    private Map<String, String> addresses(String path) {
        Matcher job = JOB.matcher(path);
        Matcher board = BOARD.matcher(path);
        Map<Side, Long> sides = job.matches()
                ? photos.sidesOfJob(job.group(1))
                : board.matches() ? photos.sidesOfBoard(Long.parseLong(board.group(1))) : Map.of();
        Map<String, String> addresses = new TreeMap<>();
        sides.forEach((side, id) -> addresses.put(side.name(), "/boards/" + id + "/photo/" + side + ".jpg"));
        return addresses;
    }
}
