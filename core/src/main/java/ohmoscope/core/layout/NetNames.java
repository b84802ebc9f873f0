package ohmoscope.core.layout;

import java.util.Locale;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What a net is by its name. */
public final class NetNames {
    /** {@code 3V3}, {@code 1P8V}, {@code +12V}, {@code 5V0}, {@code 3.3V}. */
    private static final Pattern LETTER_AS_POINT =
            Pattern.compile("(?:^|[^0-9A-Z.])[+PV]{0,2}(\\d{1,2})[VP](\\d{1,2})V?(?:$|[^0-9])");

    private static final Pattern PLAIN =
            Pattern.compile("(?:^|[^0-9A-Z.])\\+?(\\d{1,2}(?:\\.\\d{1,2})?)V(?:$|[^0-9A-Z])");
    /** {@code VDD18}, {@code VCC33}. */
    private static final Pattern TENTHS = Pattern.compile("^V[A-Z]{1,3}_?(\\d)(\\d)$");

    private static final Pattern GROUND =
            Pattern.compile("^(?:[ADPSCE]?_?GND[A-Z0-9_]*|[A-Z0-9]+_GND|VSS[A-Z0-9]*|0V|EARTH|CHASSIS)$");
    private static final Pattern POWER = Pattern.compile(
            "^(?:\\+.*\\d.*|V(?:CC|DD|EE|BUS|IN|SYS|BAT|BATT|MAIN|PP|REF|AA|DRV|CORE|OUT|DC)(?:[_A-Z0-9.]*)|PVIN|PWR[_A-Z0-9]*|P?B\\+|BAT(?:T)?[_+]?P?|VIO[_A-Z0-9]*|.*_(?:PWR|VCC|VDD|VBUS))$");

    private NetNames() {}

    /** A net's own name without the sheets that it is on. */
    static String leaf(String net) {
        return net.substring(net.lastIndexOf('/') + 1).toUpperCase(Locale.ROOT);
    }

    public static boolean ground(String net) {
        return GROUND.matcher(leaf(net)).matches();
    }

    /** Whether the name itself says that it is a rail. */
    public static boolean power(String net) {
        String name = leaf(net);
        return POWER.matcher(name).matches() || volts(net).isPresent() && !line(name);
    }

    /** A name that has a voltage in it and is a line all the same. */
    private static boolean line(String name) {
        return name.matches(
                ".*(?:^|_)(?:EN|PG|PGOOD|FB|SENSE|SEN|ADC|DET|SEL|CTRL|ON|INT|RST|ALERT|SW|BOOT|LX)\\d*(?:_.*|$)");
    }

    /** The voltage that the name gives. */
    public static OptionalDouble volts(String net) {
        String name = leaf(net);
        Matcher point = LETTER_AS_POINT.matcher(name);
        if (point.find()) {
            return above0(Double.parseDouble(point.group(1) + "." + point.group(2)));
        }
        Matcher plain = PLAIN.matcher(name);
        if (plain.find()) {
            return above0(Double.parseDouble(plain.group(1)));
        }
        Matcher tenths = TENTHS.matcher(name);
        return tenths.matches()
                ? above0(Double.parseDouble(tenths.group(1) + "." + tenths.group(2)))
                : OptionalDouble.empty();
    }

    private static OptionalDouble above0(double volts) {
        return volts > 0 ? OptionalDouble.of(volts) : OptionalDouble.empty();
    }
}
