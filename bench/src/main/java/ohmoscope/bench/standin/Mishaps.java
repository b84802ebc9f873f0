package ohmoscope.bench.standin;

import java.util.OptionalDouble;
import ohmoscope.core.board.Check;

/**
 * What goes wrong on a bench by itself.
 *
 * @param slipsAfterS the hot lead slips off after so many seconds of current; put back on when the output is off
 * @param burnsAtWatts the hardest short burns open after a second of so much heat in it
 * @param sagShare by how much of its set volts the supply's output is too low under load, 0 to 1
 * @param hiccupEveryS the supply's output drops out for a third of a second each so many seconds of being on
 */
public record Mishaps(
        OptionalDouble slipsAfterS, OptionalDouble burnsAtWatts, double sagShare, OptionalDouble hiccupEveryS) {
    public static final Mishaps NONE =
            new Mishaps(OptionalDouble.empty(), OptionalDouble.empty(), 0, OptionalDouble.empty());

    public Mishaps {
        slipsAfterS.ifPresent(s -> Check.within("slips_after_s", s, 0, 3600));
        burnsAtWatts.ifPresent(w -> Check.within("burns_at_w", w, 0, 1000));
        Check.within("sag", sagShare, 0, 0.9);
        hiccupEveryS.ifPresent(s -> Check.within("hiccup_every_s", s, 0.5, 3600));
    }

    public static Mishaps slip(double afterS) {
        return new Mishaps(OptionalDouble.of(afterS), OptionalDouble.empty(), 0, OptionalDouble.empty());
    }

    public static Mishaps burn(double watts) {
        return new Mishaps(OptionalDouble.empty(), OptionalDouble.of(watts), 0, OptionalDouble.empty());
    }
}
