package ohmoscope.core.job;

import java.util.Optional;
import ohmoscope.core.board.Check;

/**
 * The hunt for one fault: on one rail, with an injection, captures and a proof of its own.
 *
 * @param number 1 for the job's first
 * @param statedRail what somebody said that it is about, empty where the evidence has to tell
 */
public record Hunt(int number, Optional<String> statedRail) {
    public static final Hunt FIRST = new Hunt(1, Optional.empty());

    public Hunt {
        Check.within("hunt", number, 1, 99);
        statedRail.ifPresent(r -> Check.text("rail", r));
    }
}
