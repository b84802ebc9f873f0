package ohmoscope.web.isolate;

import java.util.List;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.prove.Parting;
import ohmoscope.web.isolate.IsolateController.CutLine;
import ohmoscope.web.kit.Eng;

/** A way of parting a rail, in words. */
final class PartingWords {
    private static final int MOST_NAMED = 4;

    private PartingWords() {}

    static CutLine line(Parting.Cut cut) {
        String target = cut.target();
        return switch (cut.means()) {
            case UNPLUG ->
                new CutLine(
                        "Unplug " + target,
                        "it is what hangs on " + target + ", " + percent(cut.share()),
                        "it is on the board",
                        minutes(cut),
                        "unplugged " + target);
            case LIFT ->
                new CutLine(
                        "Lift " + target,
                        named(cut.beyond()) + ", " + percent(cut.share()),
                        named(cut.here()),
                        minutes(cut),
                        "removed " + target);
            case SEPARATE -> {
                String half = target.substring(Change.STACK.length());
                yield new CutLine(
                        "Take the " + half + " board off",
                        named(cut.beyond()) + ", " + percent(cut.share()),
                        named(cut.here()),
                        minutes(cut),
                        "separated " + half);
            }
        };
    }

    private static String named(List<String> refs) {
        if (refs.isEmpty()) {
            return "none of the suspects";
        }
        if (refs.size() == 1) {
            return refs.get(0);
        }
        int more = refs.size() - MOST_NAMED;
        return "one of " + String.join(", ", refs.subList(0, Math.min(MOST_NAMED, refs.size())))
                + (more > 0 ? " and " + more + " more" : "");
    }

    private static String percent(double share) {
        return Eng.percent(share) + " %";
    }

    private static String minutes(Parting.Cut cut) {
        return Eng.fixed(cut.bits(), 2) + " bit in " + Eng.significant(cut.minutes(), 2) + " min";
    }
}
