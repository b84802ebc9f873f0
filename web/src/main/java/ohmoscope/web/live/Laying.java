package ohmoscope.web.live;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.EdgeSnap;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.frames.CornerPairs;

/**
 * How the live picture lies over the board.
 *
 * @param by who laid it so
 */
record Laying(Side side, int width, int height, List<RegistrationPair> pairs, By by) {
    /** Who laid a picture. */
    enum By {
        /** As an earlier capture of the same side and size lies. */
        EARLIER(true),
        /** Its own edges. */
        SNAPPED(true),
        HAND(true),
        /** The whole board in the middle, until its edges are tried. */
        GUESS(false),
        /** Its edges were tried, and none are clear enough. */
        UNLAID(false);

        private final boolean trusted;

        By(boolean trusted) {
            this.trusted = trusted;
        }

        /** Whether a place in the picture may be taken for one on the board. */
        boolean trusted() {
            return trusted;
        }
    }

    Laying {
        pairs = List.copyOf(pairs);
    }

    /** @param earlier the newest capture of the same side and size */
    static Laying first(Board board, Side side, int width, int height, Optional<CaptureSpec> earlier) {
        return new Laying(
                side,
                width,
                height,
                CornerPairs.guess(board.outline(), side, width, height, earlier),
                earlier.isPresent() ? By.EARLIER : By.GUESS);
    }

    /** By the cold picture's own edges. @return empty where it shows none clear enough */
    Optional<Laying> snapped(Board board, float[] coldPicture) {
        EdgeSnap.Snapped snapped =
                EdgeSnap.from(coldPicture, width, height, board, side, pairs).snap(pairs);
        return snapped.usable()
                ? Optional.of(new Laying(side, width, height, snapped.pairs(), By.SNAPPED))
                : Optional.empty();
    }

    /** Moved by hand: so many pairs as there are, in their order. */
    Laying moved(List<double[]> pixels) {
        if (pixels.size() != pairs.size()) {
            return this;
        }
        List<RegistrationPair> moved = java.util.stream.IntStream.range(0, pairs.size())
                .mapToObj(i -> new RegistrationPair(
                        pixels.get(i)[0],
                        pixels.get(i)[1],
                        pairs.get(i).xMm(),
                        pairs.get(i).yMm()))
                .toList();
        return Registration.usable(moved) ? new Laying(side, width, height, moved, By.HAND) : this;
    }

    Homography map() {
        return Registration.fit(pairs).homography();
    }

    /** The board's shapes in pixels of the picture. @param rail its parts are told apart */
    Shapes shapes(Board board, String rail) {
        Homography map = map();
        return new Shapes(
                width,
                height,
                by.name().toLowerCase(Locale.ROOT),
                board.outline().corners().stream().map(c -> px(map, c)).toList(),
                board.parts().stream()
                        .filter(p -> p.side() == side)
                        .map(p -> new Shape(
                                p.ref(),
                                onRail(p, rail),
                                p.corners().stream().map(c -> px(map, c)).toList()))
                        .toList(),
                board.parts().stream()
                        .filter(p -> p.side() != side && onRail(p, rail))
                        .map(p -> new Shape(
                                p.ref(),
                                true,
                                p.corners().stream().map(c -> px(map, c)).toList()))
                        .toList(),
                pairs.stream().map(p -> new double[] {p.xPx(), p.yPx()}).toList());
    }

    private static boolean onRail(Part part, String rail) {
        return part.pins().stream().anyMatch(p -> p.net().equals(rail));
    }

    private static double[] px(Homography map, PointMm at) {
        return new double[] {round(map.xPx(at.xMm(), at.yMm())), round(map.yPx(at.xMm(), at.yMm()))};
    }

    private static double round(double px) {
        return Math.round(px * 100) / 100.0;
    }

    /** Everything in pixels. @param behind parts of the rail on the other side */
    record Shapes(
            int width,
            int height,
            String by,
            List<double[]> outline,
            List<Shape> parts,
            List<Shape> behind,
            List<double[]> pairs) {}

    /** A body by its corners. */
    record Shape(String ref, boolean rail, List<double[]> corners) {}
}
