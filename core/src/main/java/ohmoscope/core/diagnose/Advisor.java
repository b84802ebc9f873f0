package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;

/**
 * Reads the evidence of a job: what is true of the board now, which faults remain, what to do next and what not.
 *
 * <p>Built once a board; {@link #advise} may be called again and again, by one thread at a time. Time grows with entries
 * times distinct faults of the rails they touch: 250 parts and 60 entries take about a tenth of a second.
 */
public final class Advisor {
    private static final int MOST_HYPOTHESES = 20;
    private static final double LEAST_PROBABILITY = 5e-4;

    private static final double MOST_LEANING = 50;
    /** Evidence that leaves no room for anything that warms says nothing about which part does. */
    private static final double LEAST_TO_LEAN = 1e-6;

    /** Entries that are weighed one by one. */
    private static final int MOST_WEIGHED = 40;
    /** An entry that changes the odds by less says nothing. */
    private static final double TELLING = 1.15;

    /** How often a second fault stands beside one that was measured. */
    private static final double SECOND_FAULT = 0.1;

    private static final Set<Hypothesis.Code> WARMING =
            Set.of(Hypothesis.Code.SHORT, Hypothesis.Code.LEAKY, Hypothesis.Code.DAMAGED_PORT);

    private final BoardIndex board;
    private final PowerTree tree;
    private final Twin twin;
    private final NetUses uses;
    private final List<Suspicion> suspicions;

    public Advisor(Board board) {
        this(new BoardIndex(board));
    }

    private Advisor(BoardIndex board) {
        this(board, new Twin(board));
    }

    Advisor(BoardIndex board, Twin twin) {
        this.board = board;
        this.tree = PowerTree.of(this.board);
        this.twin = twin;
        this.uses = new NetUses(this.board, tree);
        this.suspicions = Suspicions.of(this.board, tree);
    }

    public PowerTree tree() {
        return tree;
    }

    /** The nets that anything conducts to from this one in a state, itself among them; safe for several threads. */
    public Set<String> joined(String net, BoardState state) {
        return twin.island(net, state);
    }

    /**
     * @param rail the rail complained of, when somebody named it
     * @param account the customer's words; may be empty
     * @param observations in order
     */
    public Advice advise(Optional<String> rail, String account, List<Observation> observations) {
        return advise(rail, account, observations, Schools.DEFAULT);
    }

    /** The same for a technician of other schools: findings and probabilities stay, the way on changes. */
    public Advice advise(Optional<String> rail, String account, List<Observation> observations, Schools schools) {
        return advise(rail, account, observations, schools, Experience.NONE);
    }

    /** The same, where earlier jobs of the model have shown what is usually wrong with it. */
    public Advice advise(
            Optional<String> rail,
            String account,
            List<Observation> observations,
            Schools schools,
            Experience experience) {
        Timeline timeline = Timeline.of(board, tree, observations);
        RailBook book = new RailBook(timeline, twin);
        try {
            return judged(rail, account, schools, timeline, book, experience);
        } catch (ArithmeticException unsettled) {
            return notJudged(timeline, book, schools, unsettled);
        }
    }

    /** What can be told without the twin: single readings, and what must not be done. */
    private static Advice notJudged(Timeline timeline, RailBook book, Schools schools, ArithmeticException why) {
        Optional<Mending> mending = Mending.of(timeline, book);
        return new Advice(
                List.of(),
                List.of(),
                List.of(),
                Stops.of(timeline, book, mending, schools.leadRatedAmps()),
                new Survey(List.of()),
                book.inForce(),
                book.outdated(),
                timeline.volts(),
                timeline.draws(),
                timeline.now(),
                timeline.live(),
                timeline.batteryKnown(),
                mending,
                Acceptance.of(timeline, book, mending),
                List.of(),
                Optional.of(String.valueOf(why.getMessage())));
    }

    private Advice judged(
            Optional<String> rail,
            String account,
            Schools schools,
            Timeline timeline,
            RailBook book,
            Experience experience) {
        Predictor predictor = new Predictor(board, twin).standingHalf(book.everySign());
        Optional<Mending> mending = Mending.of(timeline, book);
        Timeline open = SecondFault.of(timeline, book, mending);
        Likelihood likelihood =
                new Likelihood(asShorted(open.lastOfEach(), book), uses, predictor, Measured.open(book));
        Diagnosis diagnosis =
                new Diagnosis(suspected(open, book, experience), likelihood, new Context(open, book, account));
        List<Finding> findings = Findings.of(timeline, book, diagnosis);
        List<Stop> stops = Stops.of(timeline, book, mending, schools.leadRatedAmps());
        Experiments experiments = new Experiments(timeline, book, predictor, diagnosis, board.ground());
        List<Experience.Tempered> tempered = experience.told(suspicions);
        Situation situation = new Situation(
                timeline,
                book,
                diagnosis,
                experiments,
                findings,
                stops,
                mending,
                rail,
                schools,
                tempered,
                new Plan(timeline));
        List<Step> next = new Planner(situation).plan();
        List<Hypothesis> hypotheses = diagnosis.hypotheses().stream()
                .filter(h -> h.probability() > LEAST_PROBABILITY)
                .limit(MOST_HYPOTHESES)
                .toList();
        Survey survey = Survey.of(timeline, book, predictor, experiments.readings(), standing(timeline));
        return new Advice(
                findings,
                hypotheses,
                next,
                stops,
                survey,
                book.inForce(),
                book.outdated(),
                timeline.volts(),
                timeline.draws(),
                timeline.now(),
                timeline.live(),
                timeline.batteryKnown(),
                mending,
                Acceptance.of(timeline, book, mending),
                tempered,
                Optional.empty());
    }

    /** A short that burnt open is sought by what was measured while it was there. */
    private static Timeline asShorted(Timeline timeline, RailBook book) {
        Map<String, Integer> burnt = book.burntOpen();
        return burnt.isEmpty()
                ? timeline
                : timeline.without(m -> fedOrRead(timeline, m.observation())
                        .map(net -> m.seq()
                                > book.joinedTo(net).stream()
                                        .mapToInt(n -> burnt.getOrDefault(n, Integer.MAX_VALUE))
                                        .min()
                                        .orElse(Integer.MAX_VALUE))
                        .orElse(false));
    }

    private static Optional<String> fedOrRead(Timeline timeline, Observation observation) {
        if (observation instanceof Inject inject) {
            return Optional.of(inject.net());
        }
        return observation instanceof Read read && read.power().isEmpty() ? timeline.netOf(read) : Optional.empty();
    }

    /** Where the probe was last. */
    private Optional<Survey.Place> standing(Timeline timeline) {
        return timeline.last(Read.class)
                .flatMap(read -> timeline.netOf(read)
                        .flatMap(net -> read.ref()
                                .flatMap(board::part)
                                .flatMap(p -> Survey.pad(p, net))
                                .or(() -> Survey.place(board, timeline, net))));
    }

    /**
     * How far the evidence leans to each part being what warms, over what its kind and place alone would say: the prior of
     * locating. What the camera itself found is left out, as the frames know it.
     *
     * @param observations those of the circuit that the frames were taken on, and before
     * @return factors by reference, from 0.02 to 50; empty when there is no evidence
     */
    public Map<String, Double> leaning(String account, List<Observation> observations) {
        List<Observation> before = besidesFrames(observations);
        if (before.isEmpty()) {
            return Map.of();
        }
        Optional<Diagnosis> settled = settled(account, before);
        if (settled.isEmpty()) {
            return Map.of();
        }
        Diagnosis diagnosis = settled.get();
        Map<String, Double> prior = new HashMap<>();
        Map<String, Double> posterior = new HashMap<>();
        for (Diagnosis.Weighted form : diagnosis.weighted()) {
            Suspicion suspicion = form.suspicion();
            if (WARMING.contains(suspicion.code())) {
                prior.merge(
                        suspicion.target(), suspicion.prior() * form.variant().weight(), Double::sum);
                posterior.merge(suspicion.target(), form.probability(), Double::sum);
            }
        }
        double priors = prior.values().stream().mapToDouble(v -> v).sum();
        double posteriors = posterior.values().stream().mapToDouble(v -> v).sum();
        if (posteriors < LEAST_TO_LEAN) {
            return Map.of();
        }
        Map<String, Double> leaning = new HashMap<>();
        posterior.forEach((ref, p) -> {
            double ratio = p / posteriors / (prior.get(ref) / priors);
            leaning.put(ref, Math.max(1 / MOST_LEANING, Math.min(MOST_LEANING, ratio)));
        });
        return leaning;
    }

    /** Empty where the circuit cannot be computed. */
    private Optional<Diagnosis> settled(String account, List<Observation> observations) {
        try {
            return Optional.of(diagnosis(account, observations));
        } catch (ArithmeticException unsettled) {
            return Optional.empty();
        }
    }

    private Diagnosis diagnosis(String account, List<Observation> observations) {
        Timeline timeline = Timeline.of(board, tree, observations);
        RailBook book = new RailBook(timeline, twin);
        return new Diagnosis(
                suspected(timeline, book, Experience.NONE),
                new Likelihood(
                        timeline, uses, new Predictor(board, twin).standingHalf(book.everySign()), Measured.open(book)),
                new Context(timeline, book, account));
    }

    /**
     * What each entry by itself does to some parts' odds of being what warms, found by leaving it out. The camera's
     * findings and the injections are no part of it. Costs one diagnosis an entry; the last {@link #MOST_WEIGHED} entries
     * are weighed.
     *
     * @param refs the parts in question
     * @return entries that move the odds of at least one of them, in order
     */
    public List<EntryWeight> weigh(String account, List<Observation> observations, Set<String> refs) {
        List<Observation> before = besidesFrames(observations);
        Map<String, Double> all = warming(account, before);
        if (all.isEmpty()) {
            return List.of();
        }
        List<EntryWeight> weights = new ArrayList<>();
        for (int i = Math.max(0, before.size() - MOST_WEIGHED); i < before.size(); i++) {
            List<Observation> rest = new ArrayList<>(before);
            Observation entry = rest.remove(i);
            // Without a change the rest may contradict itself: a change is the board's state, not a sign.
            if (entry instanceof Change) {
                continue;
            }
            Map<String, Double> without = warming(account, rest);
            Map<String, Double> factors = new HashMap<>();
            for (String ref : refs) {
                double factor = odds(all.getOrDefault(ref, 0.0)) / odds(without.getOrDefault(ref, 0.0));
                factors.put(ref, Math.max(1 / MOST_LEANING, Math.min(MOST_LEANING, factor)));
            }
            if (factors.values().stream().anyMatch(f -> f > TELLING || f < 1 / TELLING)) {
                weights.add(new EntryWeight(entry.seq(), factors));
            }
        }
        return weights;
    }

    private static double odds(double p) {
        double sane = Math.max(1e-9, Math.min(1 - 1e-9, p));
        return sane / (1 - sane);
    }

    /** How probable each part is what warms, given that something does. */
    private Map<String, Double> warming(String account, List<Observation> observations) {
        Map<String, Double> posterior = new HashMap<>();
        settled(account, observations).stream()
                .flatMap(d -> d.weighted().stream())
                .filter(form -> WARMING.contains(form.suspicion().code()))
                .forEach(form -> posterior.merge(form.suspicion().target(), form.probability(), Double::sum));
        double sum = posterior.values().stream().mapToDouble(v -> v).sum();
        posterior.replaceAll((ref, p) -> p / Math.max(LEAST_TO_LEAN, sum));
        return posterior;
    }

    private static List<Observation> besidesFrames(List<Observation> observations) {
        return observations.stream()
                .filter(o -> !(o instanceof Warm warm
                        && warm.by().map(b -> b == WarmthMeans.CAMERA).orElse(true)))
                .filter(o -> !(o instanceof Inject))
                .toList();
    }

    /** The board's own suspicions, one for each place that was found empty, and chips on which several lines meet. */
    private List<Suspicion> suspected(Timeline timeline, RailBook book, Experience experience) {
        List<Suspicion> all = new ArrayList<>(experience.temper(suspicions));
        all.addAll(ShortFault.chipsWithLines(board, book.pulledDown()));
        timeline.now().renewed().stream()
                .sorted()
                .flatMap(ref -> board.part(ref).stream())
                .filter(timeline.now()::has)
                .forEach(part -> all.addAll(Suspicions.asFitted(board, tree, part, book.pulledDown())));
        timeline.all(Look.class)
                .filter(l -> l.finding() == LookFinding.MISSING)
                .map(Look::target)
                .distinct()
                .filter(ref ->
                        board.part(ref).map(p -> p.kind() != PartKind.CONNECTOR).orElse(false))
                .forEach(ref -> all.add(FittingFault.empty(ref)));
        return beside(new FaultOhms(timeline, book).refined(all), Measured.open(book));
    }

    /** Where a part was measured to be open, it is the fault; another beside it is as rare as two faults are. */
    private static List<Suspicion> beside(List<Suspicion> all, List<Fault> measured) {
        if (measured.isEmpty()) {
            return all;
        }
        Set<String> open = measured.stream().map(Fault::target).collect(Collectors.toSet());
        double sum = all.stream().mapToDouble(Suspicion::prior).sum();
        return all.stream()
                .map(s -> s.code() == Hypothesis.Code.OPEN && open.contains(s.target())
                        ? s.weighed(sum)
                        : s.weighed(SECOND_FAULT * s.prior()))
                .toList();
    }
}
