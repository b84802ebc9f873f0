package ohmoscope.core.diagnose;

import java.time.Duration;

/**
 * How long a board stays too warm to read after heat. A bare board of a millimetre holds about 2 kJ/(m² K), and gives
 * 20 W/(m² K) to still air from its two sides: it falls to its e-th part in 100 s (lumped capacity; the copper's share in
 * it and what flows aside make it quicker).
 */
public final class Cooling {
    private static final double TIME_CONSTANT_S = 100;
    /** Solder has just set. */
    private static final double FROM_C = 200;

    private static final double ROOM_C = 25;
    /** A junction then reads within 30 mV of what it reads cold. */
    private static final double HAND_WARM_C = 40;

    private Cooling() {}

    /** @return about how warm the board is by now, degrees Celsius */
    public static double celsius(Duration sinceHeat) {
        return ROOM_C + (FROM_C - ROOM_C) * Math.exp(-sinceHeat.toMillis() / 1000.0 / TIME_CONSTANT_S);
    }

    /** @return what is left until the board is hand-warm; zero when it is */
    public static Duration left(Duration sinceHeat) {
        double whole = TIME_CONSTANT_S * Math.log((FROM_C - ROOM_C) / (HAND_WARM_C - ROOM_C));
        double left = whole - sinceHeat.toMillis() / 1000.0;
        return Duration.ofSeconds(Math.max(0, (long) Math.ceil(left)));
    }
}
