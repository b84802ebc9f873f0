package ohmoscope.formats.photo;

import java.util.HashMap;
import java.util.Map;
import org.ejml.simple.SimpleMatrix;

/**
 * The colour of the bare board all over a photograph: the commonest colour, with a light that changes smoothly across it.
 * What differs from it stands on the board.
 */
final class Varnish {
    private static final double FLOOR = 12;
    private static final double LUMA_STEP = 0.22;
    private static final double TINT_STEP = 0.11;
    private static final int TERMS = 6;
    private static final int ROUNDS = 3;
    private static final int STRIDE = 5;

    private final int width;
    private final int height;
    private final float[][] channels;
    private final double[][] surface = new double[3][];

    /** @param rgb of a squared picture, packed @param counts which pixels are on the board */
    Varnish(int[] rgb, int width, int height, boolean[] counts) {
        this.width = width;
        this.height = height;
        channels = new float[3][rgb.length];
        for (int i = 0; i < rgb.length; i++) {
            double r = Math.log((rgb[i] >> 16 & 0xff) + FLOOR);
            double g = Math.log((rgb[i] >> 8 & 0xff) + FLOOR);
            double b = Math.log((rgb[i] & 0xff) + FLOOR);
            channels[0][i] = (float) ((r + g + b) / 3);
            channels[1][i] = (float) (r - g);
            channels[2][i] = (float) (b - g);
        }
        fit(counts);
    }

    private void fit(boolean[] counts) {
        double[] mode = mode(counts);
        double[] reach = {2 * LUMA_STEP, 1.5 * TINT_STEP, 1.5 * TINT_STEP};
        for (int c = 0; c < 3; c++) {
            surface[c] = new double[TERMS];
            surface[c][0] = mode[c];
        }
        for (int round = 0; round < ROUNDS; round++) {
            SimpleMatrix left = new SimpleMatrix(TERMS, TERMS);
            SimpleMatrix[] right = {new SimpleMatrix(TERMS, 1), new SimpleMatrix(TERMS, 1), new SimpleMatrix(TERMS, 1)};
            double[] terms = new double[TERMS];
            for (int i = 0; i < counts.length; i += STRIDE) {
                if (counts[i] && near(i, reach)) {
                    terms(i, terms);
                    for (int a = 0; a < TERMS; a++) {
                        for (int b = 0; b < TERMS; b++) {
                            left.set(a, b, left.get(a, b) + terms[a] * terms[b]);
                        }
                        for (int c = 0; c < 3; c++) {
                            right[c].set(a, right[c].get(a) + terms[a] * channels[c][i]);
                        }
                    }
                }
            }
            for (int a = 0; a < TERMS; a++) {
                left.set(a, a, left.get(a, a) + 1e-3 + (a == 0 ? 0 : 1e-4 * left.get(0, 0)));
            }
            for (int c = 0; c < 3; c++) {
                SimpleMatrix solved = left.solve(right[c]);
                for (int a = 0; a < TERMS; a++) {
                    surface[c][a] = solved.get(a);
                }
            }
        }
    }

    private void terms(int i, double[] terms) {
        double x = 2.0 * (i % width) / width - 1;
        double y = 2.0 * (i / width) / height - 1;
        terms[0] = 1;
        terms[1] = x;
        terms[2] = y;
        terms[3] = x * x;
        terms[4] = x * y;
        terms[5] = y * y;
    }

    private double at(int channel, double[] terms) {
        double sum = 0;
        for (int a = 0; a < TERMS; a++) {
            sum += surface[channel][a] * terms[a];
        }
        return sum;
    }

    private boolean near(int i, double[] reach) {
        double[] terms = new double[TERMS];
        terms(i, terms);
        for (int c = 0; c < 3; c++) {
            if (Math.abs(channels[c][i] - at(c, terms)) > reach[c]) {
                return false;
            }
        }
        return true;
    }

    /** The commonest colour, by a coarse count of all three channels at once. */
    private double[] mode(boolean[] counts) {
        Map<Long, double[]> bins = new HashMap<>();
        for (int i = 0; i < counts.length; i += STRIDE) {
            if (counts[i]) {
                long key = Math.round(channels[0][i] / LUMA_STEP) * 1_000_000
                        + Math.round(channels[1][i] / TINT_STEP + 500) * 1_000
                        + Math.round(channels[2][i] / TINT_STEP + 500);
                double[] bin = bins.computeIfAbsent(key, k -> new double[4]);
                bin[3]++;
                for (int c = 0; c < 3; c++) {
                    bin[c] += channels[c][i];
                }
            }
        }
        double[] most =
                bins.values().stream().max((a, b) -> Double.compare(a[3], b[3])).orElse(new double[] {0, 0, 0, 1});
        return new double[] {most[0] / most[3], most[1] / most[3], most[2] / most[3]};
    }

    /** How far each pixel's colour is from the bare board's: the light counts less than the tint. */
    float[] distance() {
        float[] distance = new float[width * height];
        double[] terms = new double[TERMS];
        for (int i = 0; i < distance.length; i++) {
            terms(i, terms);
            double luma = channels[0][i] - at(0, terms);
            double red = channels[1][i] - at(1, terms);
            double blue = channels[2][i] - at(2, terms);
            distance[i] = (float) Math.sqrt(luma * luma + red * red + blue * blue);
        }
        return distance;
    }

    /** How much brighter each pixel is than the bare board there, natural logarithm. */
    float[] brighter() {
        float[] brighter = new float[width * height];
        double[] terms = new double[TERMS];
        for (int i = 0; i < brighter.length; i++) {
            terms(i, terms);
            brighter[i] = (float) (channels[0][i] - at(0, terms));
        }
        return brighter;
    }

    /** The bare board's light about the middle, of 255 steps. */
    double light() {
        return Math.exp(surface[0][0]) - FLOOR;
    }
}
