package ohmoscope.core.heat;

/** e^(−x) by linear interpolation, right to 1e-5 of itself, for loops that need millions; from x = 32 on it is nothing. */
final class DecayTable {
    private static final int CELLS = 4096;
    private static final float PER_UNIT = 128;
    private static final float[] AT = new float[CELLS + 1];

    static {
        for (int i = 0; i < CELLS; i++) {
            AT[i] = (float) Math.exp(-i / PER_UNIT);
        }
    }

    private DecayTable() {}

    /** @param x not negative */
    static float at(double x) {
        float position = (float) (x * PER_UNIT);
        int cell = (int) position;
        return cell >= CELLS ? 0 : AT[cell] + (position - cell) * (AT[cell + 1] - AT[cell]);
    }

    /** The same of many values times a factor. */
    static void at(float[] x, float by, float[] out) {
        float perUnit = by * PER_UNIT;
        for (int i = 0; i < x.length; i++) {
            float position = Math.min(CELLS - 1, x[i] * perUnit);
            int cell = (int) position;
            out[i] = AT[cell] + (position - cell) * (AT[cell + 1] - AT[cell]);
        }
    }
}
