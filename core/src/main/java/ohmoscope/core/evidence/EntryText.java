package ohmoscope.core.evidence;

import static ohmoscope.core.evidence.EntryVocabulary.plain;

import java.math.BigDecimal;
import java.util.OptionalDouble;
import java.util.StringJoiner;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.Warm;

/** The line that {@link EntryLine} reads as a given entry: what a correction begins with. */
public final class EntryText {
    private EntryText() {}

    public static String of(Observation observation) {
        StringJoiner words = new StringJoiner(" ");
        if (observation instanceof Read o) {
            read(o, words);
        } else if (observation instanceof Look o) {
            words.add("look").add(o.target()).add(plain(o.finding()));
        } else if (observation instanceof Power o) {
            power(o, words);
        } else if (observation instanceof Inject o) {
            inject(o, words);
        } else if (observation instanceof Warm o) {
            warm(o, words);
        } else if (observation instanceof Change o) {
            words.add(plain(o.action())).add(o.target());
            if (o.heat() != o.action().usuallyHot()) {
                words.add(o.heat() ? "hot" : "cold");
            }
        } else {
            Run o = (Run) observation;
            words.add(
                    o.finding() == RunFinding.FUNCTION_MISSING
                            ? "missing " + o.what().orElse("function")
                            : plain(o.finding()));
        }
        return words.toString();
    }

    private static void read(Read o, StringJoiner words) {
        o.across().ifPresent(r -> words.add("across").add(r));
        o.ref().ifPresent(r -> words.add(r + o.pin().map(p -> "." + p).orElse("")));
        o.net().ifPresent(words::add);
        words.add(
                switch (o.mode()) {
                    case DIODE -> "d";
                    case OHMS -> "ohm";
                    case CONTINUITY -> "c";
                    case VOLTS -> "v";
                    case VOLTS_AC -> "vac";
                });
        words.add(o.value().isPresent() ? number(o.value().getAsDouble()) : "OL");
        o.to().ifPresent(n -> words.add("to").add(n));
        o.lead().filter(l -> l.endsWith("-on-ground")).ifPresent(l -> words.add(l.replace("-on-ground", "")));
        o.power().ifPresent(p -> words.add(plain(p)));
    }

    private static void power(Power o, StringJoiner words) {
        words.add("power").add(plain(o.from()));
        o.port().ifPresent(words::add);
        o.net().ifPresent(words::add);
        unit(o.volts(), "V", words);
        unit(o.amps(), "A", words);
        o.shape().ifPresent(s -> words.add(hyphened(s)));
        o.orientation().ifPresent(s -> words.add("side").add(s));
        o.battery().ifPresent(b -> words.add("battery").add(plain(b)));
        if (o.state() == DeviceState.ON) {
            words.add("on");
        }
    }

    private static void inject(Inject o, StringJoiner words) {
        words.add("inj").add(o.net());
        unit(o.setVolts(), "V", words);
        unit(o.limitAmps(), "A", words);
        unit(o.volts(), "V", words);
        unit(o.amps(), "A", words);
        o.ref().ifPresent(r -> words.add("at").add(r));
        o.leadOhms().ifPresent(l -> words.add("leads").add(number(l) + "ohm"));
        o.shape().ifPresent(s -> words.add(hyphened(s)));
        o.power().ifPresent(p -> words.add(plain(p)));
    }

    private static void warm(Warm o, StringJoiner words) {
        words.add(o.nothing() ? "nothing warm" : "warm");
        o.ref().ifPresent(words::add);
        if (o.xMm().isPresent() && o.yMm().isPresent()) {
            words.add(number(o.xMm().getAsDouble()) + "," + number(o.yMm().getAsDouble()));
        }
        o.side().ifPresent(s -> words.add(plain(s)));
        unit(o.deltaK(), "K", words);
        unit(o.spreadMm(), "mm", words);
        o.by().ifPresent(b -> words.add(plain(b)));
    }

    private static void unit(OptionalDouble value, String unit, StringJoiner words) {
        value.ifPresent(v -> words.add(number(v) + unit));
    }

    private static String number(double value) {
        return new BigDecimal(Double.toString(value)).stripTrailingZeros().toPlainString();
    }

    private static String hyphened(Enum<?> value) {
        return plain(value).replace(' ', '-');
    }
}
