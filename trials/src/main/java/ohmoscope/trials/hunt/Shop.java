package ohmoscope.trials.hunt;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import ohmoscope.bench.truth.Hidden;
import ohmoscope.bench.truth.Hidden.Defect;
import ohmoscope.bench.truth.Hidden.Kind;
import ohmoscope.bench.truth.Hidden.Path;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.diagnose.Experience;
import ohmoscope.trials.hunt.Hunts.End;
import ohmoscope.trials.hunt.Hunts.Player;
import ohmoscope.trials.hunt.Hunts.Told;

/**
 * A shop that sees the same models again and again: some models often, and on each of them some faults far more often than
 * others. Its jobs are played in order, with what earlier ones have shown or without. Same seed, same jobs; whether it
 * remembers changes nothing of what comes in.
 */
public final class Shop {
    private static final int USUAL_FAULTS = 5;
    private static final List<Kind> ANY = List.of(Kind.values());
    /** What a model may have by its making; a repair that is not well done is nobody's usual fault. */
    private static final List<Kind> USUAL =
            ANY.stream().filter(k -> k != Kind.AFTER_REPAIR).toList();

    private static final int MOST_TRIES = 60;
    /** A drawn fault of the same place has other ohms each time: by a factor of e to this, one sigma. */
    private static final double OHMS_SIGMA = 0.7;

    private final List<Model> models;
    private final List<Job> jobs;

    /**
     * What comes in.
     *
     * @param models how many kinds of boards
     * @param usual share of the jobs that have one of their model's usual faults, 0 to 1
     * @param changesAt number of the job from which on every model's usual faults are others; 0 for never
     */
    public record Mix(int models, int jobs, double usual, int changesAt) {
        public Mix {
            if (models < 1 || jobs < 1 || !(usual >= 0 && usual <= 1) || changesAt < 0) {
                throw new IllegalArgumentException("a shop needs a model, a job and a share from 0 to 1, was " + models
                        + ", " + jobs + ", " + usual);
            }
        }
    }

    private record Model(BoardIndex board, List<Hidden> first, List<Hidden> later) {}

    private record Job(int model, Hidden hidden, long seed) {}

    public Shop(long seed, Mix mix) {
        Random random = new Random(seed * 6_700_417 + 11);
        List<Model> drawn = new ArrayList<>();
        for (int i = 0; i < mix.models; i++) {
            Board board = RandomBoard.draw(seed * 10_000 + i);
            BoardIndex index = new BoardIndex(board);
            drawn.add(new Model(index, usual(index, random), usual(index, random)));
        }
        models = List.copyOf(drawn);
        double[] often = shares(mix.models, random);
        double[] faults = shares(USUAL_FAULTS, random);
        List<Job> all = new ArrayList<>();
        for (int i = 0; i < mix.jobs; i++) {
            int model = pick(often, random);
            Model m = models.get(model);
            List<Hidden> usual = mix.changesAt > 0 && i >= mix.changesAt ? m.later : m.first;
            Hidden hidden = random.nextDouble() < mix.usual
                    ? again(usual.get(pick(faults, random)), random)
                    : any(ANY, m.board, random);
            all.add(new Job(model, hidden, seed * 100_000 + i));
        }
        jobs = List.copyOf(all);
    }

    /** The jobs in order. @param remembers whether each proven one is kept for the next of its model */
    public List<Told> play(boolean remembers) {
        Map<Integer, Deque<Experience.Case>> kept = new HashMap<>();
        List<Told> told = new ArrayList<>();
        for (Job job : jobs) {
            Deque<Experience.Case> earlier = kept.computeIfAbsent(job.model, k -> new ArrayDeque<>());
            Experience experience = remembers ? new Experience(List.copyOf(earlier)) : Experience.NONE;
            Told played = Hunts.play(models.get(job.model).board, job.hidden, job.seed, Player.ADVICE, experience);
            if (played.end() == End.SOLVED) {
                played.proven().ifPresent(earlier::addFirst);
            }
            told.add(played);
        }
        return told;
    }

    private static List<Hidden> usual(BoardIndex board, Random random) {
        return IntStream.range(0, USUAL_FAULTS)
                .mapToObj(i -> any(USUAL, board, random))
                .toList();
    }

    private static Hidden any(List<Kind> kinds, BoardIndex board, Random random) {
        for (int i = 0; i < MOST_TRIES; i++) {
            Optional<Hidden> hidden = Hidden.draw(kinds.get(random.nextInt(kinds.size())), board, random)
                    .filter(h -> Hunts.stops(board, h, 1));
            if (hidden.isPresent()) {
                return hidden.get();
            }
        }
        throw new IllegalStateException(
                "nothing that is drawn stops " + board.board().name());
    }

    /** The same fault on another board of the model. */
    private static Hidden again(Hidden usual, Random random) {
        double times = Math.exp(OHMS_SIGMA * random.nextGaussian());
        List<Defect> defects = new ArrayList<>();
        for (Defect defect : usual.defects()) {
            defects.add(defect instanceof Path p ? new Path(p.ref(), p.netA(), p.netB(), times * p.ohms()) : defect);
        }
        return new Hidden(usual.kind(), defects, usual.botched());
    }

    /** Shares of so many that sum to 1, uneven: falling off as 1 / rank to a drawn power, in drawn order. */
    private static double[] shares(int count, Random random) {
        double power = 0.7 + random.nextDouble();
        List<Double> weights = new ArrayList<>();
        IntStream.rangeClosed(1, count).forEach(rank -> weights.add(Math.pow(rank, -power)));
        Collections.shuffle(weights, random);
        double sum = weights.stream().mapToDouble(v -> v).sum();
        return weights.stream().mapToDouble(w -> w / sum).toArray();
    }

    private static int pick(double[] shares, Random random) {
        double left = random.nextDouble();
        for (int i = 0; i < shares.length; i++) {
            left -= shares[i];
            if (left < 0) {
                return i;
            }
        }
        return shares.length - 1;
    }
}
