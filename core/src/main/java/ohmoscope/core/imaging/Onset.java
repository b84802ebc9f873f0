package ohmoscope.core.imaging;

import java.io.IOException;
import ohmoscope.core.board.Outline;
import ohmoscope.core.evidence.SupplyLog.OnSpan;

/**
 * How fast each place began to warm: seconds from power to half of its last warmth. Heat arrives where it starts first,
 * whatever a surface's emissivity does to its height. O(frames × cells).
 */
public final class Onset {
    private static final double CELL_MM = 1;
    private static final double LAST_SECONDS = 1;
    /** Below so many sigmas of a cell's last warmth its time says nothing. */
    private static final double CLEAR = 6;

    private static final int STEADY_FRAMES = 3;
    private static final int REACH = 1;

    private Onset() {}

    /** @return seconds; not a number where nothing warmed clearly or no frame was cold */
    public static BoardField of(
            CaptureSpec spec, FrameSource frames, FrameScan scan, Homography map, Outline outline, OnSpan on)
            throws IOException {
        BoardField field = BoardField.over(outline, CELL_MM);
        int cells = field.values().length;
        float[][] course = courses(spec, frames, scan, map, outline, field);
        double end = Math.min(on.toS(), spec.timesS().get(spec.frameCount() - 1));
        double noise = scan.noiseK() / (2 * REACH + 1);
        for (int c = 0; c < cells; c++) {
            field.values()[c] = Float.NaN;
            int cold = 0;
            int warm = 0;
            double before = 0;
            double last = 0;
            for (int f = 0; f < spec.frameCount(); f++) {
                double t = spec.timesS().get(f);
                if (scan.segment().get(f) < 0 || Float.isNaN(course[f][c])) {
                    continue;
                }
                if (t < on.fromS()) {
                    before += course[f][c];
                    cold++;
                } else if (t <= end && t > end - LAST_SECONDS) {
                    last += course[f][c];
                    warm++;
                }
            }
            if (cold > 0 && warm > 0) {
                double rise = last / warm - before / cold;
                double sigma = noise * Math.sqrt(1.0 / cold + 1.0 / warm);
                if (rise > CLEAR * sigma) {
                    field.values()[c] = (float) half(spec, scan, course, c, before / cold, rise, on.fromS(), end);
                }
            }
        }
        return field;
    }

    /** When a few frames on end are above half the rise, with the crossing between frames interpolated. */
    private static double half(
            CaptureSpec spec,
            FrameScan scan,
            float[][] course,
            int cell,
            double coldK,
            double riseK,
            double fromS,
            double endS) {
        double level = coldK + riseK / 2;
        int above = 0;
        double crossed = Double.NaN;
        double lastBelow = fromS;
        double lastBelowK = coldK;
        for (int f = 0; f < spec.frameCount(); f++) {
            double t = spec.timesS().get(f);
            if (t < fromS || t > endS || scan.segment().get(f) < 0 || Float.isNaN(course[f][cell])) {
                continue;
            }
            if (course[f][cell] >= level) {
                if (above == 0) {
                    double span = course[f][cell] - lastBelowK;
                    double share = span > 0 ? Math.max(0, Math.min(1, (level - lastBelowK) / span)) : 1;
                    crossed = lastBelow + share * (t - lastBelow);
                }
                above++;
                if (above == STEADY_FRAMES) {
                    return crossed - fromS;
                }
            } else {
                above = 0;
                lastBelow = t;
                lastBelowK = course[f][cell];
            }
        }
        return above > 0 ? crossed - fromS : endS - fromS;
    }

    /** Each cell's kelvin by frame, the frame's common level off. */
    private static float[][] courses(
            CaptureSpec spec, FrameSource frames, FrameScan scan, Homography map, Outline outline, BoardField field)
            throws IOException {
        int cells = field.values().length;
        float[][] course = new float[spec.frameCount()][cells];
        Outline.Inside inside = outline.inside();
        double[] px = new double[cells];
        double[] py = new double[cells];
        for (int c = 0; c < cells; c++) {
            boolean on = inside.test(field.xMm(c), field.yMm(c));
            px[c] = on ? map.xPx(field.xMm(c), field.yMm(c)) : Double.NaN;
            py[c] = on ? map.yPx(field.xMm(c), field.yMm(c)) : Double.NaN;
        }
        char[] counts = new char[spec.pixels()];
        try (FrameSource.Cursor cursor = frames.open()) {
            for (int f = 0; f < spec.frameCount() && cursor.next(counts); f++) {
                double level = scan.commonK().get(f);
                Motion motion = scan.motion().get(f);
                for (int c = 0; c < cells; c++) {
                    double x = motion.xOf(px[c], py[c], spec.height());
                    double y = motion.yOf(px[c], py[c], spec.width());
                    course[f][c] = (float) (mean(counts, spec, x, y) - level);
                }
            }
        }
        return course;
    }

    /** Mean of the pixels round a place, kelvin; not a number outside the picture. */
    private static double mean(char[] counts, CaptureSpec spec, double xPx, double yPx) {
        if (!(xPx >= REACH && yPx >= REACH && xPx <= spec.width() - 1 - REACH && yPx <= spec.height() - 1 - REACH)) {
            return Double.NaN;
        }
        int x = (int) Math.round(xPx);
        int y = (int) Math.round(yPx);
        long sum = 0;
        for (int j = -REACH; j <= REACH; j++) {
            for (int i = -REACH; i <= REACH; i++) {
                sum += counts[(y + j) * spec.width() + x + i];
            }
        }
        int side = 2 * REACH + 1;
        return sum * spec.kelvinPerCount() / (side * side);
    }
}
