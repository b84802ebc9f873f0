package ohmoscope.web.job;

import java.util.List;
import java.util.Locale;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.prove.NextStep;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/** The next step in one sentence, with its reason and the cautions that belong to it. */
public final class StepWords {
    private StepWords() {}

    /** @param runs whether the device has been started since; else that is left */
    public static StepLine mended(Change repair, boolean runs, boolean hot) {
        return runs
                ? new StepLine(
                        "All that was wrong is right again. Hand it back.",
                        Words.done(repair) + ", and every test that failed before has passed since.",
                        "hand-back",
                        repair.target(),
                        Cautions.AMPS)
                : new StepLine(
                        (hot ? "Let the board cool. Then put" : "Put")
                                + " it together, start it, and say how it behaves.",
                        "Every reading that was wrong is right since " + Words.done(repair)
                                + ". Ask for what was unplugged before you suspect the repair.",
                        "fill",
                        "boots",
                        Cautions.AMPS);
    }

    /** Nothing that was read is wrong, and it works: it goes back as it is. */
    public static StepLine nothingFound() {
        return new StepLine(
                "No fault is found, and the device works. Hand it back.",
                "Every reading is as a good board's or low by design, and the draw is normal.",
                "hand-back",
                "",
                Cautions.AMPS);
    }

    public static StepLine of(NextStep step, String rail) {
        if (step instanceof NextStep.Lift s) {
            String keep = s.neighbour()
                    .map(n -> String.format(
                            Locale.ROOT,
                            " Keep the air off %s, %.1f mm away.",
                            n.part().ref(),
                            n.gapMm()))
                    .orElse("");
            return new StepLine(
                    "Lift " + s.part().ref() + "." + keep,
                    "The frames call it at " + Eng.percent(s.probability()) + " %. A wrong lift costs one "
                            + Words.of(s.part().kind()) + ".",
                    "lift",
                    s.part().ref(),
                    Cautions.HOT_AIR);
        }
        if (step instanceof NextStep.TurnOver s) {
            return new StepLine(
                    "Turn the board over and look at the "
                            + Words.plain(s.first().side()) + " side.",
                    "The heat reaches this side late and spread out: it starts on the other. "
                            + s.first().ref() + " is the likeliest there.",
                    "fill",
                    "warm ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.LookElsewhere s) {
            String there =
                    s.there().map(p -> ": " + p.ref() + " stands there").orElse(", and nothing else stands there");
            return new StepLine(
                    "Find out what warms off " + rail + ".",
                    String.format(
                                    Locale.ROOT,
                                    "The heat starts at %.1f, %.1f mm (%s), where no part of " + rail + " stands",
                                    s.at().xMm(),
                                    s.at().yMm(),
                                    Words.plain(s.at().side()))
                            + there
                            + ". Check the registration, and what else the injection feeds, before anything is lifted.",
                    "none",
                    "",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.GoCloser s) {
            String both = s.second().map(p -> " and " + p.ref()).orElse("");
            return new StepLine(
                    "Go closer to " + s.first().ref() + both + ".",
                    "The place is known, the part is not yet: look again from half the distance, or pulse the supply, and say which is warm.",
                    "fill",
                    "warm ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.CheckLeads) {
            return new StepLine(
                    "Check where the probes sit.",
                    "Leads and series parts explain the whole resistance. Set the hot lead on the live end of a " + rail
                            + " capacitor, and look again.",
                    "fill",
                    "inj " + rail + " 1V 2A ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.MorePower s) {
            return new StepLine(
                    "Raise the current and look again.",
                    "Nothing stands out of the noise at " + Eng.prefixed(s.watts(), "W", 2)
                            + ". Four times the heat needs twice the current.",
                    "fill",
                    "inj " + rail + " 1V ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.ReadAgain s) {
            return new StepLine(
                    s.after().heat() ? "Let it cool, then read " + rail + " again." : "Read " + rail + " again.",
                    "Same point, same mode as before " + Words.done(s.after())
                            + s.before().map(b -> ": it read " + Words.value(b)).orElse("") + ".",
                    "again",
                    s.after().target(),
                    List.of("Battery still out. Wait until a finger can rest on the board."));
        }
        if (step instanceof NextStep.StillThere s) {
            return new StepLine(
                    "The short is still there." + putBack(s.after()),
                    "The same reading has not moved. Inject and look again: the next suspect, or a second fault.",
                    "again",
                    s.after().target(),
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.LetCool) {
            return new StepLine(
                    "Let the board cool and read once more.",
                    "The reading has moved but is not in range. A warm board reads low; a second, weaker short would too.",
                    "again",
                    "",
                    List.of("Wait until a finger can rest on the board."));
        }
        if (step instanceof NextStep.HandBack s) {
            return new StepLine(
                    s.runs()
                            ? rail + " is clear and the device works. Hand it back."
                            : rail
                                    + " is clear. Prove it under power: put it together, start it, and say how it behaves.",
                    s.repair().target() + " was the fault: the same reading is in range."
                            + (s.runs()
                                    ? ""
                                    : " Supply at a low limit first: milliamps, not amps. Then outside power without the battery, then with it."),
                    s.runs() ? "hand-back" : "fill",
                    s.runs() ? s.repair().target() : "boots",
                    Cautions.AMPS);
        }
        return new StepLine(
                "Image the board while you inject.",
                "No frames have been looked into yet. Drop a bundle with a thermal capture on the shelf.",
                "none",
                "",
                Cautions.AMPS);
    }

    private static String putBack(Change change) {
        return switch (change.action()) {
            case REMOVED -> " Put " + change.target() + " back if it was whole.";
            case DISCONNECTED, SEPARATED -> " " + change.target() + " is not to blame: plug it back later.";
            default -> "";
        };
    }
}
