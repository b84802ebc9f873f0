package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Power;

/** What the draw has shown that no meter had: it was far too much, something was taken off, and it is right. */
final class Relief {
    private Relief() {}

    /** What went between the last draw that was too much and the one after it that is right; empty where that is not so. */
    static List<String> of(Timeline timeline) {
        List<String> gone = new ArrayList<>();
        List<String> relieved = List.of();
        boolean tooMuch = false;
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Change change && tooMuch && Repair.takesAway(change.action())) {
                gone.add(change.target());
            } else if (moment.observation() instanceof Power power) {
                Draw draw = Draw.of(timeline.board(), timeline.tree(), power).orElse(Draw.UNCLEAR);
                if (draw == Draw.EXCESSIVE || draw == Draw.PULSING) {
                    tooMuch = true;
                    gone.clear();
                    relieved = List.of();
                } else if (draw == Draw.NORMAL && tooMuch) {
                    relieved = List.copyOf(gone);
                    tooMuch = false;
                }
            }
        }
        return relieved;
    }
}
