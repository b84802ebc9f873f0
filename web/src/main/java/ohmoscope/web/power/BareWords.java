package ohmoscope.web.power;

import ohmoscope.core.prove.BareStart;
import ohmoscope.core.prove.BareStart.What;

/** What a board needs to start bare, in words. */
final class BareWords {
    private BareWords() {}

    /** @param mark bad where it is needed and out, look where it is in and better out */
    record Line(String ref, String name, String need, String why, String now, String mark) {}

    static Line line(BareStart.Item item) {
        What what = item.what();
        boolean power = what == What.POWER;
        return new Line(
                item.ref(),
                item.name(),
                switch (what.need()) {
                    case NEEDED -> "needed";
                    case HELPS -> "helps";
                    case LEAVE_OUT -> "leave it out";
                },
                why(what),
                power ? "" : item.in() ? "in" : "out",
                switch (what.need()) {
                    case NEEDED -> power || item.in() ? "ok" : "bad";
                    case HELPS -> "ok";
                    case LEAVE_OUT -> item.in() ? "look" : "ok";
                });
    }

    private static String why(What what) {
        return switch (what) {
            case POWER -> "one source, limited, at its own voltage";
            case BATTERY_ALONE -> "nothing else feeds this board; a bench supply with a limit in its place is safer";
            case MEMORY -> "without it a board takes power and shows nothing";
            case BUTTON -> "or its two pads touched together for a moment";
            case PICTURE -> "its light tells that it got that far; the current's steps tell it as well";
            case COOLING -> "some stop within seconds without; a heat spreader stays on the processor in any case";
            case BACKUP_CELL -> "some will not start on an empty one";
            case BATTERY -> "it starts from outside without; one source less to go wrong";
            case STORAGE -> "not needed to start, and what is on it stays out of harm";
            case OTHER -> "not needed to start";
        };
    }
}
