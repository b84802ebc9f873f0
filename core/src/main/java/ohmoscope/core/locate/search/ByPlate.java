package ohmoscope.core.locate.search;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.SlabResponse;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.fit.NonNegativeFit;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Candidates;

/**
 * What a plain plate says, as a baseline: the board as one sheet, alike everywhere and as its thickness and copper lead one
 * to expect; the picture of power on less power off as one point of heat at a part, one at each lead, and a level. Nothing is
 * fitted but their watts. O(pixels × candidates) a capture.
 */
public final class ByPlate {
    /** Heat crosses a plain plate at once, s: it has no faces. */
    private static final double CROSS_S = 1e-3;

    /** One sigma of a part's own size, mm; half a pixel's blur is added. */
    private static final double SOURCE_MM = 0.6;

    private static final double TABLE_MM = 0.1;
    private static final double LAG_S = 0.1;

    private ByPlate() {}

    /**
     * @return candidates of the rail, the one that explains the pictures best first; in no order without captures or power
     * @throws IOException when frames cannot be read
     */
    public static List<Part> ranked(LocateInput input) throws IOException {
        List<Part> parts = Candidates.on(input).stream().map(Candidate::part).toList();
        Waveform power = Waveform.resistive(input.supplyLog());
        double[] gain = new double[parts.size()];
        for (Capture capture : input.captures()) {
            if (!power.silent()) {
                Picture picture = Picture.of(capture, input, power);
                IntStream.range(0, gain.length).parallel().forEach(i -> gain[i] += picture.gain(parts.get(i)));
            }
        }
        return IntStream.range(0, gain.length)
                .boxed()
                .sorted(Comparator.comparingDouble(i -> -gain[i]))
                .map(parts::get)
                .toList();
    }

    /**
     * A capture's contrast of power on and off, on the board.
     *
     * @param xMm where each pixel looks, those off the board left out
     * @param kelvin one a pixel, less their mean, as all that is held against it
     * @param byDistance what a watt at a distance of so many {@link #TABLE_MM} comes to
     * @param leads what each lead's watt comes to, one a pixel
     */
    private record Picture(double[] xMm, double[] yMm, double[] kelvin, double[] byDistance, List<double[]> leads) {
        static Picture of(Capture capture, LocateInput input, Waveform power) throws IOException {
            CaptureSpec spec = capture.spec();
            double[] timesS = spec.times();
            double[] factors = contrast(power, timesS);
            double[] counts = SummedFrames.of(capture, factors);
            Homography map = Registration.fit(spec.registration()).homography();
            Outline.Inside inside = input.board().outline().inside();
            int[] seen = IntStream.range(0, counts.length)
                    .filter(i -> inside.test(
                            map.xMm(i % spec.width(), i / spec.width()), map.yMm(i % spec.width(), i / spec.width())))
                    .toArray();
            double[] xMm = new double[seen.length];
            double[] yMm = new double[seen.length];
            double[] kelvin = new double[seen.length];
            for (int k = 0; k < seen.length; k++) {
                int column = seen[k] % spec.width();
                int row = seen[k] / spec.width();
                xMm[k] = map.xMm(column, row);
                yMm[k] = map.yMm(column, row);
                kelvin[k] = counts[seen[k]] * spec.kelvinPerCount();
            }
            centre(kelvin);
            double[] byDistance =
                    byDistance(input, power, timesS, factors, map.pitchMm(spec.width() / 2.0, spec.height() / 2.0));
            Picture bare = new Picture(xMm, yMm, kelvin, byDistance, List.of());
            List<double[]> leads = new ArrayList<>();
            for (Optional<ProbePlace> lead : List.of(
                    input.injection().flatMap(Injection::at), input.injection().flatMap(Injection::returnAt))) {
                lead.ifPresent(place -> leads.add(bare.watt(place.xMm(), place.yMm())));
            }
            return new Picture(xMm, yMm, kelvin, byDistance, leads);
        }

        /** Frames with power less those without, so that a level that stays takes no part. */
        private static double[] contrast(Waveform power, double[] timesS) {
            double[] factors = new double[timesS.length];
            double mean = 0;
            for (int f = 0; f < factors.length; f++) {
                factors[f] = power.at(timesS[f]);
                mean += factors[f] / factors.length;
            }
            for (int f = 0; f < factors.length; f++) {
                factors[f] = (factors[f] - mean) / factors.length;
            }
            return factors;
        }

        private static double[] byDistance(
                LocateInput input, Waveform power, double[] timesS, double[] factors, double pixelMm) {
            SlabParameters expected = SlabParameters.expected(input.board());
            SlabParameters plate = new SlabParameters(
                    expected.diffusivityMm2PerS(), expected.lossS(), CROSS_S, expected.jouleMm2PerK());
            TimeKernel kernel = new TimeKernel(power, timesS, 0, LAG_S);
            double[] nodes = kernel.summed(factors);
            Outline outline = input.board().outline();
            double farthest = Math.hypot(outline.maxXMm() - outline.minXMm(), outline.maxYMm() - outline.minYMm());
            double[] table = new double[(int) (farthest / TABLE_MM) + 2];
            for (int i = 0; i < table.length; i++) {
                for (int n = 0; n < nodes.length; n++) {
                    table[i] += nodes[n]
                            * SlabResponse.impulse(
                                    plate,
                                    true,
                                    i * TABLE_MM,
                                    kernel.delayS(n),
                                    SOURCE_MM * SOURCE_MM + pixelMm * pixelMm / 4);
                }
            }
            return table;
        }

        private double[] watt(double atXMm, double atYMm) {
            double[] column = new double[xMm.length];
            for (int k = 0; k < column.length; k++) {
                double position = Math.hypot(xMm[k] - atXMm, yMm[k] - atYMm) / TABLE_MM;
                int cell = Math.min(byDistance.length - 2, (int) position);
                double share = Math.min(1, position - cell);
                column[k] = byDistance[cell] + share * (byDistance[cell + 1] - byDistance[cell]);
            }
            centre(column);
            return column;
        }

        /** Takes the mean out: the level is free. */
        private static void centre(double[] column) {
            double mean = Arrays.stream(column).average().orElse(0);
            for (int i = 0; i < column.length; i++) {
                column[i] -= mean;
            }
        }

        /** What is explained, K², with heat at a part besides the leads'. */
        double gain(Part part) {
            List<double[]> columns = new ArrayList<>(leads);
            columns.add(watt(part.xMm(), part.yMm()));
            int n = columns.size();
            double[][] gram = new double[n][n];
            double[] rhs = new double[n];
            for (int i = 0; i < n; i++) {
                rhs[i] = product(columns.get(i), kelvin);
                for (int j = 0; j <= i; j++) {
                    gram[i][j] = product(columns.get(i), columns.get(j));
                    gram[j][i] = gram[i][j];
                }
            }
            return NonNegativeFit.solve(gram, rhs, new double[n]);
        }

        private static double product(double[] a, double[] b) {
            double sum = 0;
            for (int i = 0; i < a.length; i++) {
                sum += a[i] * b[i];
            }
            return sum;
        }
    }
}
