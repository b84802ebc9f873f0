package ohmoscope.core.locate.posterior;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.model.CaptureModel;

/**
 * What the pictures say of the candidates without any model of the board. The less sure the heat model is of one part, the
 * more of what it gives to the parts is shared out as the pictures would have it: in a faint movie the model's errors, which
 * are broad, outweigh a rise of a few pixels.
 */
public final class SecondOpinion {
    /** Of a rise's square, times the scatter, this is taken for evidence, nats: a normal one's half, less for heavy tails. */
    private static final double NATS = 0.3;

    private static final double MOST_NATS = 30;

    /** The pictures' share where the heat model prefers no part at all. Both: best on hunts of the two generators worked with. */
    private static final double SHARE = 0.6;

    /**
     * Heat that comes through the board arrives broad and weak. From so many times the scatter on, a spot on one of the rail's
     * parts that a camera saw speaks against the parts of the other face that stand out less by far, or were not seen: a nat
     * for each so many times more, at most so many nats. Of 13 hunts whose fault no camera saw, the most that a part on the
     * seen face stood out was 24, where the fault itself was seen 300.
     */
    private static final double NARROW_FROM = 30;

    private static final double NARROW_PER_NAT = 10;
    private static final double NARROW_MOST_NATS = 6;
    private static final double LESS_BY_FAR = 0.3;

    /** What stands so near a probe or a series part is warmed by it, mm. */
    private static final double WARMED_MM = 2;

    private final List<Candidate> candidates;
    private final double[] times;

    private SecondOpinion(List<Candidate> candidates, double[] times) {
        this.candidates = candidates;
        this.times = times;
    }

    /** @param known what warms by right */
    public static SecondOpinion of(List<CaptureModel> captures, List<Candidate> candidates, List<Nuisance> known) {
        List<PlainPicture> pictures =
                captures.parallelStream().map(PlainPicture::new).toList();
        double[] times = candidates.parallelStream()
                .mapToDouble(candidate -> warmed(candidate, known)
                        ? 0
                        : pictures.stream()
                                .map(picture -> picture.of(candidate.part()))
                                .filter(OptionalDouble::isPresent)
                                .mapToDouble(OptionalDouble::getAsDouble)
                                .max()
                                .orElse(0))
                .toArray();
        return new SecondOpinion(candidates, times);
    }

    private static boolean warmed(Candidate candidate, List<Nuisance> known) {
        return known.stream()
                .filter(n -> n.kind() == Kind.CONTACT || n.kind() == Kind.SERIES_PART)
                .flatMap(n -> n.sources().stream())
                .anyMatch(at -> at.side() == candidate.part().side()
                        && candidate.part().besideMm(at.xMm(), at.yMm()) < WARMED_MM);
    }

    /** What stands out most, if anything does. */
    public Optional<StandsOut> strongest() {
        return first().map(i -> new StandsOut(candidates.get(i).part().ref(), times[i]));
    }

    /** The candidate that stands out most, if any does. */
    private Optional<Integer> first() {
        return IntStream.range(0, times.length)
                .boxed()
                .max(Comparator.comparingDouble(i -> times[i]))
                .filter(i -> times[i] > 0);
    }

    /**
     * Probabilities with the pictures' share in them.
     *
     * @param p one a candidate, and what belongs to none of them behind; changed and handed back
     */
    public double[] sharedOut(double[] p) {
        thisFace(p);
        double parts = 0;
        double most = 0;
        double sum = 0;
        double[] weight = new double[times.length];
        for (int i = 0; i < weight.length; i++) {
            parts += p[i];
            most = Math.max(most, p[i]);
            double rise = Math.max(0, times[i]);
            weight[i] = candidates.get(i).prior() * Math.exp(Math.min(MOST_NATS, NATS * rise * rise));
            sum += weight[i];
        }
        if (parts > 0 && sum > 0) {
            double unsure = 1 - most / parts;
            double share = SHARE * unsure * unsure;
            for (int i = 0; i < weight.length; i++) {
                p[i] = (1 - share) * p[i] + share * parts * weight[i] / sum;
            }
        }
        return p;
    }

    /** Takes from the parts on one face what a narrow spot on the other leaves them. */
    private void thisFace(double[] p) {
        int first = first().orElse(-1);
        if (first < 0 || times[first] <= NARROW_FROM) {
            return;
        }
        double most = times[first];
        Side face = candidates.get(first).part().side();
        double left = Math.exp(-Math.min(NARROW_MOST_NATS, (most - NARROW_FROM) / NARROW_PER_NAT));
        double before = 0;
        double after = 0;
        double[] kept = new double[times.length];
        for (int i = 0; i < times.length; i++) {
            boolean other = candidates.get(i).part().side() != face && times[i] < LESS_BY_FAR * most;
            kept[i] = other ? left * p[i] : p[i];
            before += p[i];
            after += kept[i];
        }
        for (int i = 0; after > 0 && i < times.length; i++) {
            p[i] = kept[i] * before / after;
        }
    }
}
