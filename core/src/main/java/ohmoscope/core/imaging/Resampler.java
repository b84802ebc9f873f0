package ohmoscope.core.imaging;

/** Moves a picture by fractions of a pixel with the Catmull–Rom cubic, which keeps straight ramps straight. */
public final class Resampler {
    private Resampler() {}

    /**
     * Undoes a shift: {@code out(x, y) = in(x + dx, y + dy)}. Edges repeat.
     *
     * @param in row-major, not modified
     * @param out overwritten; must not be {@code in}
     */
    public static void shifted(float[] in, int width, int height, double dxPx, double dyPx, float[] out) {
        int wholeX = (int) Math.floor(dxPx);
        int wholeY = (int) Math.floor(dyPx);
        float[] wx = weights(dxPx - wholeX);
        float[] wy = weights(dyPx - wholeY);
        // Of the rows moved along, four are needed at a time.
        float[][] moved = new float[4][width];
        float[] line = new float[width + 3];
        float[] row = new float[width];
        int next = within(wholeY - 1, height);
        for (int y = 0; y < height; y++) {
            int above = y + wholeY - 1;
            for (; next <= within(above + 3, height); next++) {
                lineFrom(in, next * width, width, wholeX - 1, line);
                between(line, wx, moved[next % 4]);
            }
            between(
                    moved[within(above, height) % 4],
                    moved[within(above + 1, height) % 4],
                    moved[within(above + 2, height) % 4],
                    moved[within(above + 3, height) % 4],
                    wy,
                    row);
            System.arraycopy(row, 0, out, y * width, width);
        }
    }

    /**
     * Undoes a motion: what has moved stands where it stood in the reference. Edges repeat. Without a turn it is a
     * {@link #shifted}; with one, rows are moved along and then columns, each by as much as it has moved.
     *
     * @param in row-major, not modified
     * @param out overwritten; must not be {@code in}
     */
    public static void undone(float[] in, int width, int height, Motion motion, float[] out) {
        if (motion.turn() == 0) {
            shifted(in, width, height, motion.xPx(), motion.yPx(), out);
            return;
        }
        float[] along = new float[width * height];
        float[] line = new float[width + 3];
        float[] row = new float[width];
        for (int y = 0; y < height; y++) {
            // The row that is now here stood higher by what the picture has moved down.
            double dx = motion.xOf(0, y - motion.yPx(), height);
            int whole = (int) Math.floor(dx);
            lineFrom(in, y * width, width, whole - 1, line);
            between(line, weights(dx - whole), row);
            System.arraycopy(row, 0, along, y * width, width);
        }
        columnsUndone(along, width, height, motion, out);
    }

    private static void columnsUndone(float[] in, int width, int height, Motion motion, float[] out) {
        int[] whole = new int[width];
        float[][] w = new float[4][width];
        for (int x = 0; x < width; x++) {
            double dy = motion.yOf(x, 0, width);
            whole[x] = (int) Math.floor(dy);
            float[] weights = weights(dy - whole[x]);
            for (int k = 0; k < 4; k++) {
                w[k][x] = weights[k];
            }
        }
        for (int from = 0, to; from < width; from = to) {
            to = from + 1;
            while (to < width && whole[to] == whole[from]) {
                to++;
            }
            for (int y = 0; y < height; y++) {
                int above = y + whole[from] - 1;
                int r0 = within(above, height) * width;
                int r1 = within(above + 1, height) * width;
                int r2 = within(above + 2, height) * width;
                int r3 = within(above + 3, height) * width;
                int r = y * width;
                for (int x = from; x < to; x++) {
                    out[r + x] =
                            w[0][x] * in[r0 + x] + w[1][x] * in[r1 + x] + w[2][x] * in[r2 + x] + w[3][x] * in[r3 + x];
                }
            }
        }
    }

    /** Fills the line with a picture's row from such a column on; the row's ends repeat. */
    private static void lineFrom(float[] in, int row, int width, int first, float[] line) {
        int from = Math.min(line.length, Math.max(0, -first));
        int to = Math.max(from, Math.min(line.length, width - first));
        for (int i = 0; i < from; i++) {
            line[i] = in[row];
        }
        if (to > from) {
            System.arraycopy(in, row + first + from, line, from, to - from);
        }
        for (int i = to; i < line.length; i++) {
            line[i] = in[row + width - 1];
        }
    }

    // In both of these every array is read at one and the same index, so that the compiler makes vectors of it.

    private static void between(float[] line, float[] w, float[] out) {
        float a = w[0];
        float b = w[1];
        float c = w[2];
        float d = w[3];
        for (int x = 0; x < out.length; x++) {
            out[x] = a * line[x] + b * line[x + 1] + c * line[x + 2] + d * line[x + 3];
        }
    }

    private static void between(float[] r0, float[] r1, float[] r2, float[] r3, float[] w, float[] out) {
        float a = w[0];
        float b = w[1];
        float c = w[2];
        float d = w[3];
        for (int x = 0; x < out.length; x++) {
            out[x] = a * r0[x] + b * r1[x] + c * r2[x] + d * r3[x];
        }
    }

    /**
     * The same at some pixels only.
     *
     * @param places pixels, {@code y · width + x}
     * @param marginPx none of them is nearer to the picture's edge
     * @param out for each place its value, overwritten
     */
    static void undoneAt(float[] in, int width, int height, Motion motion, int[] places, int marginPx, float[] out) {
        if (motion.turn() != 0) {
            turnedBackAt(in, width, height, motion, places, out);
        } else if (motion.xPx() == 0 && motion.yPx() == 0) {
            // Every search for a motion begins here.
            for (int i = 0; i < places.length; i++) {
                out[i] = in[places[i]];
            }
        } else {
            shiftedAt(in, width, height, motion.xPx(), motion.yPx(), places, marginPx, out);
        }
    }

    private static void turnedBackAt(float[] in, int width, int height, Motion motion, int[] places, float[] out) {
        float[] wx = new float[4];
        float[] wy = new float[4];
        for (int i = 0; i < places.length; i++) {
            int x = places[i] % width;
            int y = places[i] / width;
            double u = motion.xOf(x, y, height);
            double v = motion.yOf(x, y, width);
            int wholeX = (int) Math.floor(u);
            int wholeY = (int) Math.floor(v);
            weights(u - wholeX, wx);
            weights(v - wholeY, wy);
            out[i] = nearEdge(in, wholeX - 1, wholeY - 1, width, height, wx, wy);
        }
    }

    private static void shiftedAt(
            float[] in, int width, int height, double dxPx, double dyPx, int[] places, int marginPx, float[] out) {
        int wholeX = (int) Math.floor(dxPx);
        int wholeY = (int) Math.floor(dyPx);
        float[] wx = weights(dxPx - wholeX);
        float[] wy = weights(dyPx - wholeY);
        int back = (wholeY - 1) * width + wholeX - 1;
        boolean inside =
                wholeX - 1 >= -marginPx && wholeX + 2 <= marginPx && wholeY - 1 >= -marginPx && wholeY + 2 <= marginPx;
        for (int i = 0; i < places.length; i++) {
            out[i] = inside
                    ? inside(in, places[i] + back, width, wx, wy)
                    : nearEdge(
                            in, places[i] % width + wholeX - 1, places[i] / width + wholeY - 1, width, height, wx, wy);
        }
    }

    private static float inside(float[] in, int at, int width, float[] wx, float[] wy) {
        float sum = 0;
        for (int b = 0; b < 4; b++) {
            int row = at + b * width;
            sum += wy[b] * (wx[0] * in[row] + wx[1] * in[row + 1] + wx[2] * in[row + 2] + wx[3] * in[row + 3]);
        }
        return sum;
    }

    private static float nearEdge(float[] in, int x, int y, int width, int height, float[] wx, float[] wy) {
        if (x >= 0 && y >= 0 && x + 3 < width && y + 3 < height) {
            return inside(in, y * width + x, width, wx, wy);
        }
        float sum = 0;
        for (int b = 0; b < 4; b++) {
            int row = within(y + b, height) * width;
            float along = 0;
            for (int a = 0; a < 4; a++) {
                along += wx[a] * in[row + within(x + a, width)];
            }
            sum += wy[b] * along;
        }
        return sum;
    }

    /** A picture between its pixels; the place must lie within. */
    static float bilinear(float[] picture, int w, int h, double px, double py) {
        int x = Math.min(w - 2, (int) px);
        int y = Math.min(h - 2, (int) py);
        float a = (float) (px - x);
        float b = (float) (py - y);
        int p = y * w + x;
        return (1 - b) * ((1 - a) * picture[p] + a * picture[p + 1])
                + b * ((1 - a) * picture[p + w] + a * picture[p + w + 1]);
    }

    private static int within(int at, int size) {
        return Math.min(size - 1, Math.max(0, at));
    }

    private static float[] weights(double t) {
        float[] w = new float[4];
        weights(t, w);
        return w;
    }

    private static void weights(double t, float[] w) {
        w[0] = (float) (((-0.5 * t + 1) * t - 0.5) * t);
        w[1] = (float) ((1.5 * t - 2.5) * t * t + 1);
        w[2] = (float) (((-1.5 * t + 2) * t + 0.5) * t);
        w[3] = (float) ((0.5 * t - 0.5) * t * t);
    }
}
