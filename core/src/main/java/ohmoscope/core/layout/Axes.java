package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Side;

/**
 * How one file's axes lie in another's: scale, a mirrored bottom, y down, and another origin.
 *
 * @param scale millimetres of the first a unit of the second
 * @param mirrored whether x runs the other way for parts on the bottom
 * @param down whether y runs down
 * @param agree share of the parts that then stand where they should
 */
record Axes(double scale, boolean mirrored, boolean down, double xMm, double yMm, double agree) {
    /** Units that are taken for one another: millimetres, inches and mils. */
    static final List<Double> SCALES = List.of(1.0, 25.4, 1 / 25.4, 0.0254, 1 / 0.0254);

    /** As the first file has them. */
    static final Axes PLAIN = new Axes(1, false, false, 0, 0, 0);

    static final double NEAR_MM = 0.06;
    private static final int FEWEST = 2;

    /** A part's place in both. */
    private record Both(Draft.Place here, Draft.Place there) {}

    /** @param choice what of it somebody said @return empty where too few parts have a place in both. */
    static Optional<Axes> of(Map<String, Draft.Place> base, List<Draft.DraftPart> other, Choices.AxesChoice choice) {
        List<Both> pairs = new ArrayList<>();
        for (Draft.DraftPart part : other) {
            Optional.ofNullable(base.get(part.ref()))
                    .filter(p -> part.place().isPresent())
                    .ifPresent(p -> pairs.add(new Both(p, part.place().orElseThrow())));
        }
        if (pairs.size() < FEWEST) {
            return Optional.empty();
        }
        Optional<Axes> best = Optional.empty();
        for (double scale : SCALES) {
            for (boolean mirrored : new boolean[] {false, true}) {
                for (boolean down : new boolean[] {false, true}) {
                    if (!choice.allows(scale, mirrored, down)) {
                        continue;
                    }
                    Axes tried = fit(pairs, scale, mirrored, down);
                    // The plainest of equals stands first.
                    if (best.isEmpty() || tried.agree > best.get().agree + 1e-9) {
                        best = Optional.of(tried);
                    }
                }
            }
        }
        return best;
    }

    private static Axes fit(List<Both> pairs, double scale, boolean mirrored, boolean down) {
        Axes about = new Axes(scale, mirrored, down, 0, 0, 0);
        double[] dx = pairs.stream()
                .mapToDouble(p -> p.here.xMm() - about.x(p.there))
                .sorted()
                .toArray();
        double[] dy = pairs.stream()
                .mapToDouble(p -> p.here.yMm() - about.y(p.there))
                .sorted()
                .toArray();
        Axes moved = new Axes(scale, mirrored, down, dx[dx.length / 2], dy[dy.length / 2], 0);
        long near = pairs.stream().filter(p -> moved.near(p.here, p.there)).count();
        return new Axes(scale, mirrored, down, moved.xMm, moved.yMm, near / (double) pairs.size());
    }

    private double x(Draft.Place place) {
        return xMm + scale * (mirrored && place.side() == Side.BOTTOM ? -place.xMm() : place.xMm());
    }

    private double y(Draft.Place place) {
        return yMm + scale * (down ? -place.yMm() : place.yMm());
    }

    boolean near(Draft.Place here, Draft.Place there) {
        return Math.hypot(here.xMm() - x(there), here.yMm() - y(there)) < NEAR_MM;
    }

    Draft.Place of(Draft.Place place) {
        double turned = mirrored && place.side() == Side.BOTTOM ? 180 - place.rotDeg() : place.rotDeg();
        return new Draft.Place(place.side(), x(place), y(place), turned);
    }

    boolean plain() {
        return scale == 1 && !mirrored && !down && Math.hypot(xMm, yMm) < NEAR_MM;
    }

    String words() {
        List<String> words = new ArrayList<>();
        if (scale != 1) {
            words.add("its unit is taken as " + rounded(scale) + " mm");
        }
        if (mirrored) {
            words.add("its bottom side is mirrored");
        }
        if (down) {
            words.add("its y runs down");
        }
        if (Math.hypot(xMm, yMm) >= NEAR_MM) {
            words.add("its origin is moved by " + rounded(xMm) + ", " + rounded(yMm) + " mm");
        }
        return String.join("; ", words);
    }

    private static String rounded(double value) {
        return String.valueOf(Math.round(value * 1e4) / 1e4);
    }
}
