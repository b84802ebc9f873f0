package ohmoscope.web.proof;

import java.util.Locale;
import ohmoscope.core.board.Range;
import ohmoscope.core.diagnose.Acceptance;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.prove.Joints;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.JointWords;
import ohmoscope.web.kit.Words;
import ohmoscope.web.proof.HandBackView.TickLine;

/** The acceptance list in words. */
final class AcceptanceWords {
    private AcceptanceWords() {}

    static TickLine line(Acceptance.Tick tick) {
        return new TickLine(
                tick.state().name().toLowerCase(Locale.ROOT),
                what(tick),
                expected(tick),
                tick.by().map(AcceptanceWords::shown).orElse("not tried yet"),
                Texts.of("accept", tick.what()));
    }

    /** A joint of a part that was put in. */
    static TickLine line(String ref, Joints.Joint joint) {
        return new TickLine(
                joint.state().name().toLowerCase(Locale.ROOT),
                JointWords.where(ref, joint),
                JointWords.good(joint),
                JointWords.shown(joint),
                JointWords.why(joint));
    }

    private static String what(Acceptance.Tick tick) {
        String place = tick.place();
        return switch (tick.what()) {
            case SAME_POINT -> tick.like().map(Words::tested).orElse(place);
            case LOW_LIMIT -> "Supply on " + place + ", at a low limit";
            case FAR_END, NODE, OUTPUT -> "Volts on " + place + ", powered";
            case EACH_WAY_ROUND -> "Draw at " + place + ", plug both ways round";
            case ASKS_FOR_MORE -> "What " + place + " asks a charger for";
            case DRAW -> "The draw";
            case STARTS -> "It starts";
            case CHARGES -> "It charges, battery in";
        };
    }

    private static String expected(Acceptance.Tick tick) {
        return switch (tick.what()) {
            case SAME_POINT ->
                tick.expected()
                        .flatMap(r -> tick.like().map(read -> Words.range(r, read.mode())))
                        .orElse("");
            case LOW_LIMIT ->
                tick.expected()
                        .map(r -> "up to " + Eng.significant(r.high(), 3) + " V without reaching the limit")
                        .orElse("");
            case FAR_END, NODE, OUTPUT ->
                tick.expected().map(AcceptanceWords::volts).orElse("as the circuit says");
            case ASKS_FOR_MORE -> tick.expected().map(AcceptanceWords::volts).orElse("more than 5 V");
            case EACH_WAY_ROUND -> "the same both ways, no burst that ends in nothing";
            case DRAW, CHARGES -> "as its kind draws";
            case STARTS -> "to where its user works";
        };
    }

    private static String volts(Range range) {
        return Eng.significant(range.low(), 3) + "–" + Eng.significant(range.high(), 3) + " V";
    }

    private static String shown(Observation by) {
        if (by instanceof Inject inject) {
            return Eng.significant(inject.volts().orElse(0), 3) + " V, "
                    + Eng.prefixed(inject.amps().orElse(0), "A", 2);
        }
        return by instanceof Power || by instanceof Observation.Read ? Words.outcome(by) : Words.headline(by);
    }
}
