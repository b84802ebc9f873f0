package ohmoscope.core.locate;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;
import ohmoscope.core.locate.MovieFit.Nuisance;
import ohmoscope.core.locate.MovieFit.Nuisance.Kind;

/**
 * What the pictures say of the candidates without any model of the board. The less sure the heat model is of one part, the
 * more of what it gives to the parts is shared out as the pictures would have it: in a faint movie the model's errors, which
 * are broad, outweigh a rise of a few pixels.
 */
final class SecondOpinion {
    /** Of a rise's square, times the scatter, this is taken for evidence, nats: a normal one's half, less for heavy tails. */
    private static final double NATS = 0.3;

    private static final double MOST_NATS = 30;

    /** The pictures' share where the heat model prefers no part at all. Both: best on hunts of the two generators worked with. */
    private static final double SHARE = 0.6;

    /** What stands so near a probe or a series part is warmed by it, mm. */
    private static final double WARMED_MM = 2;

    private final List<Candidate> candidates;
    private final double[] times;

    private SecondOpinion(List<Candidate> candidates, double[] times) {
        this.candidates = candidates;
        this.times = times;
    }

    /** @param known what warms by right */
    static SecondOpinion of(List<CaptureModel> captures, List<Candidate> candidates, List<Nuisance> known) {
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
    Optional<StandsOut> strongest() {
        return IntStream.range(0, times.length)
                .boxed()
                .max(Comparator.comparingDouble(i -> times[i]))
                .filter(i -> times[i] > 0)
                .map(i -> new StandsOut(candidates.get(i).part().ref(), times[i]));
    }

    /**
     * Probabilities with the pictures' share in them.
     *
     * @param p one a candidate, and what belongs to none of them behind; changed and handed back
     */
    double[] sharedOut(double[] p) {
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
}
