package ohmoscope.core.job;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.diagnose.Experience;

/**
 * How near an earlier job is to an open one, and by what. What one of them does not say counts neither way. O(cases) to rank.
 *
 * @param score 0 and more; only their order means anything
 * @param by what they share, with how much that counts
 */
public record Likeness(PastCase then, double score, Map<By, Double> by) {
    /** What two jobs may share, and how much that says at most. */
    public enum By {
        MODEL(3),
        RAIL(2),
        VOLTS(0.8),
        OHMS(1.6),
        DRAW(1.4),
        WORDS(1.2);

        private final double most;

        By(double most) {
            this.most = most;
        }
    }

    /** Below that two jobs have too little in common to be shown. */
    private static final double LEAST = 2;
    /** Ohms or amperes apart by a factor of e to this count half. */
    private static final double HALF = 0.5;

    private static final int SHORT_WORD = 4;

    public Likeness {
        by = Map.copyOf(by);
    }

    /** @return the nearest first, at most so many, and none that have too little in common */
    public static List<Likeness> nearest(PastCase now, List<PastCase> earlier, int most) {
        Set<String> words = words(now.complaint());
        return earlier.stream()
                .filter(then -> !then.number().equals(now.number()))
                .map(then -> of(now, then, words))
                .filter(l -> l.score() >= LEAST)
                .sorted(Comparator.comparingDouble((Likeness l) -> -l.score())
                        .thenComparing(l -> l.then().number(), Comparator.reverseOrder()))
                .limit(most)
                .toList();
    }

    private static Likeness of(PastCase now, PastCase then, Set<String> words) {
        Map<By, Double> by = new EnumMap<>(By.class);
        boolean sameModel = now.model() == then.model();
        put(by, By.MODEL, sameModel ? 1 : 0);
        // A rail's name means something on one model only; on another its volts do.
        put(by, By.RAIL, sameModel && now.rail().isPresent() && now.rail().equals(then.rail()) ? 1 : 0);
        put(by, By.VOLTS, sameModel ? 0 : near(now.railVolts(), then.railVolts(), 0.1));
        put(by, By.OHMS, near(now.ohms(), then.ohms(), HALF));
        put(by, By.DRAW, near(now.drawAmps(), then.drawAmps(), HALF));
        put(by, By.WORDS, shared(words, words(then.complaint())));
        return new Likeness(
                then, by.values().stream().mapToDouble(Double::doubleValue).sum(), by);
    }

    /**
     * How far proven cases of the open one's model speak for what it may have: each by how like it is in complaint, rail and
     * draw. A rail or a draw of its own takes half of its weight and no more, as both are weighed as entries too.
     *
     * @param earlier newest first; those of other models are left out
     */
    public static Experience experience(PastCase now, List<PastCase> earlier) {
        Set<String> words = words(now.complaint());
        return new Experience(earlier.stream()
                .filter(then -> then.model() == now.model() && !then.number().equals(now.number()))
                .map(then -> new Experience.Case(then.code(), then.ref(), weight(now, then, words)))
                .toList());
    }

    /**
     * The same with what other shops have told of this model, after this shop's own cases.
     *
     * @param others each with the weight from 0 to 1 that this shop gives its source
     */
    public static Experience experience(
            PastCase now, List<PastCase> earlier, List<Map.Entry<SharedCase, Double>> others) {
        List<Experience.Case> cases = new ArrayList<>(experience(now, earlier).cases());
        others.forEach(
                o -> cases.add(new Experience.Case(o.getKey().code(), o.getKey().ref(), o.getValue())));
        return new Experience(cases);
    }

    private static double weight(PastCase now, PastCase then, Set<String> words) {
        boolean otherRail =
                now.rail().isPresent() && then.rail().isPresent() && !now.rail().equals(then.rail());
        boolean bothDraw = now.drawAmps().isPresent() && then.drawAmps().isPresent();
        double draw = bothDraw ? near(now.drawAmps(), then.drawAmps(), HALF) : 1;
        Set<String> thenWords = words(then.complaint());
        boolean otherWords = !words.isEmpty() && !thenWords.isEmpty() && shared(words, thenWords) == 0;
        return (otherRail ? 0.5 : 1) * (0.5 + 0.5 * draw) * (otherWords ? 0.7 : 1);
    }

    private static void put(Map<By, Double> by, By what, double share) {
        if (share > 0.1) {
            by.put(what, share * what.most);
        }
    }

    /** 1 for the same, a half for a factor of e to {@code half}; 0 where either is not known. */
    private static double near(OptionalDouble a, OptionalDouble b, double half) {
        if (a.isEmpty() || b.isEmpty() || !(a.getAsDouble() > 0) || !(b.getAsDouble() > 0)) {
            return 0;
        }
        double apart = Math.log(a.getAsDouble() / b.getAsDouble()) / half;
        return 1 / (1 + apart * apart);
    }

    private static Set<String> words(String complaint) {
        return Arrays.stream(complaint.toLowerCase(Locale.ROOT).split("[^\\p{L}]+"))
                .filter(w -> w.length() >= SHORT_WORD)
                .map(w -> w.substring(0, Math.min(w.length(), SHORT_WORD + 1)))
                .collect(Collectors.toCollection(HashSet::new));
    }

    private static double shared(Set<String> a, Set<String> b) {
        if (a.isEmpty() || b.isEmpty()) {
            return 0;
        }
        long both = a.stream().filter(b::contains).count();
        return (double) both / Math.min(a.size(), b.size());
    }
}
