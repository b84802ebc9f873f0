package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.evidence.ProbePlace;
import org.ejml.simple.SimpleMatrix;

/**
 * Finds a short by the drop along the copper: with amperes in the rail, the volts across each capacitor's own terminals are
 * lowest at the one that takes them, and the same everywhere beyond it, where nothing flows. How the copper runs nobody knows
 * without its drawing: the rail is taken for strips between neighbouring pads, of widths drawn at random many times over
 * (a Monte Carlo mean over what is not known, as in Robert and Casella, <i>Monte Carlo Statistical Methods</i>, 2004, ch. 3);
 * ground for a sheet, whose potential goes with the logarithm of the distances (Haus and Melcher, <i>Electromagnetic Fields
 * and Energy</i>, 1989, ch. 7). What the short itself takes is fitted each time.
 *
 * <p>O(drawings × (pads³ + suspects × readings)) time, O(drawings × pads²) memory.
 *
 * @param suspects most probable first; the sum of probabilities is 1
 * @param next where to read next, so that what remains parts best; empty where every suspect was read
 * @param called the one that stands alone: probable enough, read itself as its nearest were, and no reading below its own;
 *     empty while there is none
 */
public record MillivoltWalk(List<Suspect> suspects, Optional<String> next, Optional<String> called) {
    /** How copper runs is only guessed at: surer than a picture has to be. */
    private static final double SURE = 0.97;

    private static final int LEAST_POINTS = 6;
    /** A suspect that leads so far is read itself before others, and then so many beside it. */
    private static final double LEADS = 0.5;

    private static final int BESIDE = 3;
    /** Two readings that differ by less may be the same, standard deviations of their difference. */
    private static final double SAME = 2.5;

    /** What a pad spreads the current over. */
    private static final double PAD_MM = 0.45;

    /** Of the drop that a drawing predicts, so much is left to chance besides. */
    private static final double MODEL_SHARE = 0.35;
    /** A meter's last digit and the probe's hand, volts. */
    private static final double HAND_VOLTS = 5e-5;

    /** One ounce of copper, siemens a square. */
    private static final double SHEET_SIEMENS = 2000;

    private static final double USUAL_UM = 35;
    /** Likeliest width of a strip between two pads, and how far it may be off, natural log. */
    private static final double STRIP_MM = 3;

    private static final double STRIP_SPREAD = 0.8;
    /** How far all of a drawing's copper may be off together, natural log. */
    private static final double ALL_SPREAD = 0.5;

    private static final int NEIGHBOURS = 4;
    private static final int DRAWINGS = 400;
    private static final long SEED = 20;
    /** The short itself has anything up to here. */
    private static final double SHORT_OHMS = 1;

    public MillivoltWalk {
        suspects = List.copyOf(suspects);
    }

    /**
     * A reading across a part's own terminals.
     *
     * @param volts between its rail's pad and its ground's
     */
    public record Point(String ref, double volts) {}

    /** Who it may be. @param xMm where its pad on the rail is */
    public record Suspect(String ref, double probability, double xMm, double yMm) {}

    /** A part that hangs between rail and ground, by its two pads. */
    private record Terminals(String ref, PointMm rail, PointMm ground) {}

    /** A rail's copper as it may be drawn, with its readable parts; made once for a walk. */
    public static final class Copper {
        private final List<Terminals> all;
        private final Drawings drawings;

        /**
         * @param hot where the current enters the rail
         * @param back where it leaves ground
         */
        public Copper(Board board, String rail, String ground, ProbePlace hot, ProbePlace back) {
            all = terminals(board, rail, ground);
            drawings = new Drawings(board, all, new PointMm(hot.xMm(), hot.yMm()), new PointMm(back.xMm(), back.yMm()));
        }

        /** What can be read and suspected, by reference. */
        public List<String> readable() {
            return all.stream().map(Terminals::ref).toList();
        }
    }

    /**
     * @param amps what flows
     * @param noiseVolts of one reading, one sigma
     */
    public static MillivoltWalk of(Copper copper, double amps, double noiseVolts, List<Point> points) {
        Check.positive("amps", amps);
        List<Terminals> all = copper.all;
        Drawings drawings = copper.drawings;
        if (all.isEmpty()) {
            return new MillivoltWalk(List.of(), Optional.empty(), Optional.empty());
        }
        // By the ampere: the drawings are.
        List<Read> read = points.stream()
                .flatMap(p -> all.stream()
                        .filter(t -> t.ref().equals(p.ref()))
                        .map(t -> new Read(all.indexOf(t), p.volts() / amps)))
                .toList();
        double noise = Math.hypot(noiseVolts, HAND_VOLTS) / amps;
        double[][] nats = new double[all.size()][];
        double top = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < nats.length; i++) {
            nats[i] = drawings.nats(i, read, noise);
            double above = aboveLowest(i, read, noise);
            for (int d = 0; d < nats[i].length; d++) {
                nats[i][d] -= above * above / 2;
            }
            top = Math.max(top, Arrays.stream(nats[i]).max().orElseThrow());
        }
        double[] weight = new double[nats.length];
        double sum = 0;
        for (int i = 0; i < nats.length; i++) {
            for (double n : nats[i]) {
                weight[i] += Math.exp(n - top);
            }
            sum += weight[i];
        }
        List<Suspect> suspects = new ArrayList<>();
        for (int i = 0; i < nats.length; i++) {
            suspects.add(new Suspect(
                    all.get(i).ref(),
                    weight[i] / sum,
                    all.get(i).rail().xMm(),
                    all.get(i).rail().yMm()));
        }
        Optional<String> next = next(all, read, drawings, nats, top);
        suspects.sort(
                Comparator.comparingDouble(Suspect::probability).reversed().thenComparing(Suspect::ref));
        Suspect first = suspects.get(0);
        int leader = all.stream().map(Terminals::ref).toList().indexOf(first.ref());
        Optional<String> unread = first.probability() < LEADS || read.size() < LEAST_POINTS - 1
                ? Optional.empty()
                : unreadAbout(all, leader, read);
        boolean alone = unread.isEmpty()
                && read.size() >= LEAST_POINTS
                && first.probability() >= SURE
                && aboveLowest(leader, read, noise) < SAME;
        return new MillivoltWalk(suspects, unread.or(() -> next), alone ? Optional.of(first.ref()) : Optional.empty());
    }

    /** The suspect itself, then its nearest: a lowest reading is one only beside others. */
    private static Optional<String> unreadAbout(List<Terminals> all, int suspect, List<Read> read) {
        PointMm at = all.get(suspect).rail();
        return IntStream.range(0, all.size())
                .boxed()
                .sorted(Comparator.comparingDouble(
                        i -> i == suspect ? -1 : all.get(i).rail().distanceMm(at.xMm(), at.yMm())))
                .limit(1L + BESIDE)
                .filter(i -> read.stream().noneMatch(r -> r.at() == i))
                .map(i -> all.get(i).ref())
                .findFirst();
    }

    /**
     * How far a suspect's own reading is above the lowest one, standard deviations of their difference; 0 where it was not
     * read. Where the current goes through, the volts between rail and ground are the lowest of all: neither plane has a
     * source or sink elsewhere (the maximum principle, Haus and Melcher, as above, ch. 7).
     */
    private static double aboveLowest(int suspect, List<Read> read, double noise) {
        double lowest = read.stream().mapToDouble(Read::ohms).min().orElse(0);
        return read.stream()
                .filter(r -> r.at() == suspect)
                .mapToDouble(r -> (r.ohms() - lowest) / (Math.sqrt(2) * noise))
                .max()
                .orElse(0);
    }

    private record Read(int at, double ohms) {}

    /** Whether a part can be read and suspected: two pads, one on the rail and one on ground, or a chip with both. */
    private static List<Terminals> terminals(Board board, String rail, String ground) {
        List<Terminals> all = new ArrayList<>();
        for (Part part : board.parts()) {
            Optional<Pin> hot =
                    part.pins().stream().filter(p -> p.net().equals(rail)).findFirst();
            Optional<Pin> cold =
                    part.pins().stream().filter(p -> p.net().equals(ground)).findFirst();
            if (hot.isPresent() && cold.isPresent()) {
                all.add(new Terminals(part.ref(), place(hot.get()), place(cold.get())));
            }
        }
        return all;
    }

    private static PointMm place(Pin pin) {
        return new PointMm(pin.xMm(), pin.yMm());
    }

    /** Ohms between the terminals besides the short's own, as each drawing of the copper has them for each suspect. */
    private static final class Drawings {
        private final int suspects;
        /** {@code [drawing][suspect · suspects + at]}. */
        private final double[][] drop = new double[DRAWINGS][];

        Drawings(Board board, List<Terminals> all, PointMm hot, PointMm back) {
            suspects = all.size();
            Random random = new Random(SEED);
            double sheet = SHEET_SIEMENS * board.copperUm() / USUAL_UM;
            double ground = sheet * Math.max(1, board.copperLayers() / 2.0);
            List<PointMm> pads =
                    new ArrayList<>(all.stream().map(Terminals::rail).toList());
            pads.add(hot);
            int[][] joined = joined(pads);
            for (int d = 0; d < DRAWINGS; d++) {
                SimpleMatrix z = strips(pads, joined, sheet * spread(ALL_SPREAD, random), random);
                double ofGround = ground * spread(ALL_SPREAD, random);
                drop[d] = new double[suspects * suspects];
                int source = suspects;
                for (int s = 0; s < suspects; s++) {
                    for (int at = 0; at < suspects; at++) {
                        // Volts against the sink, a current going from the source to it, by superposition.
                        double rail = z.get(at, source) - z.get(at, s) - z.get(s, source) + z.get(s, s);
                        double plane =
                                plane(all.get(at).ground(), back, all.get(s).ground()) / ofGround;
                        drop[d][s * suspects + at] = rail + plane;
                    }
                }
            }
        }

        private static double spread(double sigma, Random random) {
            return Math.exp(sigma * random.nextGaussian());
        }

        /** Ohms times siemens a square between a place and the sink of a sheet, with the source elsewhere. */
        private static double plane(PointMm at, PointMm source, PointMm sink) {
            return (Math.log(distance(at, sink) / PAD_MM) - Math.log(distance(at, source) / distance(sink, source)))
                    / (2 * Math.PI);
        }

        private static double distance(PointMm a, PointMm b) {
            return Math.max(PAD_MM, a.distanceMm(b.xMm(), b.yMm()));
        }

        /** Each pad with its nearest, and as many more as make one piece of it (Prim, 1957). */
        private static int[][] joined(List<PointMm> pads) {
            int n = pads.size();
            Set<Long> edges = new TreeSet<>();
            for (int i = 0; i < n; i++) {
                int from = i;
                IntStream.range(0, n)
                        .filter(k -> k != from)
                        .boxed()
                        .sorted(Comparator.comparingDouble(k -> distance(pads.get(from), pads.get(k))))
                        .limit(NEIGHBOURS)
                        .forEach(k -> edges.add(edge(from, k, n)));
            }
            boolean[] in = new boolean[n];
            in[0] = true;
            for (int step = 1; step < n; step++) {
                int a = -1;
                int b = -1;
                double least = Double.POSITIVE_INFINITY;
                for (int i = 0; i < n; i++) {
                    for (int k = 0; k < n; k++) {
                        double mm = distance(pads.get(i), pads.get(k));
                        if (in[i] && !in[k] && mm < least) {
                            least = mm;
                            a = i;
                            b = k;
                        }
                    }
                }
                in[b] = true;
                edges.add(edge(a, b, n));
            }
            return edges.stream()
                    .map(e -> new int[] {(int) (e / n), (int) (e % n)})
                    .toArray(int[][]::new);
        }

        private static long edge(int a, int b, int n) {
            return (long) Math.min(a, b) * n + Math.max(a, b);
        }

        /** Ohms of a network of strips, every pad against the last one. */
        private static SimpleMatrix strips(List<PointMm> pads, int[][] joined, double sheet, Random random) {
            int n = pads.size();
            SimpleMatrix laplacian = new SimpleMatrix(n, n);
            for (int[] edge : joined) {
                double siemens = sheet
                        * STRIP_MM
                        * spread(STRIP_SPREAD, random)
                        / distance(pads.get(edge[0]), pads.get(edge[1]));
                laplacian.set(edge[0], edge[0], laplacian.get(edge[0], edge[0]) + siemens);
                laplacian.set(edge[1], edge[1], laplacian.get(edge[1], edge[1]) + siemens);
                laplacian.set(edge[0], edge[1], laplacian.get(edge[0], edge[1]) - siemens);
                laplacian.set(edge[1], edge[0], laplacian.get(edge[1], edge[0]) - siemens);
            }
            // One pad held at nothing makes it regular; differences are the same whichever it is.
            SimpleMatrix held = laplacian.extractMatrix(0, n - 1, 0, n - 1).invert();
            SimpleMatrix z = new SimpleMatrix(n, n);
            z.insertIntoThis(0, 0, held);
            return z;
        }

        double drop(int drawing, int suspect, int at) {
            return drop[drawing][suspect * suspects + at];
        }

        /** Log likelihood of the readings by each drawing, the short's own ohms fitted. */
        double[] nats(int suspect, List<Read> read, double noise) {
            double[] nats = new double[DRAWINGS];
            for (int d = 0; d < DRAWINGS; d++) {
                double precision = 1 / (SHORT_OHMS * SHORT_OHMS);
                double pull = 0;
                double squares = 0;
                double logs = 0;
                for (Read one : read) {
                    double expected = drop(d, suspect, one.at());
                    double variance = noise * noise + Math.pow(MODEL_SHARE * expected, 2);
                    double off = one.ohms() - expected;
                    precision += 1 / variance;
                    pull += off / variance;
                    squares += off * off / variance;
                    logs += Math.log(variance) / 2;
                }
                nats[d] = -(squares - pull * pull / precision) / 2 - logs - Math.log(precision) / 2;
            }
            return nats;
        }

        /** The short's own ohms, fitted. */
        double ownOhms(int drawing, int suspect, List<Read> read) {
            return read.stream()
                    .mapToDouble(r -> r.ohms() - drop(drawing, suspect, r.at()))
                    .average()
                    .orElse(0);
        }
    }

    /** The point whose reading is least known before it is taken; before any reading the middle one. */
    private static Optional<String> next(
            List<Terminals> all, List<Read> read, Drawings drawings, double[][] nats, double top) {
        List<Integer> open = IntStream.range(0, all.size())
                .filter(i -> read.stream().noneMatch(r -> r.at() == i))
                .boxed()
                .toList();
        if (read.isEmpty()) {
            double x = all.stream().mapToDouble(t -> t.rail().xMm()).average().orElse(0);
            double y = all.stream().mapToDouble(t -> t.rail().yMm()).average().orElse(0);
            return open.stream()
                    .min(Comparator.comparingDouble(i -> all.get(i).rail().distanceMm(x, y)))
                    .map(i -> all.get(i).ref());
        }
        double[] between = new double[all.size()];
        double[] mean = new double[all.size()];
        double[] square = new double[all.size()];
        for (int s = 0; s < nats.length; s++) {
            double weight = 0;
            double[] own = new double[all.size()];
            for (int d = 0; d < DRAWINGS; d++) {
                double w = Math.exp(nats[s][d] - top);
                if (w < 1e-6) {
                    continue;
                }
                double volts = drawings.ownOhms(d, s, read);
                weight += w;
                for (int at : open) {
                    own[at] += w * (volts + drawings.drop(d, s, at));
                }
            }
            for (int at : open) {
                double m = weight > 0 ? own[at] / weight : 0;
                between[at] += weight;
                mean[at] += weight * m;
                square[at] += weight * m * m;
            }
        }
        return open.stream()
                .max(Comparator.comparingDouble(at -> square[at] / between[at] - Math.pow(mean[at] / between[at], 2)))
                .map(at -> all.get(at).ref());
    }
}
