package ohmoscope.core.job;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ohmoscope.core.board.Check;
import ohmoscope.core.diagnose.Hypothesis.Code;

/**
 * A proven case as one shop may tell it to another: a board's name and revision, and what was wrong with it. Nothing of a
 * customer: of the complaint only words of a short list are kept.
 *
 * @param board name as its file has it
 * @param revision of it; may be empty
 * @param complaint words of {@link #words}, by spaces
 * @param code empty where only the part is known
 * @param ref the part or net that was it
 */
public record SharedCase(
        String board,
        String revision,
        Optional<String> rail,
        String complaint,
        Optional<Code> code,
        String ref,
        OptionalDouble ohms,
        OptionalDouble drawAmps) {
    private static final Set<String> KNOWN = Set.of(
            "battery",
            "black",
            "boot",
            "boots",
            "burnt",
            "button",
            "cable",
            "charge",
            "charger",
            "charges",
            "charging",
            "cold",
            "dark",
            "dead",
            "display",
            "dock",
            "drop",
            "dropped",
            "fall",
            "fell",
            "fuse",
            "heat",
            "hot",
            "light",
            "liquid",
            "no",
            "nothing",
            "not",
            "off",
            "overheats",
            "picture",
            "port",
            "power",
            "radio",
            "reset",
            "restart",
            "restarts",
            "screen",
            "short",
            "shorted",
            "silent",
            "slow",
            "smell",
            "smoke",
            "sound",
            "start",
            "starts",
            "storm",
            "touch",
            "warm",
            "water",
            "wet");
    private static final Pattern BETWEEN = Pattern.compile("[^\\p{L}]+");

    public SharedCase {
        Check.text("board", board);
        Check.text("ref", ref);
        complaint = words(complaint);
    }

    /** What of a complaint may be told: known words, each once, in their order in the alphabet. */
    public static String words(String complaint) {
        return BETWEEN
                .splitAsStream(complaint.toLowerCase(Locale.ROOT))
                .filter(KNOWN::contains)
                .collect(Collectors.toCollection(TreeSet::new))
                .stream()
                .collect(Collectors.joining(" "));
    }
}
