package ohmoscope.web.kit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ohmoscope.core.board.InvalidMember;
import org.springframework.web.util.UriComponentsBuilder;

/**
 * A round over a board, place after place: what was passed over comes last, and travels in the address.
 *
 * @param skipped in the order in which they were passed over
 */
public record Round(List<String> skipped) {
    /** Characters. */
    private static final int MOST = 4_000;

    public Round {
        skipped = List.copyOf(skipped);
    }

    /** @param text as it stands in the address */
    public static Round of(String text) {
        return new Round(
                Arrays.stream(text.split(" ")).filter(w -> !w.isEmpty()).toList());
    }

    public Round passedOver(String place) {
        List<String> late = new ArrayList<>(skipped);
        late.remove(place);
        late.add(place);
        return new Round(late);
    }

    /**
     * As it stands in the address.
     *
     * @throws InvalidMember where more is passed over than a board has
     */
    public String text() {
        String text = String.join(" ", skipped);
        if (text.length() > MOST) {
            throw new InvalidMember("skipped", "is longer than a walk round any board");
        }
        return text;
    }

    /** @param page of the job, such as {@code survey} */
    public String redirect(String number, String page) {
        return "redirect:"
                + UriComponentsBuilder.fromPath("/jobs/{number}/{page}")
                        .queryParam("skipped", "{skipped}")
                        .encode()
                        .buildAndExpand(number, page, text())
                        .toUriString();
    }
}
