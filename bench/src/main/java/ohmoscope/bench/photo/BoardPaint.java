package ohmoscope.bench.photo;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.AffineTransform;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Path2D;
import java.awt.geom.Rectangle2D;
import java.awt.image.BufferedImage;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.TestPoint;

/** A board's side drawn flat, with a mat around it: varnish, traces, print, pads, bodies and their shadows. */
final class BoardPaint {
    static final double MARGIN_MM = 30;
    /** The mat's grey beyond the drawing. */
    static final int MAT = 0x6d7479;

    private final Board board;
    private final Side side;
    private final Shot shot;
    private final double pxPerMm;
    private final Random random;
    private final double x0;
    private final double y0;
    private final double w;
    private final double h;

    BoardPaint(Board board, Side side, Shot shot, double pxPerMm) {
        this.board = board;
        this.side = side;
        this.shot = shot;
        this.pxPerMm = pxPerMm;
        random = new Random(shot.seed() * 1_000_003 + side.ordinal());
        Outline outline = board.outline();
        x0 = outline.minXMm();
        y0 = outline.minYMm();
        w = outline.maxXMm() - x0;
        h = outline.maxYMm() - y0;
    }

    double pxPerMm() {
        return pxPerMm;
    }

    BufferedImage picture() {
        int wide = (int) Math.ceil((w + 2 * MARGIN_MM) * pxPerMm);
        int high = (int) Math.ceil((h + 2 * MARGIN_MM) * pxPerMm);
        BufferedImage picture = new BufferedImage(wide, high, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = picture.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        mat(g, wide, high);
        // Millimetres, y up, seen from this side.
        g.translate(MARGIN_MM * pxPerMm, (h + MARGIN_MM) * pxPerMm);
        g.scale(pxPerMm, -pxPerMm);
        if (side == Side.BOTTOM) {
            g.translate(w, 0);
            g.scale(-1, 1);
        }
        g.translate(-x0, -y0);
        Path2D edge = edge();
        g.setColor(new Color(0, 0, 0, 90));
        AffineTransform home = g.getTransform();
        g.translate(0.5, -0.6);
        g.fill(edge);
        g.setTransform(home);
        Color varnish = new Color(shot.mask().rgb);
        g.setColor(varnish);
        g.fill(edge);
        g.setClip(edge);
        traces(g, varnish);
        List<Part> parts = board.parts().stream()
                .filter(p -> p.side() == side && board.placed(p))
                .toList();
        print(g, parts);
        board.testPoints().stream().filter(t -> t.side() == side).forEach(t -> point(g, t));
        g.setClip(null);
        parts.stream().filter(p -> p.kind() != PartKind.SHIELD).forEach(p -> body(g, p));
        parts.stream().filter(p -> p.kind() == PartKind.SHIELD).forEach(p -> body(g, p));
        g.dispose();
        return picture;
    }

    private void mat(Graphics2D g, int wide, int high) {
        g.setColor(new Color(MAT));
        g.fillRect(0, 0, wide, high);
        for (int i = 0; i < 900; i++) {
            int grey = 95 + random.nextInt(40);
            g.setColor(new Color(grey, grey + 4, grey + 7, 60));
            g.fillOval(random.nextInt(wide), random.nextInt(high), 4 + random.nextInt(30), 4 + random.nextInt(30));
        }
    }

    private Path2D edge() {
        Path2D edge = new Path2D.Double();
        boolean first = true;
        for (PointMm corner : board.outline().corners()) {
            if (first) {
                edge.moveTo(corner.xMm(), corner.yMm());
            } else {
                edge.lineTo(corner.xMm(), corner.yMm());
            }
            first = false;
        }
        edge.closePath();
        return edge;
    }

    private void traces(Graphics2D g, Color varnish) {
        Color copper = mixed(varnish, new Color(0xc8a25a), 0.16);
        g.setColor(mixed(varnish, new Color(0xc8a25a), 0.09));
        for (int i = 0; i < 5; i++) {
            g.fill(new Rectangle2D.Double(
                    x0 + random.nextDouble() * w,
                    y0 + random.nextDouble() * h,
                    w * 0.3 * random.nextDouble(),
                    h * 0.3));
        }
        g.setColor(copper);
        for (Part part : board.parts()) {
            for (Pin pin : part.pins()) {
                if (random.nextInt(3) > 0 || !board.placed(part)) {
                    continue;
                }
                g.setStroke(new BasicStroke((float) (0.12 + 0.25 * random.nextDouble())));
                Path2D way = new Path2D.Double();
                double x = pin.xMm();
                double y = pin.yMm();
                way.moveTo(x, y);
                for (int leg = 0; leg < 3; leg++) {
                    double angle = Math.PI / 4 * random.nextInt(8);
                    double length = 1 + 5 * random.nextDouble();
                    x += length * Math.cos(angle);
                    y += length * Math.sin(angle);
                    way.lineTo(x, y);
                }
                g.draw(way);
                g.fill(circle(x, y, 0.3));
                g.setColor(mixed(varnish, Color.BLACK, 0.5));
                g.fill(circle(x, y, 0.13));
                g.setColor(copper);
            }
        }
    }

    private void print(Graphics2D g, List<Part> parts) {
        g.setColor(new Color(0xd8d8d0));
        g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, 1));
        for (Part part : parts) {
            if (part.wMm() * part.hMm() < 0.6 || random.nextInt(3) == 0) {
                continue;
            }
            AffineTransform home = g.getTransform();
            double beside = Math.max(part.wMm(), part.hMm()) / 2 + 0.5;
            g.translate(part.xMm() + (random.nextBoolean() ? 0.2 : -0.8), part.yMm() + beside);
            g.scale(side == Side.BOTTOM ? -0.9 : 0.9, -0.9);
            g.drawString(part.ref(), 0, 0);
            g.setTransform(home);
        }
    }

    private void point(Graphics2D g, TestPoint point) {
        g.setColor(new Color(0xcfae62));
        g.fill(circle(point.xMm(), point.yMm(), 0.5));
    }

    private static Ellipse2D circle(double x, double y, double r) {
        return new Ellipse2D.Double(x - r, y - r, 2 * r, 2 * r);
    }

    private void body(Graphics2D g, Part part) {
        AffineTransform home = g.getTransform();
        g.translate(part.xMm(), part.yMm());
        g.rotate(Math.toRadians(part.rotDeg()));
        double a = part.wMm();
        double b = part.hMm();
        Color solder = new Color(0xb9bdbd);
        g.setColor(solder);
        boolean ends = switch (part.kind()) {
            case CAPACITOR, RESISTOR, FERRITE, FUSE, DIODE, TVS, INDUCTOR -> true;
            default -> false;
        };
        if (ends) {
            double out = 0.12 * Math.min(a, 2) + 0.08;
            g.fill(new Rectangle2D.Double(-a / 2 - out, -b / 2 - 0.04, a * 0.3 + out, b + 0.08));
            g.fill(new Rectangle2D.Double(a / 2 - a * 0.3, -b / 2 - 0.04, a * 0.3 + out, b + 0.08));
        } else {
            AffineTransform turned = g.getTransform();
            g.setTransform(home);
            g.setColor(solder);
            for (Pin pin : part.pins()) {
                double size = part.pins().size() > 40 ? 0.16 : 0.3;
                g.fill(new Rectangle2D.Double(pin.xMm() - size, pin.yMm() - size, 2 * size, 2 * size));
            }
            g.setTransform(turned);
        }
        g.setColor(new Color(0, 0, 0, 80));
        g.fill(new Rectangle2D.Double(-a / 2 + 0.1, -b / 2 - 0.14, a, b));
        g.setColor(jitter(colour(part)));
        g.fill(new Rectangle2D.Double(-a / 2, -b / 2, a, b));
        if (ends) {
            cap(g, part, a, b);
        } else {
            marks(g, part, a, b);
        }
        g.setTransform(home);
    }

    /** Metal ends of a two-pin body, or the print on it. */
    private void cap(Graphics2D g, Part part, double a, double b) {
        if (part.kind() == PartKind.INDUCTOR && a > 2) {
            g.setColor(new Color(0x6a6d70));
            g.fill(circle(0, 0, Math.min(a, b) * 0.32));
            return;
        }
        if (part.kind() == PartKind.DIODE || part.kind() == PartKind.TVS) {
            g.setColor(new Color(0xc9c9c4));
            g.fill(new Rectangle2D.Double(-a * 0.36, -b / 2, a * 0.12, b));
            return;
        }
        g.setColor(new Color(0xd0d3d2));
        double end = a * (0.18 + 0.06 * random.nextDouble());
        g.fill(new Rectangle2D.Double(-a / 2, -b / 2, end, b));
        g.fill(new Rectangle2D.Double(a / 2 - end, -b / 2, end, b));
        if (part.kind() == PartKind.RESISTOR && a > 1.4) {
            text(g, "103", 0.5 * b);
        }
    }

    private void marks(Graphics2D g, Part part, double a, double b) {
        if (part.kind() == PartKind.IC || part.kind() == PartKind.MOSFET || part.kind() == PartKind.TRANSISTOR) {
            if (Math.min(a, b) > 1.8) {
                g.setColor(new Color(0x9a9d9f));
                g.fill(circle(-a / 2 + 0.5, b / 2 - 0.5, 0.18));
                text(g, part.value().isEmpty() ? part.ref() : part.value(), Math.min(1.1, b * 0.28));
            }
        } else if (part.kind() == PartKind.CONNECTOR) {
            g.setColor(new Color(0x3a3d40));
            g.fill(new Rectangle2D.Double(-a * 0.36, -b * 0.22, a * 0.72, b * 0.44));
        } else if (part.kind() == PartKind.SHIELD) {
            g.setColor(new Color(0xa9adae));
            g.setStroke(new BasicStroke(0.15f));
            g.draw(new Rectangle2D.Double(-a / 2 + 0.5, -b / 2 + 0.5, a - 1, b - 1));
        }
    }

    private void text(Graphics2D g, String words, double high) {
        AffineTransform home = g.getTransform();
        g.setColor(new Color(0xa4a7a8));
        g.scale(side == Side.BOTTOM ? -high : high, -high);
        g.setFont(new Font(Font.MONOSPACED, Font.PLAIN, 1));
        g.drawString(words, (float) (-0.3 * words.length()), 0.35f);
        g.setTransform(home);
    }

    private static Color colour(Part part) {
        return switch (part.kind()) {
            case CAPACITOR -> new Color(part.hMm() > 1 ? 0x8c6a48 : 0xa07f58);
            case RESISTOR -> new Color(0x202124);
            case FERRITE -> new Color(0x3b3a3c);
            case INDUCTOR -> new Color(0x45474a);
            case FUSE -> new Color(0xd9dccb);
            case CONNECTOR -> new Color(0xaeb1b2);
            case SHIELD -> new Color(0xc3c6c7);
            case CRYSTAL -> new Color(0xbfb58a);
            case SWITCH -> new Color(0xd6d2c4);
            default -> new Color(0x26282b);
        };
    }

    private Color jitter(Color colour) {
        double by = 0.9 + 0.2 * random.nextDouble();
        return new Color((int) Math.min(255, colour.getRed() * by), (int) Math.min(255, colour.getGreen() * by), (int)
                Math.min(255, colour.getBlue() * by));
    }

    private static Color mixed(Color a, Color b, double share) {
        return new Color(
                (int) (a.getRed() * (1 - share) + b.getRed() * share),
                (int) (a.getGreen() * (1 - share) + b.getGreen() * share),
                (int) (a.getBlue() * (1 - share) + b.getBlue() * share));
    }
}
