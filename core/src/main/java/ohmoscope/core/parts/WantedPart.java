package ohmoscope.core.parts;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;

/**
 * What has to be put in a part's place, as far as its board tells.
 *
 * @param value as printed; empty where neither the file nor a sibling says it
 * @param railVolts the highest nominal voltage that it stands on
 * @param leastVolts what a capacitor must be rated for at least, a usual class; empty for other parts and unknown rails
 * @param siblings parts of its kind and body on the same net, by reference
 */
public record WantedPart(
        Part part,
        String value,
        ValueFrom from,
        OptionalDouble railVolts,
        OptionalDouble leastVolts,
        List<String> siblings) {
    /** Who says its value. */
    public enum ValueFrom {
        FILE,
        SIBLINGS,
        NOBODY
    }

    /** How well another part would do. */
    public enum Fit {
        SAME,
        /** Another value or a higher rating that does here. */
        STANDS_IN,
        NO
    }

    /** A ceramic capacitor keeps most of its value up to about half of its rating. */
    private static final double DERATING = 2;

    private static final double[] CLASSES = {4, 6.3, 10, 16, 25, 35, 50, 63, 100, 250, 450, 630};
    /** Bodies of one size differ by this much from file to file, share. */
    private static final double SAME_BODY = 0.2;
    /** A bypass capacitor among others may have from so much of the value to so much. */
    private static final double LEAST_SHARE = 0.8;

    private static final double MOST_SHARE = 2.5;

    public WantedPart {
        siblings = List.copyOf(siblings);
    }

    public static WantedPart of(Board board, Part part) {
        List<Part> alike = siblings(board, part);
        Set<String> values =
                alike.stream().map(Part::value).filter(v -> !v.isBlank()).collect(Collectors.toSet());
        boolean own = !part.value().isBlank();
        String value =
                own ? part.value() : values.size() == 1 ? values.iterator().next() : "";
        ValueFrom from = own ? ValueFrom.FILE : value.isEmpty() ? ValueFrom.NOBODY : ValueFrom.SIBLINGS;
        OptionalDouble rail = part.pins().stream()
                .flatMap(p -> board.net(p.net()).stream())
                .filter(n -> n.kind() == NetKind.POWER)
                .map(Net::nominalVolts)
                .filter(OptionalDouble::isPresent)
                .mapToDouble(OptionalDouble::getAsDouble)
                .max();
        return new WantedPart(
                part,
                value,
                from,
                rail,
                least(part, rail),
                alike.stream().map(Part::ref).toList());
    }

    private static OptionalDouble least(Part part, OptionalDouble rail) {
        if (part.kind() != PartKind.CAPACITOR) {
            return OptionalDouble.empty();
        }
        // What was fitted was chosen by who designed it, and may be more than the rail asks for.
        double asked = Math.max(part.voltsRated().orElse(0), rail.isPresent() ? DERATING * rail.getAsDouble() : 0);
        for (double usual : CLASSES) {
            if (asked > 0 && usual >= asked - 1e-9) {
                return OptionalDouble.of(usual);
            }
        }
        return OptionalDouble.empty();
    }

    private static List<Part> siblings(Board board, Part part) {
        Set<String> nets = part.pins().stream().map(Pin::net).collect(Collectors.toSet());
        return board.parts().stream()
                .filter(p -> !p.ref().equals(part.ref()) && p.kind() == part.kind() && sameBody(p, part))
                .filter(p -> p.pins().stream()
                        .map(Pin::net)
                        .collect(Collectors.toSet())
                        .equals(nets))
                .toList();
    }

    private static boolean sameBody(Part a, Part b) {
        double longA = Math.max(a.wMm(), a.hMm());
        double longB = Math.max(b.wMm(), b.hMm());
        double shortA = Math.min(a.wMm(), a.hMm());
        double shortB = Math.min(b.wMm(), b.hMm());
        return Math.abs(longA - longB) <= SAME_BODY * longB && Math.abs(shortA - shortB) <= SAME_BODY * shortB;
    }

    /** How well a part of some board would do in its place. */
    public Fit fit(Part other) {
        if (other.kind() != part.kind()
                || !sameBody(other, part)
                || other.pairedWith().isPresent()) {
            return Fit.NO;
        }
        if (part.kind() == PartKind.IC || part.kind() == PartKind.CONNECTOR) {
            boolean named = !value.isEmpty() && value.equalsIgnoreCase(other.value());
            return named && other.pins().size() == part.pins().size() ? Fit.SAME : Fit.NO;
        }
        return fit(other.value(), other.voltsRated());
    }

    /** The same by value and rating alone, for a part of the right kind and body. */
    public Fit fit(String otherValue, OptionalDouble otherVolts) {
        boolean tooLow = leastVolts.isPresent()
                && otherVolts.isPresent()
                && otherVolts.getAsDouble() < leastVolts.getAsDouble() - 1e-9;
        if (value.isEmpty() || otherValue.isBlank() || tooLow) {
            return Fit.NO;
        }
        Optional<Double> ratio = ratio(otherValue);
        boolean same = value.strip().equalsIgnoreCase(otherValue.strip())
                || ratio.map(r -> Math.abs(r - 1) < 0.01).orElse(false);
        if (same) {
            return Fit.SAME;
        }
        boolean amongOthers = part.kind() == PartKind.CAPACITOR && !siblings.isEmpty();
        return amongOthers
                        && ratio.map(r -> r >= LEAST_SHARE && r <= MOST_SHARE).orElse(false)
                ? Fit.STANDS_IN
                : Fit.NO;
    }

    private Optional<Double> ratio(String otherValue) {
        boolean capacitor = part.kind() == PartKind.CAPACITOR;
        OptionalDouble own = capacitor ? PartValue.farads(value) : PartValue.ohms(value);
        OptionalDouble theirs = capacitor ? PartValue.farads(otherValue) : PartValue.ohms(otherValue);
        return own.isPresent() && theirs.isPresent() && own.getAsDouble() > 0
                ? Optional.of(theirs.getAsDouble() / own.getAsDouble())
                : Optional.empty();
    }
}
