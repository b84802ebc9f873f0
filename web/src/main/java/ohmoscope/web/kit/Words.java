package ohmoscope.web.kit;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.prove.Walk;
import ohmoscope.core.reading.Says;
import ohmoscope.web.config.EntryChanged;
import ohmoscope.web.entry.Bench;

/** The trade's words for the core's values. */
public final class Words {
    private Words() {}

    public static String of(PartKind kind) {
        return switch (kind) {
            case IC -> "chip";
            case TVS -> "clamp";
            case MOSFET -> "MOSFET";
            default -> plain(kind);
        };
    }

    public static String of(Walk.Step step) {
        return switch (step) {
            case NAME_IT -> "Name it";
            default -> capital(plain(step));
        };
    }

    /** Lower case, spaces for underscores. */
    public static String plain(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    /** What was entered, short, as it stands in the evidence column; typed into the entry line it makes that entry again. */
    public static String headline(Observation observation) {
        if (observation instanceof Read o) {
            return (place(o) + " " + (shown(o) + " " + letter(o.mode())).trim().replace(' ', '\u00a0'));
        }
        if (observation instanceof Look o) {
            return o.target() + " " + plain(o.finding());
        }
        if (observation instanceof Inject o) {
            String set = volts(o.setVolts(), 2) + amps(o.limitAmps(), 1);
            String then = volts(o.volts(), 3) + amps(o.amps(), 2);
            return "inj " + o.net() + set + (then.isEmpty() ? "" : " →" + then);
        }
        if (observation instanceof Power o) {
            return plain(o.from())
                    + o.net().or(o::port).map(w -> " " + w).orElse("")
                    + volts(o.volts(), 2)
                    + amps(o.amps(), 2);
        }
        if (observation instanceof Change o) {
            return o.target() + " " + plain(o.action());
        }
        if (observation instanceof Warm o) {
            return (o.nothing()
                            ? "nothing warm"
                            : "warm" + o.ref().or(() -> at(o)).map(w -> " " + w).orElse(""))
                    + o.deltaK().stream()
                            .mapToObj(k -> " +" + Eng.significant(k, 2) + "\u00a0K")
                            .findFirst()
                            .orElse("");
        }
        Run run = (Run) observation;
        return run.what().map(w -> "missing " + w).orElse(plain(run.finding()));
    }

    private static Optional<String> at(Warm warm) {
        return warm.xMm().isPresent() && warm.yMm().isPresent()
                ? Optional.of(Eng.fixed(warm.xMm().getAsDouble(), 1) + ","
                        + Eng.fixed(warm.yMm().getAsDouble(), 1))
                : Optional.empty();
    }

    private static String volts(OptionalDouble volts, int decimals) {
        return volts.stream()
                .mapToObj(v -> " " + Eng.fixed(v, decimals) + "\u00a0V")
                .findFirst()
                .orElse("");
    }

    private static String amps(OptionalDouble amps, int decimals) {
        return amps.stream()
                .mapToObj(a -> " " + Eng.fixed(a, decimals) + "\u00a0A")
                .findFirst()
                .orElse("");
    }

    /** A change as something that was done, such as {@code C22 was taken off}. */
    public static String done(Change change) {
        return change.target()
                + switch (change.action()) {
                    case REMOVED -> " was taken off";
                    case FITTED -> " was fitted";
                    case REPLACED -> " was replaced";
                    case DISCONNECTED -> " was unplugged";
                    case CONNECTED -> " was plugged in";
                    case SEPARATED -> " was separated";
                    case CLEANED -> " was cleaned";
                };
    }

    /** What was tested, without the outcome. */
    public static String tested(Observation observation) {
        if (observation instanceof Read o) {
            return plain(o.mode()) + ", " + place(o);
        }
        if (observation instanceof Power o) {
            return "draw from the " + plain(o.from())
                    + o.battery().map(b -> ", battery " + plain(b)).orElse("");
        }
        if (observation instanceof Inject o) {
            return "injection into " + o.net();
        }
        return "how it behaves";
    }

    /** The outcome of a test, without where. */
    public static String outcome(Observation observation) {
        if (observation instanceof Read o) {
            return value(o);
        }
        if (observation instanceof Power o) {
            return (volts(o.volts(), 2)
                            + amps(o.amps(), 2)
                            + o.shape().map(s -> ", " + plain(s)).orElse(""))
                    .strip();
        }
        if (observation instanceof Inject o) {
            return (volts(o.volts(), 3) + amps(o.amps(), 2)).strip();
        }
        return headline(observation);
    }

    /** Where a reading was taken. */
    public static String place(Read read) {
        if (read.across().isPresent()) {
            return "across " + read.across().get();
        }
        String to = read.to().map(n -> " to " + n).orElse("");
        String ref =
                read.ref().map(r -> r + read.pin().map(p -> "." + p).orElse("")).orElse("");
        return (read.net().isPresent()
                        ? read.net().get() + (ref.isEmpty() ? "" : " at " + ref)
                        : ref.isEmpty() ? "?" : ref)
                + to;
    }

    private static String letter(ReadMode mode) {
        return switch (mode) {
            case DIODE -> "d";
            case CONTINUITY -> "c";
            case VOLTS_AC -> "vac";
            default -> "";
        };
    }

    /** The mode as it is typed between place and number. */
    public static String typed(ReadMode mode) {
        return switch (mode) {
            case DIODE -> " d ";
            case OHMS -> " ohm ";
            case CONTINUITY -> " c ";
            case VOLTS -> " v ";
            case VOLTS_AC -> " vac ";
        };
    }

    /** A bare beep is a word, not a number of ohms. */
    private static String shown(Read read) {
        return read.mode() == ReadMode.OHMS && read.value().isEmpty() ? value(read) + " ohm" : value(read);
    }

    public static String value(Read read) {
        if (read.value().isEmpty()) {
            return "over range";
        }
        return value(read, read.value().getAsDouble());
    }

    /** A value as this reading's mode shows it. */
    public static String value(Read read, double value) {
        if (Double.isInfinite(value)) {
            return "over range";
        }
        if (read.mode() == ReadMode.CONTINUITY && (value == 0 || value == 1)) {
            return value == 0 ? "no beep" : "beep";
        }
        return switch (read.mode()) {
            case DIODE -> Eng.fixed(value, 3) + " V";
            case OHMS, CONTINUITY -> Eng.prefixed(value, "Ω").toString();
            case VOLTS, VOLTS_AC -> Eng.significant(value, 3) + " V";
        };
    }

    /** What an entry that is no reading means by itself. */
    public static String meaning(Observation observation) {
        if (observation instanceof Look o) {
            return o.finding() == LookFinding.CLEAN
                    ? "Looked at; nothing to see."
                    : "Raises a suspicion; it does not convict.";
        }
        if (observation instanceof Inject o) {
            return "Into the rail" + o.ref().map(r -> " at " + r).orElse("") + ", set "
                    + o.setVolts().stream()
                            .mapToObj(v -> Eng.significant(v, 2) + " V")
                            .findFirst()
                            .orElse("unknown")
                    + o.limitAmps().stream()
                            .mapToObj(a -> ", limit " + Eng.significant(a, 2) + " A")
                            .findFirst()
                            .orElse("")
                    + ".";
        }
        if (observation instanceof Power o) {
            return capital(plain(o.from())) + o.port().map(p -> " at " + p).orElse("")
                    + o.battery().map(b -> ", battery " + plain(b)).orElse("")
                    + o.shape().map(s -> ", " + plain(s)).orElse("") + ".";
        }
        if (observation instanceof Change o) {
            return o.heat() ? "With heat: let the board cool before you read it." : "Without heat.";
        }
        if (observation instanceof Warm o) {
            return o.by().map(b -> "By " + plain(b) + ".").orElse("");
        }
        return "How the device behaves.";
    }

    public static String range(Range range, ReadMode mode) {
        if (mode == ReadMode.DIODE) {
            return Eng.fixed(range.low(), 2) + "–" + Eng.fixed(range.high(), 2) + " V";
        }
        return Eng.prefixed(range.low(), "Ω", 2) + "–" + Eng.prefixed(range.high(), "Ω", 2);
    }

    /** The entry in words, before it is kept. */
    public static String echo(Observation observation) {
        if (observation instanceof Read o) {
            return place(o) + ", " + plain(o.mode()) + ": " + value(o);
        }
        if (observation instanceof Look o) {
            return o.target() + ", looked at: " + plain(o.finding());
        }
        if (observation instanceof Change o) {
            return o.target() + " " + plain(o.action()) + (o.heat() ? ", with heat" : "");
        }
        if (observation instanceof Inject o) {
            return "injected into " + o.net() + ": " + headline(o).replaceFirst("^inj \\S+ ", "");
        }
        return headline(observation);
    }

    /** What a line would be kept as. */
    public static String echo(EntryLine.Parsed parsed) {
        if (parsed instanceof EntryLine.Parsed.Entry e) {
            return echo(e.observation());
        }
        if (parsed instanceof EntryLine.Parsed.Correction c) {
            return "entry " + c.observation().seq() + " becomes: " + echo(c.observation());
        }
        if (parsed instanceof EntryLine.Parsed.Reference r) {
            String value = r.good().mode() == ReadMode.DIODE
                    ? Eng.fixed(r.good().value(), 3) + " V"
                    : Eng.prefixed(r.good().value(), "Ω").toString();
            return "a good board of this kind reads " + value + " at "
                    + r.good().net();
        }
        if (parsed instanceof EntryLine.Parsed.Withdrawal w) {
            return w.seq().map(n -> "entry " + n + " no longer counts").orElse("your last entry no longer counts");
        }
        return reason((EntryLine.Parsed.NotUnderstood) parsed);
    }

    /** Why a correction was not kept: both versions. */
    public static String changed(EntryChanged changed) {
        String now = changed.now().map(o -> "it is now “" + headline(o) + "”").orElse("it no longer counts");
        String yours = changed.wanted()
                .map(o -> "Yours, “" + headline(o) + "”, was not kept.")
                .orElse("It was not withdrawn.");
        return "Entry " + changed.place() + " was changed meanwhile: " + now + ". " + yours
                + " Look at it, and correct it again.";
    }

    /** Why a block of lines was not kept. */
    public static String reason(Bench.Refused refused) {
        String why = reason(refused.why());
        return refused.lines() == 1 ? why : "Nothing kept: line " + refused.line() + ". " + why;
    }

    /** Why a line was not understood, and what would be. */
    public static String reason(EntryLine.Parsed.NotUnderstood why) {
        String word = why.word();
        return switch (why.reason()) {
            case EMPTY ->
                "Type a reading (C14 d .003), look J1 pins touching, removed C45, or inj VMAIN 1V 2A 31mV 2.00A.";
            case NO_SUCH_PLACE ->
                word.isEmpty() ? "Say which part, test point or net." : "This board has no " + word + ".";
            case NO_VALUE -> "Say mode and value: d .003 (diode), 2.1 ohm, 5.02 V, or OL for open.";
            case NO_SUCH_FINDING ->
                "Not a finding. Known: clean, burnt, cracked, hole, chipped, corroded, discoloured, loose, pins touching, "
                        + "pin bent, pin missing, missing, wet mark, earlier work.";
            case NO_SUCH_ENTRY ->
                word.isEmpty()
                        ? "You have not made an entry here that could be undone."
                        : "This job has no entry " + word + ". Its number stands in front of it.";
            case NO_LEADS -> "Leads of " + word + " cannot be: both together are from 0.1 mΩ to 10 Ω.";
            case UNKNOWN_WORD -> "“" + word + "” is not understood here.";
        };
    }

    public static Optional<String> note(Walk.Stop stop) {
        return switch (stop.step()) {
            case SURVEY -> count(stop, "reading");
            case LOOK -> count(stop, "look");
            case IMAGE -> count(stop, "capture");
            case ISOLATE -> stop.state() == Walk.State.SKIPPED ? Optional.of("not needed") : count(stop, "change");
            default -> stop.state() == Walk.State.SKIPPED ? Optional.of("skipped") : Optional.empty();
        };
    }

    private static Optional<String> count(Walk.Stop stop, String thing) {
        if (stop.state() == Walk.State.SKIPPED) {
            return Optional.of("skipped");
        }
        return stop.count() == 0
                ? Optional.empty()
                : Optional.of(stop.count() + " " + thing + (stop.count() == 1 ? "" : "s"));
    }

    /** The shape in front of what a reading says. */
    public static String mark(Says.Concern concern) {
        return switch (concern) {
            case WRONG -> "bad";
            case LOOK -> "look";
            case NONE -> "ok";
        };
    }

    /** What that shape means. */
    public static String markWord(Says.Concern concern) {
        return switch (concern) {
            case WRONG -> "wrong";
            case LOOK -> "look at this";
            case NONE -> "good";
        };
    }
}
