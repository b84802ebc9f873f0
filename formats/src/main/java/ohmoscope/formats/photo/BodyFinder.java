package ohmoscope.formats.photo;

import boofcv.alg.filter.binary.BinaryImageOps;
import boofcv.alg.filter.binary.Contour;
import boofcv.struct.ConnectRule;
import boofcv.struct.image.GrayU8;
import georegression.struct.point.Point2D_I32;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleBinaryOperator;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.Blur;
import ohmoscope.core.layout.PartNames;
import org.locationtech.jts.algorithm.Area;
import org.locationtech.jts.algorithm.MinimumDiameter;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;

/**
 * Bodies of two-pin parts and of chips on a squared photograph, without knowing the board: what differs from the bare board
 * is cut out, bodies that touch are parted by eating their rims away, and what is a rectangle of a body's size is proposed.
 *
 * <p>Time and memory: of the order of the picture's pixels, about a second for five million of them.
 */
public final class BodyFinder {
    private static final double MOST_PX_PER_MM = 18;
    private static final double SMOOTH_MM = 0.05;
    /** How far from the bare board's colour a body may be: faint ones and plain ones, by turns. */
    private static final double[] ABOVE = {0.16, 0.27, 0.42, 0.62, 0.9, 1.3};
    /** How much brighter than the bare board metal may be. */
    private static final double[] BRIGHT = {0.35, 0.6, 0.9};
    /** What differs less from the bare board is bare. */
    private static final double BARE = 0.3;

    private static final double BARE_ON_DARK = 0.13;
    private static final double DARK = 55;
    /** How far a body's middle must stand out, grey steps, when no metal ends speak for it. */
    private static final double STANDS_OUT = 14;
    /** How much the tones on a chip's lid may differ, grey steps. */
    private static final double EVEN = 22;

    /** How much is eaten off the rims, by turns. */
    private static final double[] EATEN_MM = {0.09, 0.17, 0.27, 0.4};

    private static final double LEAST_MM = 0.28;
    private static final double LARGEST_MM = 40;
    private static final double RECTANGULAR = 0.84;
    /** Corners of bodies that are few pixels wide are rounded: how much less full they are, times their width in pixels. */
    private static final double ROUNDED = 0.7;
    /** Solder stands out beyond a body's ends by about so much. */
    private static final double SOLDER_MM = 0.2;

    /** Bodies may touch, but not lie in each other. */
    private static final double APART = 0.88;

    private final SquaredPicture squared;
    private final int width;
    private final int height;
    private final double pxPerMm;
    private final int[] rgb;
    private final float[] distance;
    private final float[] brighter;
    private final double bare;
    private final boolean dark;
    private final boolean[] counts;

    private BodyFinder(SquaredPicture squared) {
        this.squared = squared;
        double by = Math.min(1, MOST_PX_PER_MM / squared.pxPerMm());
        width = Math.max(8, (int) Math.round(squared.picture().getWidth() * by));
        height = Math.max(8, (int) Math.round(squared.picture().getHeight() * by));
        pxPerMm = squared.pxPerMm() * by;
        rgb = smaller(squared.picture(), width, height);
        counts = new boolean[width * height];
        for (int i = 0; i < counts.length; i++) {
            double x = squared.xMm((i % width + 0.5) / by - 0.5);
            double y = squared.yMm((i / width + 0.5) / by - 0.5);
            counts[i] = x > 0 && y > 0 && x < squared.widthMm() && y < squared.heightMm();
        }
        Varnish varnish = new Varnish(rgb, width, height, counts);
        dark = varnish.light() < DARK;
        bare = dark ? BARE_ON_DARK : BARE;
        double smooth = Math.max(0.5, SMOOTH_MM * pxPerMm);
        distance = Blur.gaussian(varnish.distance(), width, height, smooth);
        brighter = Blur.gaussian(varnish.brighter(), width, height, smooth / 2);
    }

    private static int[] smaller(BufferedImage from, int w, int h) {
        var to = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
        var g = to.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        g.drawImage(from, 0, 0, w, h, null);
        g.dispose();
        return to.getRGB(0, 0, w, h, null, 0, w);
    }

    /** @return the most certain first; none overlaps another by more than a little */
    public static List<Found> find(SquaredPicture squared) {
        return new BodyFinder(squared).all();
    }

    private List<Found> all() {
        List<Found> found = new ArrayList<>();
        for (double above : ABOVE) {
            GrayU8 binary = new GrayU8(width, height);
            for (int i = 0; i < distance.length; i++) {
                binary.data[i] = (byte) (counts[i] && distance[i] > above ? 1 : 0);
            }
            int eaten = 0;
            for (double wanted : EATEN_MM) {
                int rounds = Math.max(eaten + 1, (int) Math.round(wanted * pxPerMm));
                binary = BinaryImageOps.erode4(binary, rounds - eaten, null);
                eaten = rounds;
                for (Contour contour : BinaryImageOps.contour(binary, ConnectRule.FOUR, null)) {
                    rectangle(contour.external, rounds + 0.5).ifPresent(found::add);
                }
            }
        }
        for (double above : BRIGHT) {
            pairs(above, found);
        }
        found.sort(Comparator.comparingDouble(f -> -f.score()));
        List<Found> kept = new ArrayList<>();
        for (Found one : found) {
            if (kept.stream().noneMatch(k -> overlapping(k, one))) {
                kept.add(one);
            }
        }
        return kept;
    }

    /** A piece of metal: its middle and half its sides, pixels, along the picture's axes. */
    private record End(double x, double y, double halfX, double halfY) {}

    /** Two-pin bodies by their bright ends alone, for bodies that are hardly darker or lighter than the board. */
    private void pairs(double above, List<Found> found) {
        GrayU8 bright = new GrayU8(width, height);
        for (int i = 0; i < brighter.length; i++) {
            bright.data[i] = (byte) (counts[i] && brighter[i] > above ? 1 : 0);
        }
        List<End> ends = new ArrayList<>();
        double most = 1.8 * pxPerMm;
        double least = 0.06 * pxPerMm;
        for (Contour contour : BinaryImageOps.contour(bright, ConnectRule.FOUR, null)) {
            int x0 = Integer.MAX_VALUE;
            int x1 = 0;
            int y0 = Integer.MAX_VALUE;
            int y1 = 0;
            for (Point2D_I32 p : contour.external) {
                x0 = Math.min(x0, p.x);
                x1 = Math.max(x1, p.x);
                y0 = Math.min(y0, p.y);
                y1 = Math.max(y1, p.y);
            }
            End end = new End((x0 + x1) / 2.0, (y0 + y1) / 2.0, (x1 - x0 + 1) / 2.0, (y1 - y0 + 1) / 2.0);
            if (Math.max(end.halfX(), end.halfY()) < most && Math.min(end.halfX(), end.halfY()) > least) {
                ends.add(end);
            }
        }
        ends.sort(Comparator.comparingDouble(End::x));
        for (int i = 0; i < ends.size(); i++) {
            for (int j = i + 1; j < ends.size() && ends.get(j).x() - ends.get(i).x() < 6.5 * pxPerMm; j++) {
                pair(ends.get(i), ends.get(j)).ifPresent(found::add);
            }
        }
    }

    private Optional<Found> pair(End a, End b) {
        boolean across = Math.abs(a.x() - b.x()) > Math.abs(a.y() - b.y());
        double apart = across ? Math.abs(a.x() - b.x()) : Math.abs(a.y() - b.y());
        double off = across ? Math.abs(a.y() - b.y()) : Math.abs(a.x() - b.x());
        double wideA = across ? a.halfY() : a.halfX();
        double wideB = across ? b.halfY() : b.halfX();
        double deepA = across ? a.halfX() : a.halfY();
        double deepB = across ? b.halfX() : b.halfY();
        double longPx = apart + deepA + deepB;
        double shortPx = wideA + wideB;
        boolean like = Math.max(wideA, wideB) < 1.35 * Math.min(wideA, wideB) + 0.5
                && Math.max(deepA, deepB) < 1.7 * Math.min(deepA, deepB) + 0.5;
        boolean facing = off < 0.12 * shortPx + 0.7 && apart > deepA + deepB + 1;
        double ratio = longPx / shortPx;
        double cx = (a.x() + b.x()) / 2;
        double cy = (a.y() + b.y()) / 2;
        if (!like || !facing || ratio < 1.4 || ratio > 3.8 || shortPx < LEAST_MM * pxPerMm) {
            return Optional.empty();
        }
        double third = 0.14 * longPx;
        double barest = Math.min(
                at(cx, cy),
                across
                        ? Math.min(at(cx - third, cy), at(cx + third, cy))
                        : Math.min(at(cx, cy - third), at(cx, cy + third)));
        if (barest < bare
                || PartNames.soldered(longPx / pxPerMm, shortPx / pxPerMm).isEmpty()) {
            return Optional.empty();
        }
        return trimmed(cx, cy, longPx / pxPerMm, shortPx / pxPerMm, across ? 0 : Math.PI / 2, 0.9, 0);
    }

    private static boolean overlapping(Found a, Found b) {
        double dx = Math.abs(a.xMm() - b.xMm());
        double dy = Math.abs(a.yMm() - b.yMm());
        return dx < APART * (a.across() + b.across()) / 2 && dy < APART * (a.down() + b.down()) / 2;
    }

    private Optional<Found> rectangle(List<Point2D_I32> rim, double eatenPx) {
        if (rim.size() < 6) {
            return Optional.empty();
        }
        Coordinate[] ring = new Coordinate[rim.size() + 1];
        for (int i = 0; i < rim.size(); i++) {
            ring[i] = new Coordinate(rim.get(i).x, rim.get(i).y);
        }
        ring[rim.size()] = ring[0].copy();
        Geometry box = MinimumDiameter.getMinimumRectangle(new GeometryFactory().createLineString(ring));
        Coordinate[] c = box.getCoordinates();
        if (c.length < 5) {
            return Optional.empty();
        }
        double a = c[0].distance(c[1]);
        double b = c[1].distance(c[2]);
        double full = area(ring);
        double rectangular = (full + (rim.size()) / 2.0) / ((a + 1) * (b + 1));
        double longPx = Math.max(a, b) + 2 * eatenPx;
        double shortPx = Math.min(a, b) + 2 * eatenPx;
        Coordinate from = a >= b ? c[0] : c[1];
        Coordinate to = a >= b ? c[1] : c[2];
        double angle = Math.atan2(to.y - from.y, to.x - from.x);
        double cx = (c[0].x + c[2].x) / 2;
        double cy = (c[0].y + c[2].y) / 2;
        return rectangular < RECTANGULAR - ROUNDED / (Math.min(a, b) + 1)
                ? Optional.empty()
                : trimmed(cx, cy, longPx / pxPerMm, shortPx / pxPerMm, snapped(angle), rectangular, 2);
    }

    /** The rim where the colour is half way to the bare board's, on each side for itself. */
    private Optional<Found> trimmed(
            double cx, double cy, double longMm, double shortMm, double angle, double rectangular, int rounds) {
        double[] bare = bare(cx, cy, angle, longMm, shortMm);
        double[] along = {rim(cx, cy, angle, longMm, shortMm, bare), rim(cx, cy, angle + Math.PI, longMm, shortMm, bare)
        };
        double quarter = angle + Math.PI / 2;
        double[] across = {
            rim(cx, cy, quarter, shortMm, longMm, bare), rim(cx, cy, quarter + Math.PI, shortMm, longMm, bare)
        };
        double moveAlong = (along[0] - along[1]) / 2 * pxPerMm;
        double moveAcross = (across[0] - across[1]) / 2 * pxPerMm;
        double x = cx + moveAlong * Math.cos(angle) + moveAcross * Math.cos(quarter);
        double y = cy + moveAlong * Math.sin(angle) + moveAcross * Math.sin(quarter);
        double a = along[0] + along[1];
        double b = across[0] + across[1];
        if (rounds > 0) {
            return trimmed(x, y, a, b, angle, rectangular, rounds - 1);
        }
        return a >= b ? body(x, y, a, b, angle, rectangular) : body(x, y, b, a, quarter, rectangular);
    }

    /** The colour around it, where nothing else stands: 0 to 255 a channel. */
    private double[] bare(double cx, double cy, double angle, double longMm, double shortMm) {
        double[][] some = new double[24][];
        for (int i = 0; i < some.length; i++) {
            double turn = 2 * Math.PI * i / some.length;
            double u = (longMm / 2 + 0.25) * pxPerMm * Math.max(-1, Math.min(1, 1.42 * Math.cos(turn)));
            double v = (shortMm / 2 + 0.25) * pxPerMm * Math.max(-1, Math.min(1, 1.42 * Math.sin(turn)));
            double x = cx + u * Math.cos(angle) - v * Math.sin(angle);
            double y = cy + u * Math.sin(angle) + v * Math.cos(angle);
            some[i] = new double[] {at(x, y), x, y};
        }
        Arrays.sort(some, Comparator.comparingDouble(s -> s[0]));
        double[] mean = new double[3];
        int best = some.length / 3;
        for (int i = 0; i < best; i++) {
            int colour = colour(some[i][1], some[i][2], 0.04);
            for (int c = 0; c < 3; c++) {
                mean[c] += (double) (colour >> (16 - 8 * c) & 0xff) / best;
            }
        }
        return mean;
    }

    /** How far from the middle the rim is in one direction, millimetres: half way to the bare board's colour. */
    private double rim(double cx, double cy, double angle, double lengthMm, double widthMm, double[] bare) {
        double from = 0.32 * lengthMm * pxPerMm;
        double to = (0.5 * lengthMm + 0.25) * pxPerMm;
        double inside = 0;
        double before = 0;
        for (double u = from; u <= to; u += 0.5) {
            double mean = 0;
            for (int k = -2; k <= 2; k++) {
                double v = k * 0.17 * widthMm * pxPerMm;
                mean += apart(
                                cx + u * Math.cos(angle) - v * Math.sin(angle),
                                cy + u * Math.sin(angle) + v * Math.cos(angle),
                                bare)
                        / 5;
            }
            inside = Math.max(inside, mean);
            if (mean < inside / 2 && u > from) {
                double share = (before - inside / 2) / Math.max(1e-6, before - mean);
                return (u - 0.5 + 0.5 * Math.max(0, Math.min(1, share))) / pxPerMm;
            }
            before = mean;
        }
        return lengthMm / 2;
    }

    /** Differences from the bare board about it, grey steps, the least first. */
    private double[] standing(double cx, double cy, double angle, double longMm, double shortMm) {
        double[] bare = bare(cx, cy, angle, longMm, shortMm);
        return sorted(cx, cy, angle, 0.18 * longMm, 0.18 * shortMm, (x, y) -> apart(x, y, bare));
    }

    /** What is read on a grid of five by five places about a middle, the least first. @param stepMm along the body */
    private double[] sorted(
            double cx, double cy, double angle, double stepMm, double acrossMm, DoubleBinaryOperator read) {
        double[] some = new double[25];
        for (int i = 0; i < some.length; i++) {
            double u = (i % 5 - 2) * stepMm * pxPerMm;
            double v = (i / 5 - 2) * acrossMm * pxPerMm;
            some[i] = read.applyAsDouble(
                    cx + u * Math.cos(angle) - v * Math.sin(angle), cy + u * Math.sin(angle) + v * Math.cos(angle));
        }
        Arrays.sort(some);
        return some;
    }

    private double apart(double x, double y, double[] bare) {
        int column = Math.max(0, Math.min(width - 1, (int) Math.round(x)));
        int row = Math.max(0, Math.min(height - 1, (int) Math.round(y)));
        int one = rgb[row * width + column];
        return Math.sqrt(Math.pow((one >> 16 & 0xff) - bare[0], 2)
                + Math.pow((one >> 8 & 0xff) - bare[1], 2)
                + Math.pow((one & 0xff) - bare[2], 2));
    }

    private double at(double x, double y) {
        int column = Math.max(0, Math.min(width - 1, (int) Math.round(x)));
        int row = Math.max(0, Math.min(height - 1, (int) Math.round(y)));
        return distance[row * width + column];
    }

    private static double area(Coordinate[] ring) {
        return Math.abs(Area.ofRing(ring));
    }

    private Optional<Found> body(
            double cx, double cy, double longMm, double shortMm, double angle, double rectangular) {
        if (shortMm < LEAST_MM || longMm > LARGEST_MM || longMm > 6 * shortMm) {
            return Optional.empty();
        }
        double snapped = angle;
        double[] ends = {tone(cx, cy, snapped, -0.41 * longMm, shortMm), tone(cx, cy, snapped, 0.41 * longMm, shortMm)};
        int middle = colour(cx, cy, 0.3 * shortMm);
        double mid = luma(middle);
        boolean metal = Math.min(ends[0], ends[1]) > 1.12 * mid + 6;
        boolean alike = Math.abs(ends[0] - ends[1]) < 0.3 * Math.max(ends[0], ends[1]);
        double ratio = longMm / shortMm;
        double fit = Math.max(0, Math.min(1, (rectangular - 0.6) / 0.35));
        if (ratio > 1.3 && ratio < 3.4 && longMm < 8 && metal) {
            Optional<PartNames.Size> size = PartNames.soldered(longMm, shortMm);
            double length = Math.max(0.7 * longMm, longMm - 2 * SOLDER_MM);
            double score = 0.4 * fit
                    + (alike ? 0.15 : 0)
                    + 0.35 * size.map(s -> s.like(longMm, shortMm)).orElse(0.0);
            return Optional.of(at(
                    twoPin(middle, size),
                    size.map(PartNames.Size::name).orElse(""),
                    cx,
                    cy,
                    size.map(PartNames.Size::wMm).orElse(length),
                    size.map(PartNames.Size::hMm).orElse(shortMm),
                    snapped,
                    score));
        }
        double[] stands = standing(cx, cy, snapped, longMm, shortMm);
        boolean askew = Math.abs(Math.sin(2 * snapped)) > 0.05;
        double median = stands[stands.length / 2];
        boolean even = stands[stands.length * 4 / 5] - stands[stands.length / 5] < EVEN + 0.3 * median;
        PartKind kind = block(lid(cx, cy, snapped, longMm, shortMm), longMm, shortMm);
        if (longMm * shortMm < 1.2
                || shortMm < 0.8
                || median < (askew ? 2.5 : 1) * STANDS_OUT
                || kind == PartKind.IC && !even && (dark || askew || ratio > 1.5)) {
            return Optional.empty();
        }
        // A chip's print looks like small parts: an even dark block comes before what is seen on it.
        double whole = kind == PartKind.IC && even && !askew && !dark && longMm * shortMm > 3 ? 1 : 0.5;
        return Optional.of(at(
                even || kind != PartKind.IC ? kind : PartKind.INDUCTOR,
                "",
                cx,
                cy,
                longMm,
                shortMm,
                snapped,
                whole * fit));
    }

    private Found at(PartKind kind, String name, double cx, double cy, double w, double h, double angle, double score) {
        double by = squared.pxPerMm() / pxPerMm;
        double x = squared.xMm((cx + 0.5) * by - 0.5);
        double y = squared.yMm((cy + 0.5) * by - 0.5);
        double turn = Math.toDegrees(squared.side() == Side.BOTTOM ? angle : -angle);
        return new Found(kind, name, x, y, w, h, ((Math.round(turn * 10) / 10.0) % 180 + 180) % 180, score);
    }

    /** Most parts lie along the edges. */
    private static double snapped(double angle) {
        double quarter = Math.PI / 2;
        double nearest = Math.round(angle / quarter) * quarter;
        return Math.abs(angle - nearest) < Math.toRadians(9) ? nearest : angle;
    }

    private static PartKind twoPin(int middle, Optional<PartNames.Size> size) {
        int r = middle >> 16 & 0xff;
        int b = middle & 0xff;
        boolean brown = r > 1.2 * b + 6;
        return brown ? PartKind.CAPACITOR : luma(middle) > 150 ? PartKind.FUSE : PartKind.RESISTOR;
    }

    private static PartKind block(double luma, double longMm, double shortMm) {
        if (luma > 120) {
            return longMm * shortMm > 60 && longMm > 9 ? PartKind.SHIELD : PartKind.CONNECTOR;
        }
        return PartKind.IC;
    }

    private double tone(double cx, double cy, double angle, double alongMm, double shortMm) {
        double x = cx + Math.cos(angle) * alongMm * pxPerMm;
        double y = cy + Math.sin(angle) * alongMm * pxPerMm;
        return luma(colour(x, y, 0.2 * shortMm));
    }

    /** Median tone of a block. */
    private double lid(double cx, double cy, double angle, double longMm, double shortMm) {
        double[] tones = sorted(cx, cy, angle, 0.2 * longMm, 0.2 * shortMm, (x, y) -> luma(colour(x, y, 0.03)));
        return tones[tones.length / 2];
    }

    private static double luma(int rgb) {
        return 0.3 * (rgb >> 16 & 0xff) + 0.59 * (rgb >> 8 & 0xff) + 0.11 * (rgb & 0xff);
    }

    /** Mean colour of a small square. */
    private int colour(double cx, double cy, double halfMm) {
        int half = Math.max(1, (int) Math.round(halfMm * pxPerMm));
        long r = 0;
        long g = 0;
        long b = 0;
        int n = 0;
        for (int y = (int) cy - half; y <= (int) cy + half; y++) {
            for (int x = (int) cx - half; x <= (int) cx + half; x++) {
                if (x >= 0 && y >= 0 && x < width && y < height) {
                    int one = rgb[y * width + x];
                    r += one >> 16 & 0xff;
                    g += one >> 8 & 0xff;
                    b += one & 0xff;
                    n++;
                }
            }
        }
        return n == 0 ? 0 : (int) (r / n) << 16 | (int) (g / n) << 8 | (int) (b / n);
    }
}
