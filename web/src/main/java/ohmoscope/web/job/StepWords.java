package ohmoscope.web.job;

import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.prove.NextStep;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/** The next step in one sentence, with its reason and the cautions that belong to it. */
public final class StepWords {
    private StepWords() {}

    /** @param runs whether the device has been started since; else that is left */
    public static StepLine mended(Change repair, boolean runs, boolean hot) {
        return runs
                ? new StepLine(
                        Texts.of("next.mended.back"),
                        Texts.of("next.mended.back.why", Words.done(repair)),
                        "hand-back",
                        repair.target(),
                        Cautions.AMPS)
                : new StepLine(
                        Texts.of(hot ? "next.mended.start.hot" : "next.mended.start"),
                        Texts.of("next.mended.start.why", Words.done(repair)),
                        "fill",
                        "boots",
                        Cautions.AMPS);
    }

    /** Nothing that was read is wrong, and it works: it goes back as it is. */
    public static StepLine nothingFound() {
        return new StepLine(Texts.of("next.nothing"), Texts.of("next.nothing.why"), "hand-back", "", Cautions.AMPS);
    }

    public static StepLine of(NextStep step, String rail) {
        if (step instanceof NextStep.Lift s) {
            String keep = s.neighbour()
                    .map(n -> Texts.of("next.lift.keep-off", n.part().ref(), Eng.fixed(n.gapMm(), 1)))
                    .orElse("");
            return new StepLine(
                    Texts.of("next.lift", s.part().ref(), keep),
                    Texts.of(
                            "next.lift.why",
                            Eng.percent(s.probability()),
                            Words.of(s.part().kind())),
                    "lift",
                    s.part().ref(),
                    Cautions.HOT_AIR);
        }
        if (step instanceof NextStep.TurnOver s) {
            return new StepLine(
                    Texts.of("next.turn-over", Words.plain(s.first().side())),
                    Texts.of("next.turn-over.why", s.first().ref()),
                    "fill",
                    "warm ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.LookElsewhere s) {
            String there = s.there()
                    .map(p -> Texts.of("next.elsewhere.there", p.ref()))
                    .orElseGet(() -> Texts.of("next.elsewhere.nothing"));
            return new StepLine(
                    Texts.of("next.elsewhere", rail),
                    Texts.of(
                            "next.elsewhere.why",
                            Eng.fixed(s.at().xMm(), 1),
                            Eng.fixed(s.at().yMm(), 1),
                            Words.plain(s.at().side()),
                            rail,
                            there),
                    "none",
                    "",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.GoCloser s) {
            String both =
                    s.second().map(p -> Texts.of("next.closer.second", p.ref())).orElse("");
            return new StepLine(
                    Texts.of("next.closer", s.first().ref(), both),
                    Texts.of("next.closer.why"),
                    "fill",
                    "warm ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.CheckLeads) {
            return new StepLine(
                    Texts.of("next.leads"),
                    Texts.of("next.leads.why", rail),
                    "fill",
                    "inj " + rail + " 1V 2A ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.MorePower s) {
            return new StepLine(
                    Texts.of("next.more-power"),
                    Texts.of(
                            "next.more-power.why",
                            Eng.prefixed(s.watts(), "W", 2).toString()),
                    "fill",
                    "inj " + rail + " 1V ",
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.ReadAgain s) {
            return new StepLine(
                    Texts.of(s.after().heat() ? "next.read-again.hot" : "next.read-again", rail),
                    Texts.of(
                            "next.read-again.why",
                            Words.done(s.after()),
                            s.before()
                                    .map(b -> Texts.of("next.read-again.before", Words.value(b)))
                                    .orElse("")),
                    "again",
                    s.after().target(),
                    Texts.all("read-again"));
        }
        if (step instanceof NextStep.StillThere s) {
            return new StepLine(
                    Texts.of("next.still-there", putBack(s.after())),
                    Texts.of("next.still-there.why"),
                    "again",
                    s.after().target(),
                    Cautions.AMPS);
        }
        if (step instanceof NextStep.LetCool) {
            return new StepLine(Texts.of("next.cool"), Texts.of("next.cool.why"), "again", "", Texts.all("cool"));
        }
        if (step instanceof NextStep.HandBack s) {
            return new StepLine(
                    Texts.of(s.runs() ? "next.clear.back" : "next.clear.prove", rail),
                    Texts.of("next.clear.why", s.repair().target(), s.runs() ? "" : Texts.of("next.clear.low-limit")),
                    s.runs() ? "hand-back" : "fill",
                    s.runs() ? s.repair().target() : "boots",
                    Cautions.AMPS);
        }
        return new StepLine(Texts.of("next.image"), Texts.of("next.image.why"), "none", "", Cautions.AMPS);
    }

    private static String putBack(Change change) {
        return switch (change.action()) {
            case REMOVED -> Texts.of("next.still-there.put-back", change.target());
            case DISCONNECTED, SEPARATED -> Texts.of("next.still-there.innocent", change.target());
            default -> "";
        };
    }
}
