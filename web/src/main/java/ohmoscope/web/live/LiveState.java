package ohmoscope.web.live;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the page shows, all of it at once. Numbers that are not known are null, as JSON has it; words are ready to be read.
 *
 * @param doing {@code idle}, {@code checking}, {@code holding}, {@code walking}, {@code ends}, {@code powered}
 * @param words what is going on, or why nothing is
 * @param tone {@code plain}, {@code ok}, {@code look}, {@code bad}
 * @param set what the supply says it was set to
 * @param check what the contact check said
 */
record LiveState(
        String doing,
        String words,
        String tone,
        Shown shown,
        @Nullable Limits set,
        List<There> instruments,
        Steps steps,
        @Nullable Checked check,
        @Nullable Warm warm,
        Named named,
        @Nullable Walked walked,
        @Nullable Ends ends,
        @Nullable Powered powered,
        @Nullable ByEye byEye,
        List<String> kept) {
    /** What flows now. @param seconds since the output came on */
    record Shown(
            @Nullable Double volts,
            @Nullable Double amps,
            @Nullable Double ohms,
            @Nullable Double watts,
            boolean on,
            boolean limiting,
            @Nullable Double seconds,
            @Nullable Double meterVolts) {
        static final Shown NOTHING = new Shown(null, null, null, null, false, false, null, null);
    }

    /** @param over words about the supply's own protection */
    record Limits(double volts, double amps, String over) {}

    /** An instrument. @param state {@code ok}, {@code bad}, or {@code none} where the bench has none */
    record There(String role, String state, String words) {}

    /**
     * The ladder.
     *
     * @param at the step that the key takes, from 0
     * @param ready whether the key may be pressed
     */
    record Steps(List<Step> steps, int at, boolean ready) {}

    /** A step in words. */
    record Step(String set, String time, String sees, String until, boolean done) {}

    /** @param ok whether current may follow */
    record Checked(boolean ok, String words) {}

    /** Where it begins to warm, pixels. @param what {@code suspect}, {@code lead} or {@code other} */
    record Warm(double x, double y, double riseK, String what, String words) {}

    /**
     * A walk along the rail with the meter.
     *
     * @param asked the part to be read next; empty where all were
     * @param points what was read, the newest first
     * @param words who it is, where one stands alone
     */
    record Walked(String asked, List<String> points, List<Suspect> suspects, String words) {}

    /**
     * Current into both ends of a series part.
     *
     * @param lead where the hot lead goes now; empty where both ends were fed
     * @param net what it is on there
     * @param fed what each end showed
     * @param words what to do, or on which side it is
     */
    record Ends(String ref, String lead, String net, List<String> fed, String words) {}

    /**
     * The board under power.
     *
     * @param asked the net or connector that is wanted next
     * @param what {@code charger}, {@code point}, or {@code elsewhere} where the sheet goes on otherwise
     * @param should what it should stand at, in words; empty where nobody knows
     * @param volts what the meter shows
     * @param apart how far its last readings are from each other; null while they do not agree
     * @param trace what was drawn, in words
     */
    record Powered(
            String asked,
            String sentence,
            String why,
            String what,
            String should,
            @Nullable Double volts,
            @Nullable Double apart,
            @Nullable Verdict verdict,
            String trace) {}

    /**
     * Warmth without a camera.
     *
     * @param means {@code film}, {@code frost} or {@code finger}
     * @param marks what dried, thawed or felt warm, in that order, with its time
     */
    record ByEye(String means, String guide, List<String> marks) {}

    /** An entry with what it means here. @param mark as in the evidence */
    record Verdict(String headline, String meaning, String mark) {}

    /** Who it may be. @param seconds what the computation took @param words what the frames call */
    record Named(List<Suspect> suspects, double none, double elsewhere, String words, double seconds) {
        static final Named NOBODY = new Named(List.of(), 0, 0, "", 0);
    }

    /** A part with its probability, and where it is in the picture. */
    record Suspect(String ref, double probability) {}
}
