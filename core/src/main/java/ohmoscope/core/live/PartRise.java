package ohmoscope.core.live;

import java.util.Arrays;
import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.imaging.Homography;

/** How far a part stands above what surrounds it in a thermal picture. */
public final class PartRise {
    private static final double RING_FROM_MM = 1;
    private static final double RING_TO_MM = 4;
    private static final int LEAST_RING = 12;

    private PartRise() {}

    /**
     * The mean over its body above the median of a ring round it, kelvin.
     *
     * @param risesK above the cold picture, row-major; NaN where nothing is known
     * @param map from board to picture
     * @return empty where the part, or its surroundings, are not in the picture
     */
    public static OptionalDouble of(float[] risesK, int width, int height, Homography map, Part part) {
        double reach = Math.hypot(part.wMm(), part.hMm()) / 2 + RING_TO_MM;
        double x = map.xPx(part.xMm(), part.yMm());
        double y = map.yPx(part.xMm(), part.yMm());
        int px = (int) Math.ceil(reach / map.pitchMm(x, y)) + 1;
        double sum = 0;
        int on = 0;
        double[] ring = new double[(2 * px + 1) * (2 * px + 1)];
        int round = 0;
        for (int row = Math.max(0, (int) y - px); row <= Math.min(height - 1, (int) y + px); row++) {
            for (int column = Math.max(0, (int) x - px); column <= Math.min(width - 1, (int) x + px); column++) {
                float rise = risesK[row * width + column];
                double xMm = map.xMm(column, row);
                double yMm = map.yMm(column, row);
                if (Float.isNaN(rise)) {
                    continue;
                }
                if (part.covers(xMm, yMm, 0)) {
                    sum += rise;
                    on++;
                } else if (!part.covers(xMm, yMm, RING_FROM_MM) && part.covers(xMm, yMm, RING_TO_MM)) {
                    ring[round++] = rise;
                }
            }
        }
        if (on == 0 || round < LEAST_RING) {
            return OptionalDouble.empty();
        }
        Arrays.sort(ring, 0, round);
        return OptionalDouble.of(sum / on - ring[round / 2]);
    }
}
