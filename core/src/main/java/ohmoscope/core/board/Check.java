package ohmoscope.core.board;

import java.util.OptionalDouble;

/** Checks for records' constructors. Each is written so that NaN fails. */
public final class Check {
    /** No board, image or bench in this job reaches further than this from its origin. */
    private static final double FARTHEST_MM = 2_000;

    private Check() {}

    /** @return {@code value}, when it lies in [low, high] */
    public static double within(String member, double value, double low, double high) {
        if (!(value >= low && value <= high)) {
            throw new InvalidMember(member, "must be from " + low + " to " + high + ", was " + value);
        }
        return value;
    }

    public static double positive(String member, double value) {
        if (!(value > 0 && value < Double.POSITIVE_INFINITY)) {
            throw new InvalidMember(member, "must be finite and above 0, was " + value);
        }
        return value;
    }

    public static double notNegative(String member, double value) {
        if (!(value >= 0 && value < Double.POSITIVE_INFINITY)) {
            throw new InvalidMember(member, "must be finite and not below 0, was " + value);
        }
        return value;
    }

    public static double finite(String member, double value) {
        if (!Double.isFinite(value)) {
            throw new InvalidMember(member, "must be a finite number, was " + value);
        }
        return value;
    }

    public static OptionalDouble positive(String member, OptionalDouble value) {
        value.ifPresent(v -> positive(member, v));
        return value;
    }

    /** A coordinate on or near the board. */
    public static double coordinateMm(String member, double value) {
        return within(member, value, -FARTHEST_MM, FARTHEST_MM);
    }

    public static String text(String member, String value) {
        if (value.isBlank()) {
            throw new InvalidMember(member, "must not be empty");
        }
        return value;
    }

    /** Whether a text can be stored and shown: no control characters but line ends and tabs, no half characters. */
    public static boolean printable(String value) {
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            boolean pair = Character.isHighSurrogate(c)
                    && i + 1 < value.length()
                    && Character.isLowSurrogate(value.charAt(i + 1));
            if (pair) {
                i++;
            } else if (Character.isSurrogate(c) || c < ' ' && c != '\n' && c != '\r' && c != '\t' || c == 0x7f) {
                return false;
            }
        }
        return true;
    }

    /** @return {@code count}, when no more than {@code most} */
    public static int atMost(String member, int count, int most) {
        if (count > most) {
            throw new InvalidMember(member, "are " + count + "; at most " + most + " are taken");
        }
        return count;
    }
}
