package ohmoscope.bench.standin;

import java.util.EnumMap;
import java.util.Map;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;

/**
 * What goes wrong on a bench by itself.
 *
 * @param all how much of each
 */
public record Mishaps(Map<Kind, Double> all) {
    public static final Mishaps NONE = new Mishaps(Map.of());

    /** What can go wrong. */
    public enum Kind {
        /** The hot lead slips off after so many seconds of current; put back on when the output is off. */
        SLIPS_AFTER_S(3600),
        /** The hardest short burns open after a second of so much heat in it, watts. */
        BURNS_AT_W(1000),
        /** By how much of its set volts the supply's output is too low under load. */
        SAGS_BY_SHARE(0.9),
        /** The supply's output drops out for a third of a second each so many seconds of being on; not below half a second. */
        HICCUPS_EVERY_S(3600),
        /** By how much of its set volts and amperes the supply gives too much after a second and a half of current. */
        RUNS_AWAY_BY_SHARE(3),
        /** The hot lead's contact gets worse, ohms a second. */
        CREEPS_OHMS_PER_S(10),
        /** The hot lead sits badly: ohms that warm under it. */
        CONTACT_OHMS(10),
        /** The camera's emissivity is set too low: it shows every difference so many times too large. */
        SHOWS_TIMES(50);

        private final double most;

        Kind(double most) {
            this.most = most;
        }
    }

    public Mishaps {
        all = Map.copyOf(all);
        all.forEach((kind, value) -> Check.within(
                kind.name().toLowerCase(java.util.Locale.ROOT),
                value,
                kind == Kind.HICCUPS_EVERY_S ? 0.5 : 0,
                kind.most));
    }

    /** @return these and one more */
    public Mishaps with(Kind kind, double value) {
        Map<Kind, Double> more = new EnumMap<>(Kind.class);
        more.putAll(all);
        more.put(kind, value);
        return new Mishaps(more);
    }

    OptionalDouble of(Kind kind) {
        return all.containsKey(kind) ? OptionalDouble.of(all.get(kind)) : OptionalDouble.empty();
    }

    /** @return 0 where it does not happen */
    double share(Kind kind) {
        return all.getOrDefault(kind, 0.0);
    }
}
