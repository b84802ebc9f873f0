package ohmoscope.web.parts;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.parts.Donor;
import ohmoscope.core.parts.NewOrDonor;
import ohmoscope.core.parts.StockLine;
import ohmoscope.core.parts.Tolerance;
import ohmoscope.core.parts.WantedPart;
import ohmoscope.web.kit.Eng;

/** What a part has to be, and how another would do, in words. */
final class WantedWords {
    private static final int MOST_SIBLINGS = 12;

    private WantedWords() {}

    /** A line each: kind and body, value with its source, how near it must come, rating, siblings. */
    static List<String> facts(WantedPart wanted, Optional<Tolerance> tolerance) {
        Part part = wanted.part();
        List<String> facts = new ArrayList<>();
        facts.add(part.kind().name().toLowerCase(Locale.ROOT)
                + (part.packageName().isEmpty() ? "" : ", " + part.packageName()) + ", body "
                + Eng.significant(part.wMm(), 2) + " × " + Eng.significant(part.hMm(), 2) + " mm");
        facts.add(
                switch (wanted.from()) {
                    case FILE -> wanted.value() + ", as the board's file says";
                    case SIBLINGS -> wanted.value() + ", as its siblings on the same net are";
                    case NOBODY -> "value not known: read it off a good board or a document, not off the broken part";
                });
        tolerance.ifPresent(t -> facts.add("within " + Eng.percent(t.share()) + " %" + why(t.why())));
        wanted.leastVolts()
                .ifPresent(volts -> facts.add("rated for " + Eng.significant(volts, 2) + " V or more"
                        + (wanted.railVolts().isPresent()
                                ? ": it stands on "
                                        + Eng.significant(wanted.railVolts().getAsDouble(), 2)
                                        + " V, and a ceramic keeps its value up to about half of its rating"
                                : "")));
        if (!wanted.siblings().isEmpty()) {
            int more = wanted.siblings().size() - MOST_SIBLINGS;
            facts.add("like it on the same net: "
                    + String.join(
                            ", ",
                            wanted.siblings()
                                    .subList(
                                            0,
                                            Math.min(
                                                    MOST_SIBLINGS,
                                                    wanted.siblings().size())))
                    + (more > 0 ? " and " + more + " more" : ""));
        }
        return facts;
    }

    private static String why(Tolerance.Why why) {
        return switch (why) {
            case STEADIES -> " does: it only steadies the rail";
            case TIMES -> ", and of a kind that keeps its value: it sets a time or a slope";
            case MEASURES -> ": current is measured across it";
            case DIVIDES -> ": it shares a voltage out, and a rail may be set by it";
            case PULLS -> " does: it pulls a line";
        };
    }

    /** Which of two schools suits it. */
    static String school(NewOrDonor which) {
        String better = switch (which.better()) {
            case NEW -> "Here rather new: ";
            case DONOR -> "Here rather from a donor: ";
            case EITHER -> "Here either: ";
        };
        return better
                + switch (which.why()) {
                    case PAIR -> "it works only with its partner, and both have to come off one board.";
                    case WEARS -> "contacts, fuses and switches wear, and a used one is half spent.";
                    case NO_TYPE -> "nobody knows what to order; the same place on the same revision has it.";
                    case CRACKS -> "it costs little, and one that was lifted may carry a crack that nobody sees.";
                    case HEATED -> "a donor's has been heated once more, a new one may be of another revision.";
                };
    }

    static String fit(WantedPart.Fit fit) {
        return switch (fit) {
            case SAME -> "the same";
            case STANDS_IN -> "does here: another value beside others on the rail";
            case NO -> "no";
        };
    }

    /** How it comes off there. */
    static String how(Donor donor) {
        List<String> words = new ArrayList<>();
        words.add(donor.side().name().toLowerCase(Locale.ROOT) + " side");
        words.add(
                donor.close() == 0
                        ? "stands free"
                        : donor.close() + (donor.close() == 1 ? " part" : " parts") + " within 2 mm");
        if (donor.underCan()) {
            words.add("under a can");
        }
        if (donor.besideSensitive()) {
            words.add("beside what must not get hot");
        }
        return String.join(", ", words);
    }

    static String of(StockLine line) {
        String rated = rated(line);
        return line.value()
                + (line.packageName().isEmpty() ? "" : ", " + line.packageName())
                + (rated.isEmpty() ? "" : ", " + rated);
    }

    /** What it is rated for; empty where nobody says. */
    static String rated(StockLine line) {
        return line.voltsRated().isPresent() ? Eng.significant(line.voltsRated().getAsDouble(), 2) + " V" : "";
    }
}
