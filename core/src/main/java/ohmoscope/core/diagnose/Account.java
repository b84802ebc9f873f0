package ohmoscope.core.diagnose;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What the customer's words say happened, read with their negations: "not hot" is not hot, and an indicator that stayed
 * white met no liquid.
 *
 * @param hot it got warm, smoked or smelled
 * @param cable a cable, an adapter or its plug had part in it
 * @param wet it met a liquid
 * @param hurtPort the port was seen to be hurt
 */
record Account(boolean hot, boolean cable, boolean wet, boolean hurtPort) {
    private static final Pattern HOT = words("hot|warm|smok(?:e|ed|ing)|burn(?:t|ed|ing|s)?|smell(?:s|ed)?");
    private static final Pattern CABLE = words("cables?|adapter|charger lead|sparks?|sparked|plug(?:ged)?");
    private static final Pattern WET = words(
            "wet|liquids?|water|flood(?:ed)?|rain(?:ed)?|spill(?:s|ed)?|spilt|sea|wash(?:ed)?|dropped in|corro(?:ded|sion)");
    private static final Pattern HURT_PORT = Pattern.compile(
            "\\b(?:port|jack|socket)\\b[^.;]{0,30}\\b(?:crushed|mangled|bent|broken|loose|melted)\\b"
                    + "|\\bpin\\b[^.;]{0,30}\\b(?:port|jack|socket)\\b",
            Pattern.CASE_INSENSITIVE);
    /** Within the same clause, up to four words before. */
    private static final Pattern NEGATED = Pattern.compile(
            "(?i)\\b(?:not|no|never|without|nothing|neither|nor|(?:is|was|did|does|has|had)n['’]?t)\\b(?:\\s+[\\w'’-]+){0,4}\\s*$");

    private static final Pattern NEGATION = Pattern.compile("(?i)\\b(?:not|no|never|without)\\b");
    /** Liquid indicators that have not turned. */
    private static final Pattern DRY =
            Pattern.compile("(?i)\\bindicators?\\b[^.;]{0,20}\\b(?:white|clean|dry|untouched|not turned)\\b");

    private static Pattern words(String of) {
        return Pattern.compile("\\b(?:" + of + ")\\b", Pattern.CASE_INSENSITIVE);
    }

    static Account of(String words) {
        boolean dry = DRY.matcher(words).find();
        return new Account(said(HOT, words), said(CABLE, words), !dry && said(WET, words), said(HURT_PORT, words));
    }

    /** Whether it is said at least once without a negation before it. */
    private static boolean said(Pattern pattern, String words) {
        Matcher matcher = pattern.matcher(words);
        while (matcher.find()) {
            if (!NEGATION.matcher(matcher.group()).find()
                    && !NEGATED.matcher(clause(words.substring(0, matcher.start())))
                            .find()) {
                return true;
            }
        }
        return false;
    }

    private static String clause(String before) {
        int start = 0;
        for (int i = 0; i < before.length(); i++) {
            if (",.;:".indexOf(before.charAt(i)) >= 0) {
                start = i + 1;
            }
        }
        return before.substring(start);
    }
}
