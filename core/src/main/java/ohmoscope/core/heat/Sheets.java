package ohmoscope.core.heat;

/**
 * A board cut into equal sheets, each joined to the next by what lies between. At first all heat is in an outer one.
 * Values are over the mean through the thickness; a slab alike throughout is the limit of many sheets
 * (Carslaw and Jaeger, Conduction of Heat in Solids, 2nd ed., §14.2).
 */
public final class Sheets {
    /** Copper lies in sheets: heat spreads along the first before it goes on. Pictures tell about three apart. */
    public static final Sheets FEW = new Sheets(3);

    /** About a slab alike throughout: the source's own place stands out sharply. */
    public static final Sheets MANY = new Sheets(32);

    /** By mode over the thickness, the even one left out: how much of it an outer sheet has. */
    private final double[] share;

    /** How fast it dies away, per τ₁. */
    private final double[] rate;

    private final int count;

    private Sheets(int count) {
        this.count = count;
        share = new double[count];
        rate = new double[count];
        for (int n = 1; n < count; n++) {
            double half = n * Math.PI / (2 * count);
            share[n] = 2 * Math.pow(Math.cos(half), 2);
            rate[n] = Math.pow(2 * count / Math.PI * Math.sin(half), 2);
        }
    }

    public int count() {
        return count;
    }

    /** Where the heat is released, so many τ₁ later: as many times the mean as there are sheets at first, 1 in the end. */
    public double near(double crossings) {
        return factor(crossings, 1);
    }

    /** On the other face: 0 at first, 1 in the end. */
    public double far(double crossings) {
        return factor(crossings, -1);
    }

    /** @param odd sign of the odd modes */
    private double factor(double crossings, int odd) {
        double sum = 1;
        for (int n = 1; n < count; n++) {
            sum += (n % 2 == 0 ? 1 : odd) * share[n] * Math.exp(-rate[n] * crossings);
        }
        return sum;
    }
}
