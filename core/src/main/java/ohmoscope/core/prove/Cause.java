package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;

/**
 * What may have broken it, from what was said and seen. A rough judgement: how often each is the cause where nothing is known,
 * times a factor for each sign of it.
 *
 * @param probability of this cause; all of them sum to 1
 * @param signs what spoke for it
 */
public record Cause(Kind kind, double probability, Set<Sign> signs) {
    /** What breaks boards. The share is a bench's experience, where nobody has said or seen anything. */
    public enum Kind {
        AGE(0.45),
        SUPPLY(0.2),
        FORCE(0.15),
        LIQUID(0.12),
        EARLIER_WORK(0.08);

        private final double usual;

        Kind(double usual) {
            this.usual = usual;
        }
    }

    /** What speaks for a cause. */
    public enum Sign {
        SAID_LIQUID(Kind.LIQUID, 6),
        SEEN_LIQUID(Kind.LIQUID, 10),
        SAID_FALL(Kind.FORCE, 5),
        SEEN_FORCE(Kind.FORCE, 4),
        SAID_SUPPLY(Kind.SUPPLY, 5),
        SEEN_BURN(Kind.SUPPLY, 2.5),
        SAID_EARLIER_WORK(Kind.EARLIER_WORK, 8),
        SEEN_EARLIER_WORK(Kind.EARLIER_WORK, 6);

        private final Kind of;
        private final double factor;

        Sign(Kind of, double factor) {
            this.of = of;
            this.factor = factor;
        }
    }

    private static final Pattern LIQUID =
            Pattern.compile("\\b(wet|water|liquid|spill|coffee|tea|rain|damp|drown|soak|wash)");
    private static final Pattern FALL = Pattern.compile("\\b(drop|fell|fall|crush|bent|sat on|hit|knock)");
    private static final Pattern SUPPLY = Pattern.compile(
            "\\b(cheap|other charger|wrong charger|foreign|spark|surge|lightning|adapter|adaptor|cable)");
    private static final Pattern WORK =
            Pattern.compile("\\b(another shop|repaired|opened|replaced|earlier repair|soldered)");

    public Cause {
        signs = Set.copyOf(signs);
    }

    /** @param account the customer's words, and what was noted of earlier work @return most probable first */
    public static List<Cause> of(String account, List<Observation> observations) {
        Set<Sign> signs = EnumSet.noneOf(Sign.class);
        String said = account.toLowerCase(Locale.ROOT);
        said(said, LIQUID, Sign.SAID_LIQUID, signs);
        said(said, FALL, Sign.SAID_FALL, signs);
        said(said, SUPPLY, Sign.SAID_SUPPLY, signs);
        said(said, WORK, Sign.SAID_EARLIER_WORK, signs);
        for (Observation observation : observations) {
            if (observation instanceof Look look) {
                seen(look.finding(), signs);
            }
        }
        double sum = 0;
        double[] weights = new double[Kind.values().length];
        for (Kind kind : Kind.values()) {
            weights[kind.ordinal()] = kind.usual
                    * signs.stream()
                            .filter(s -> s.of == kind)
                            .mapToDouble(s -> s.factor)
                            .reduce(1, (a, b) -> a * b);
            sum += weights[kind.ordinal()];
        }
        List<Cause> causes = new ArrayList<>();
        for (Kind kind : Kind.values()) {
            Set<Sign> own = EnumSet.noneOf(Sign.class);
            signs.stream().filter(s -> s.of == kind).forEach(own::add);
            causes.add(new Cause(kind, weights[kind.ordinal()] / sum, own));
        }
        causes.sort(Comparator.comparingDouble(c -> -c.probability()));
        return causes;
    }

    private static void said(String account, Pattern words, Sign sign, Set<Sign> signs) {
        if (words.matcher(account).find()) {
            signs.add(sign);
        }
    }

    private static void seen(LookFinding finding, Set<Sign> signs) {
        switch (finding) {
            case WET_MARK, CORRODED -> signs.add(Sign.SEEN_LIQUID);
            case CHIPPED, LOOSE, PIN_BENT, PIN_MISSING, PINS_TOUCHING -> signs.add(Sign.SEEN_FORCE);
            case BURNT, HOLE -> signs.add(Sign.SEEN_BURN);
            case EARLIER_WORK -> signs.add(Sign.SEEN_EARLIER_WORK);
            default -> {}
        }
    }
}
