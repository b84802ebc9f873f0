package ohmoscope.instruments;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/**
 * How a kind of instrument is spoken to: data, so that a shop adds its own without code.
 *
 * @param name what people call it
 * @param kind of instrument
 * @param identifiedBy what its answer to {@code identify} matches, in part; the first dialect that matches is taken
 * @param paceMillis how long it wants to be left alone after a line, 0 to 2,000
 * @param answerMillis how long an answer may take, 10 to 60,000
 * @param commands lines by what they do; {@code {0}} is the number
 * @param number finds the number in an answer, as its first group
 * @param noError what the answer to {@code error} matches, in part, when there is none
 * @param overRange from this value on a reading is over range; empty where it says so otherwise
 */
public record Dialect(
        String name,
        Kind kind,
        String identifiedBy,
        int paceMillis,
        int answerMillis,
        Map<String, String> commands,
        String number,
        String noError,
        OptionalDouble overRange) {
    /** What speaks it. */
    public enum Kind {
        SUPPLY,
        METER
    }

    /** Answers come many times a second; the patterns of a shop's dialects are few. */
    private static final Map<String, Pattern> COMPILED = new ConcurrentHashMap<>();

    private static final Map<Kind, String[]> NEEDED = Map.of(
            Kind.SUPPLY,
            new String[] {
                "identify", "set_volts", "volts_set", "set_amps", "amps_set", "on", "off", "is_on", "volts", "amps"
            },
            Kind.METER,
            new String[] {"identify", "read"});

    public Dialect {
        Check.text("name", name);
        Check.within("pace_ms", paceMillis, 0, 2_000);
        Check.within("answer_ms", answerMillis, 10, 60_000);
        commands = Map.copyOf(commands);
        for (String needed : NEEDED.get(kind)) {
            if (!commands.containsKey(needed)) {
                throw new InvalidMember("commands", "must say how to \"" + needed + "\"");
            }
        }
        compiled("identified_by", identifiedBy);
        compiled("no_error", noError);
        if (compiled("number", number).matcher("").groupCount() < 1) {
            throw new InvalidMember("number", "must have a group around the number, such as ([-+0-9.eE]+)");
        }
    }

    private static Pattern compiled(String member, String pattern) {
        try {
            return COMPILED.computeIfAbsent(pattern, Pattern::compile);
        } catch (PatternSyntaxException broken) {
            throw new InvalidMember(member, "is no pattern: " + broken.getDescription());
        }
    }

    boolean speaks(String identity) {
        return compiled("identified_by", identifiedBy).matcher(identity).find();
    }

    boolean clean(String error) {
        return compiled("no_error", noError).matcher(error).find();
    }

    Optional<String> command(String what) {
        return Optional.ofNullable(commands.get(what));
    }

    String line(String what) {
        return command(what).orElseThrow(() -> new IllegalStateException(name + " cannot " + what));
    }

    String line(String what, double value) {
        return line(what).replace("{0}", String.format(Locale.ROOT, "%.4f", value));
    }

    /** Empty where an answer holds none. */
    OptionalDouble number(String answer) {
        Matcher matcher = compiled("number", number).matcher(answer);
        try {
            return matcher.find() ? OptionalDouble.of(Double.parseDouble(matcher.group(1))) : OptionalDouble.empty();
        } catch (NumberFormatException none) {
            return OptionalDouble.empty();
        }
    }

    boolean over(double value) {
        return !Double.isFinite(value) || overRange.isPresent() && Math.abs(value) >= overRange.getAsDouble();
    }
}
