package ohmoscope.core.imaging;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import ohmoscope.core.board.InvalidMember;
import org.ejml.simple.SimpleMatrix;

/**
 * How a picture lies over the board, from clicked pairs.
 *
 * <p>The homography is fitted by least squares (Gauss–Newton on the pixel residuals). Clicks are off by a pixel or so
 * and there are few of them, while a camera over a bench looks almost straight down; so departures from a similarity
 * (tilt, shear, unequal scales) carry a small prior cost. It is lifted when the pairs contradict it. When one pair is
 * far off and the others agree, that pair is left out.
 *
 * @param residualsMm how far each pair is from the fit, board millimetres, in the pairs' order
 * @param leftOut the pair that was left out, if any
 * @param tilted whether the pairs only agree if the camera looks at the board from well aside; more often one of them is wrong
 * @param sigmaPx one standard error of a click, as the residuals tell
 * @param sigmaMm one standard error of a place near the picture's middle
 */
public record Registration(
        Homography homography,
        List<Double> residualsMm,
        OptionalInt leftOut,
        boolean tilted,
        double sigmaPx,
        double sigmaMm) {
    /** What a careful click is worth before the residuals speak, pixels. */
    private static final double CLICK_PX = 0.7;
    /** Prior of tilt and shear over the spread of the pairs, relative. */
    private static final double TILT_SIGMA = 0.025;
    /** A prior so wide that it holds nothing back. */
    private static final double LIFTED_SIGMA = 1;

    /** Chi-square that the prior may cost before it is lifted. */
    private static final double PRIOR_LIFT_CHI2 = 30;
    /** A pair is left out when it is further off than this and doing so mends the rest. */
    private static final double OUTLIER_PX = 3.5;

    private static final double OUTLIER_GAIN = 9;
    /** Click error above which one of few pairs may be plainly wrong, though a tilt of the camera makes up for most of it. */
    private static final double DOUBTFUL_PX = 1;

    /** Pairs whose spread across is less than this of that along lie on one line. */
    private static final double LEAST_SPREAD = 0.02;

    /** Click error above which a registration is called poor. */
    private static final double POOR_PX = 2.2;

    /** Neighbours stand nearer than this, mm. */
    private static final double LOOSE_MM = 1.5;

    public Registration {
        residualsMm = List.copyOf(residualsMm);
    }

    /** @throws InvalidMember when there are fewer than four pairs or they lie (nearly) on one line */
    public static void requireUsable(List<RegistrationPair> pairs) {
        if (pairs.size() < 4) {
            throw new InvalidMember(
                    "registration",
                    "needs at least four pairs, has " + pairs.size() + ": add board corners or fiducials");
        }
        if (!spreadOut(pairs)) {
            throw new InvalidMember(
                    "registration", "has all pairs on one line: add a pair well away from it, such as another corner");
        }
    }

    private static boolean spreadOut(List<RegistrationPair> pairs) {
        double[][] mm = pairs.stream().map(p -> new double[] {p.xMm(), p.yMm()}).toArray(double[][]::new);
        double[][] px = pairs.stream().map(p -> new double[] {p.xPx(), p.yPx()}).toArray(double[][]::new);
        return spreadRatio(mm) >= LEAST_SPREAD && spreadRatio(px) >= LEAST_SPREAD;
    }

    /** Root of the smaller over the larger eigenvalue of the scatter. */
    private static double spreadRatio(double[][] points) {
        double cx = 0;
        double cy = 0;
        for (double[] p : points) {
            cx += p[0] / points.length;
            cy += p[1] / points.length;
        }
        double xx = 0;
        double xy = 0;
        double yy = 0;
        for (double[] p : points) {
            xx += (p[0] - cx) * (p[0] - cx);
            xy += (p[0] - cx) * (p[1] - cy);
            yy += (p[1] - cy) * (p[1] - cy);
        }
        double mean = (xx + yy) / 2;
        double apart = Math.hypot((xx - yy) / 2, xy);
        return mean + apart > 0 ? Math.sqrt(Math.max(0, mean - apart) / (mean + apart)) : 0;
    }

    public static Registration fit(List<RegistrationPair> pairs) {
        requireUsable(pairs);
        PairFit all = PairFit.of(pairs, TILT_SIGMA, CLICK_PX);
        if (all.priorChi2() + all.chi2() > PRIOR_LIFT_CHI2) {
            PairFit lifted = PairFit.of(pairs, LIFTED_SIGMA, CLICK_PX);
            if (all.chi2() + all.priorChi2() - lifted.chi2() > PRIOR_LIFT_CHI2) {
                all = lifted;
            }
        }
        OptionalInt leftOut = OptionalInt.empty();
        if (pairs.size() >= 5 && all.worstPx() > OUTLIER_PX) {
            for (int i = 0; i < pairs.size(); i++) {
                List<RegistrationPair> rest = new ArrayList<>(pairs);
                rest.remove(i);
                PairFit without = usable(rest) ? PairFit.of(rest, TILT_SIGMA, CLICK_PX) : all;
                if (without.chi2() + without.priorChi2() < (all.chi2() + all.priorChi2()) / OUTLIER_GAIN
                        && (leftOut.isEmpty() || without.chi2() < all.chi2())) {
                    leftOut = OptionalInt.of(i);
                    all = without;
                }
            }
        }
        return of(pairs, leftOut, all);
    }

    /** Whether {@link #requireUsable} lets the pairs pass. */
    public static boolean usable(List<RegistrationPair> pairs) {
        try {
            requireUsable(pairs);
            return true;
        } catch (InvalidMember unusable) {
            return false;
        }
    }

    private static Registration of(List<RegistrationPair> pairs, OptionalInt leftOut, PairFit fit) {
        List<Double> residuals = new ArrayList<>();
        double pitch = 0;
        for (RegistrationPair pair : pairs) {
            double x = fit.map().xMm(pair.xPx(), pair.yPx()) - pair.xMm();
            double y = fit.map().yMm(pair.xPx(), pair.yPx()) - pair.yMm();
            residuals.add(Math.hypot(x, y));
            pitch += fit.map().pitchMm(pair.xPx(), pair.yPx()) / pairs.size();
        }
        int used = pairs.size() - (leftOut.isPresent() ? 1 : 0);
        // A similarity has four parameters, a lifted fit eight; two more degrees of freedom keep four pairs sane.
        double freedom = 2.0 * used - (fit.lifted() ? 8 : 4) + 2;
        double sigmaPx = CLICK_PX * Math.sqrt((fit.chi2() + (fit.lifted() ? 0 : fit.priorChi2()) + 2) / freedom);
        return new Registration(
                fit.map(), residuals, leftOut, fit.lifted(), sigmaPx, sigmaPx * pitch * Math.sqrt(2.0 / used));
    }

    /**
     * The same clicks with a map that something else than they has found. The residuals stay the clicks' own, so that the
     * pairs still count as poor.
     *
     * @param pairs where that map puts the pairs' places
     * @param placeSigmaPx one sigma of the map
     */
    public Registration mapped(List<RegistrationPair> pairs, double placeSigmaPx) {
        Registration found = fit(pairs);
        double pitch = pairs.stream()
                .mapToDouble(p -> found.homography.pitchMm(p.xPx(), p.yPx()))
                .average()
                .orElse(1);
        return new Registration(found.homography, residualsMm, leftOut, tilted, sigmaPx, placeSigmaPx * pitch);
    }

    /** Whether the pairs disagree by more than clicking explains, or say too little of where the board lies. */
    public boolean poor() {
        return sigmaPx > POOR_PX || leftOut.isPresent() || loose();
    }

    /** Whether the picture is laid so badly that it names no single part. */
    public boolean loose() {
        return sigmaMm > LOOSE_MM;
    }

    /** Whether the picture itself should be asked how the board lies: the pairs disagree, or agree at a price. */
    public boolean doubtful() {
        return tilted || sigmaPx > DOUBTFUL_PX;
    }

    /**
     * The map of a camera that looks nearly straight down, by few pairs.
     *
     * @return empty where there are fewer than three, or they lie nearly on one line
     */
    static Optional<Homography> straightDown(List<RegistrationPair> pairs) {
        return pairs.size() >= 3 && spreadOut(pairs)
                ? Optional.of(PairFit.of(pairs, TILT_SIGMA, CLICK_PX).map())
                : Optional.empty();
    }

    /** One weighted fit. Chi-squares are in units of the click's variance. */
    private record PairFit(Homography map, double chi2, double priorChi2, double worstPx, boolean lifted) {
        static PairFit of(List<RegistrationPair> pairs, double tiltSigma, double clickPx) {
            PairFit straight = new Solver(pairs, 1, tiltSigma, clickPx).solve();
            PairFit mirrored = new Solver(pairs, -1, tiltSigma, clickPx).solve();
            return straight.chi2 + straight.priorChi2 <= mirrored.chi2 + mirrored.priorChi2 ? straight : mirrored;
        }
    }

    /**
     * Gauss–Newton over the eight parameters in centred, scaled board axes with y down; {@code turn} −1 mirrors x, as a
     * picture of the bottom side does.
     */
    private static final class Solver {
        private final List<RegistrationPair> pairs;
        private final double turn;
        private final double tiltSigma;
        private final double clickPx;
        private final double cx;
        private final double cy;
        private final double spread;

        Solver(List<RegistrationPair> pairs, double turn, double tiltSigma, double clickPx) {
            this.pairs = pairs;
            this.turn = turn;
            this.tiltSigma = tiltSigma;
            this.clickPx = clickPx;
            cx = pairs.stream().mapToDouble(RegistrationPair::xMm).average().orElseThrow();
            cy = pairs.stream().mapToDouble(RegistrationPair::yMm).average().orElseThrow();
            spread = Math.sqrt(pairs.stream()
                    .mapToDouble(p -> Math.pow(p.xMm() - cx, 2) + Math.pow(p.yMm() - cy, 2))
                    .average()
                    .orElseThrow());
        }

        PairFit solve() {
            double[] h = similarity();
            double scale = Math.hypot(h[0], h[1]);
            for (int step = 0; step < 25; step++) {
                SimpleMatrix change = step(h, scale);
                double largest = 0;
                for (int i = 0; i < 8; i++) {
                    h[i] += change.get(i, 0);
                    largest = Math.max(largest, Math.abs(change.get(i, 0)));
                }
                if (largest < 1e-10) {
                    break;
                }
            }
            double chi2 = 0;
            double worst = 0;
            for (RegistrationPair pair : pairs) {
                double[] r = residual(h, pair);
                double off = Math.hypot(r[0], r[1]);
                chi2 += off * off / (clickPx * clickPx);
                worst = Math.max(worst, off);
            }
            double priorChi2 = 0;
            for (double t : tilts(h, scale)) {
                priorChi2 += t * t / (tiltSigma * tiltSigma);
            }
            return new PairFit(new Homography(inBoardAxes(h)), chi2, priorChi2, worst, tiltSigma >= LIFTED_SIGMA);
        }

        private double qx(RegistrationPair p) {
            return turn * (p.xMm() - cx) / spread;
        }

        private double qy(RegistrationPair p) {
            return -(p.yMm() - cy) / spread;
        }

        private double[] similarity() {
            int n = pairs.size();
            SimpleMatrix a = new SimpleMatrix(2 * n, 4);
            SimpleMatrix b = new SimpleMatrix(2 * n, 1);
            for (int i = 0; i < n; i++) {
                RegistrationPair p = pairs.get(i);
                a.setRow(2 * i, 0, qx(p), -qy(p), 1, 0);
                a.setRow(2 * i + 1, 0, qy(p), qx(p), 0, 1);
                b.set(2 * i, 0, p.xPx());
                b.set(2 * i + 1, 0, p.yPx());
            }
            SimpleMatrix s = a.solve(b);
            return new double[] {s.get(0, 0), -s.get(1, 0), s.get(2, 0), s.get(1, 0), s.get(0, 0), s.get(3, 0), 0, 0};
        }

        private double[] residual(double[] h, RegistrationPair p) {
            double w = 1 + h[6] * qx(p) + h[7] * qy(p);
            return new double[] {
                p.xPx() - (h[0] * qx(p) + h[1] * qy(p) + h[2]) / w, p.yPx() - (h[3] * qx(p) + h[4] * qy(p) + h[5]) / w
            };
        }

        /** Unequal scales, shear, and the two tilts; all zero for a similarity. */
        private static double[] tilts(double[] h, double scale) {
            return new double[] {(h[0] - h[4]) / (2 * scale), (h[1] + h[3]) / (2 * scale), h[6], h[7]};
        }

        private SimpleMatrix step(double[] h, double scale) {
            int n = pairs.size();
            SimpleMatrix j = new SimpleMatrix(2 * n + 4, 8);
            SimpleMatrix r = new SimpleMatrix(2 * n + 4, 1);
            for (int i = 0; i < n; i++) {
                RegistrationPair p = pairs.get(i);
                double x = qx(p);
                double y = qy(p);
                double w = 1 + h[6] * x + h[7] * y;
                double[] off = residual(h, p);
                double u = p.xPx() - off[0];
                double v = p.yPx() - off[1];
                j.setRow(2 * i, 0, x / w, y / w, 1 / w, 0, 0, 0, -u * x / w, -u * y / w);
                j.setRow(2 * i + 1, 0, 0, 0, 0, x / w, y / w, 1 / w, -v * x / w, -v * y / w);
                r.set(2 * i, 0, off[0]);
                r.set(2 * i + 1, 0, off[1]);
            }
            double pull = clickPx / tiltSigma;
            double[] t = tilts(h, scale);
            double half = pull / (2 * scale);
            j.setRow(2 * n, 0, half, 0, 0, 0, -half, 0, 0, 0);
            j.setRow(2 * n + 1, 0, 0, half, 0, half, 0, 0, 0, 0);
            j.setRow(2 * n + 2, 0, 0, 0, 0, 0, 0, 0, pull, 0);
            j.setRow(2 * n + 3, 0, 0, 0, 0, 0, 0, 0, 0, pull);
            for (int i = 0; i < 4; i++) {
                r.set(2 * n + i, 0, -pull * t[i]);
            }
            return j.solve(r);
        }

        private double[] inBoardAxes(double[] h) {
            SimpleMatrix scaled = new SimpleMatrix(3, 3, true, h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1);
            SimpleMatrix toScaled = new SimpleMatrix(
                    3, 3, true, turn / spread, 0, -turn * cx / spread, 0, -1 / spread, cy / spread, 0, 0, 1);
            SimpleMatrix all = scaled.mult(toScaled);
            double[] matrix = new double[9];
            for (int i = 0; i < 9; i++) {
                matrix[i] = all.get(i / 3, i % 3);
            }
            return matrix;
        }
    }
}
