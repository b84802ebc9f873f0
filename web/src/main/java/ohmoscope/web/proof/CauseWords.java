package ohmoscope.web.proof;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import ohmoscope.core.prove.Cause;
import ohmoscope.core.prove.Chain;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/** What may have broken it, in a sentence or two. */
final class CauseWords {
    /** What is less likely is not said. */
    private static final double LEAST = 0.2;

    private CauseWords() {}

    static String of(List<Cause> causes) {
        boolean nothingKnown = causes.stream().allMatch(c -> c.signs().isEmpty());
        if (nothingKnown) {
            return "Nothing was said or seen that tells; parts like this mostly fail by age.";
        }
        return causes.stream()
                .filter(c -> c.probability() >= LEAST)
                .map(c -> kind(c.kind()) + ", " + Eng.percent(c.probability()) + " %" + signs(c))
                .collect(Collectors.joining("; ", "", ". From what was said and seen, no proof."));
    }

    /** How one thing led to the other; what nobody saw is left out. */
    static String chain(Chain chain) {
        List<String> links = new ArrayList<>();
        String ref = chain.part().ref();
        String broke = chain.shorts() ? chain.ceramic() ? "broke down" : "failed" : "let nothing through";
        links.add(chain.cause()
                .map(kind -> switch (kind) {
                    case AGE -> "age or a flaw of its own: " + ref + " " + broke;
                    case SUPPLY -> "a charger, a cable or a surge, and " + ref + " " + broke;
                    case FORCE -> "a fall or force, and " + ref + " " + broke;
                    case LIQUID -> "liquid got in, and " + ref + " " + broke;
                    case EARLIER_WORK -> "earlier work on the board, and " + ref + " " + broke;
                })
                .orElse(ref + " " + broke));
        if (!chain.down().isEmpty()) {
            links.add(String.join(", ", chain.down()) + (chain.shorts() ? " was shorted to ground" : " got nothing"));
        }
        if (!chain.dark().isEmpty()) {
            links.add("so " + String.join(", ", chain.dark()) + " stayed without voltage");
        }
        chain.drew().ifPresent(p -> links.add("the " + Words.plain(p.from()) + " showed " + Words.outcome(p)));
        chain.showed().ifPresent(r -> links.add("and the device: " + Words.outcome(r)));
        return links.size() < 2 ? "" : String.join("; ", links) + ".";
    }

    private static String signs(Cause cause) {
        return cause.signs().isEmpty()
                ? ""
                : cause.signs().stream().sorted().map(CauseWords::sign).collect(Collectors.joining(", ", " (", ")"));
    }

    private static String kind(Cause.Kind kind) {
        return switch (kind) {
            case AGE -> "Age or a flaw of the part";
            case SUPPLY -> "A charger, a cable or a surge";
            case FORCE -> "A fall or force";
            case LIQUID -> "Liquid";
            case EARLIER_WORK -> "Earlier work on the board";
        };
    }

    private static String sign(Cause.Sign sign) {
        return switch (sign) {
            case SAID_LIQUID -> "liquid was mentioned";
            case SEEN_LIQUID -> "marks or corrosion were seen";
            case SAID_FALL -> "a fall or force was mentioned";
            case SEEN_FORCE -> "bent, loose or chipped parts were seen";
            case SAID_SUPPLY -> "a charger or cable was mentioned";
            case SEEN_BURN -> "burns were seen";
            case SAID_EARLIER_WORK -> "earlier work was mentioned";
            case SEEN_EARLIER_WORK -> "earlier work was seen";
        };
    }
}
