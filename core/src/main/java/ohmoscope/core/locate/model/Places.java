package ohmoscope.core.locate.model;

/** Places on the board, and the rectangle round them; the arrays are kept, and read up to {@code count}. */
public final class Places {
    private final float[] xMm;
    private final float[] yMm;
    private final int count;
    private final float lowXMm;
    private final float highXMm;
    private final float lowYMm;
    private final float highYMm;

    public Places(float[] xMm, float[] yMm, int count) {
        this.xMm = xMm;
        this.yMm = yMm;
        this.count = count;
        float lowX = Float.POSITIVE_INFINITY;
        float lowY = Float.POSITIVE_INFINITY;
        float highX = Float.NEGATIVE_INFINITY;
        float highY = Float.NEGATIVE_INFINITY;
        for (int i = 0; i < count; i++) {
            lowX = Math.min(lowX, xMm[i]);
            highX = Math.max(highX, xMm[i]);
            lowY = Math.min(lowY, yMm[i]);
            highY = Math.max(highY, yMm[i]);
        }
        lowXMm = lowX;
        highXMm = highX;
        lowYMm = lowY;
        highYMm = highY;
    }

    public int count() {
        return count;
    }

    /** No place is nearer to this one, mm². */
    public double nearest2(double ofXMm, double ofYMm) {
        double dx = Math.max(0, Math.max(lowXMm - ofXMm, ofXMm - highXMm));
        double dy = Math.max(0, Math.max(lowYMm - ofYMm, ofYMm - highYMm));
        return dx * dx + dy * dy;
    }

    /** Squares of all distances from one place, mm². */
    public void squares(float ofXMm, float ofYMm, float[] r2Mm2) {
        for (int i = 0; i < count; i++) {
            float dx = xMm[i] - ofXMm;
            float dy = yMm[i] - ofYMm;
            r2Mm2[i] = dx * dx + dy * dy;
        }
    }
}
