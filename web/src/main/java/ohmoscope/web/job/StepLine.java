package ohmoscope.web.job;

import java.util.List;

/**
 * The next step as a page shows it.
 *
 * @param act what its button does: {@code fill}, {@code lift}, {@code again}, {@code hand-back}, {@code none}, …
 * @param target what that is done to, or the line that is filled in
 */
public record StepLine(String sentence, String why, String act, String target, List<String> cautions) {
    public StepLine {
        cautions = List.copyOf(cautions);
    }
}
