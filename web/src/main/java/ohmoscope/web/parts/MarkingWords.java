package ohmoscope.web.parts;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.parts.Marking;
import ohmoscope.core.parts.WantedPart;
import ohmoscope.web.kit.Eng;

/** What is printed on a part, in words, and whether the board's file says the same. */
final class MarkingWords {
    private static final int MOST_PRINTED = 40;

    /** As near as two ways of writing one value come. */
    private static final double SAME = 0.01;

    private MarkingWords() {}

    /** A line for each reading; empty when nothing was typed. */
    static List<String> of(WantedPart wanted, String typed) {
        String printed = typed.strip();
        if (printed.isEmpty()) {
            return List.of();
        }
        PartKind kind = wanted.part().kind();
        List<Marking> read = printed.length() > MOST_PRINTED ? List.of() : Marking.of(kind, printed);
        if (read.isEmpty()) {
            return List.of(notRead(kind));
        }
        List<String> lines = new ArrayList<>();
        read.forEach(m -> lines.add(words(m, kind)));
        file(wanted, kind).ifPresent(ours -> {
            if (read.stream().noneMatch(m -> Math.abs(m.value() - ours) <= SAME * ours)) {
                lines.add(
                        "The board's file says " + wanted.value()
                                + ": not the same. Another revision, an earlier repair, or misread: look at a second part like it.");
            }
        });
        wanted.leastVolts()
                .ifPresent(least -> read.stream()
                        .filter(m -> m.volts().isPresent() && m.volts().getAsDouble() < least)
                        .findFirst()
                        .ifPresent(m -> lines.add("What was fitted bears less than the " + Eng.significant(least, 2)
                                + " V asked for above: take the higher rating.")));
        return lines;
    }

    private static OptionalDouble file(WantedPart wanted, PartKind kind) {
        return switch (kind) {
            case RESISTOR -> PartValue.ohms(wanted.value());
            case CAPACITOR -> PartValue.farads(wanted.value());
            default -> OptionalDouble.empty();
        };
    }

    private static String words(Marking m, PartKind kind) {
        String value = m.way() == Marking.Way.LINK
                ? "A link, 0 Ω"
                : Eng.prefixed(
                                m.value(),
                                switch (kind) {
                                    case CAPACITOR -> "F";
                                    case INDUCTOR -> "H";
                                    default -> "Ω";
                                })
                        .toString();
        return (m.upsideDown() ? "Turned round: " : "")
                + value
                + (m.tolerance().isPresent()
                        ? ", within " + Eng.percent(m.tolerance().getAsDouble())
                        : "")
                + (m.volts().isPresent() ? ", " + Eng.significant(m.volts().getAsDouble(), 2) + " V" : "")
                + ": "
                + way(m.way())
                + ".";
    }

    private static String way(Marking.Way way) {
        return switch (way) {
            case LINK -> "noughts only";
            case THREE_DIGITS -> "two figures and how many noughts follow";
            case FOUR_DIGITS -> "three figures and how many noughts follow";
            case LETTER_AS_POINT -> "the letter is the point";
            case SERIES_96 -> "a number of the 96-series and a letter for the power of ten";
            case PLAIN -> "as printed";
        };
    }

    private static String notRead(PartKind kind) {
        return switch (kind) {
            case RESISTOR, INDUCTOR ->
                "That cannot be read as a value. Small ones carry none: measure a sibling, lifted at one end.";
            case CAPACITOR ->
                "That cannot be read as a value. Ceramic ones carry none: measure a sibling that is lifted, or a document.";
            default ->
                "Letters on a " + kind.name().toLowerCase(Locale.ROOT)
                        + " are its maker's own, and the same ones stand on different parts: look the code up together with the body and the pins, in two places.";
        };
    }
}
