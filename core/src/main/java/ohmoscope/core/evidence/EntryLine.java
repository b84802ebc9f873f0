package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * The one line to type into. It understands readings ({@code C14 d .003}, {@code VSYS 2.1 ohm}, {@code TP3 5.02 V}),
 * looks ({@code look J1 pins touching}), changes ({@code removed C45}) and injections
 * ({@code inj VMAIN 1V 2A 31mV 2.00A}: set, limit, and what the supply showed).
 */
public final class EntryLine {
    private static final Pattern QUANTITY =
            Pattern.compile("([0-9]*[.,]?[0-9]+)(k|m|u|µ|M)?(v|a|ohm|ohms|Ω|r)?", Pattern.CASE_INSENSITIVE);
    private static final Map<String, ReadMode> MODES = Map.of(
            "d",
            ReadMode.DIODE,
            "diode",
            ReadMode.DIODE,
            "r",
            ReadMode.OHMS,
            "ohm",
            ReadMode.OHMS,
            "ohms",
            ReadMode.OHMS,
            "c",
            ReadMode.CONTINUITY,
            "v",
            ReadMode.VOLTS,
            "volts",
            ReadMode.VOLTS);
    private static final List<String> OVER_RANGE = List.of("ol", "open", "over");
    private static final Map<String, ChangeAction> ACTIONS = Map.ofEntries(
            Map.entry("removed", ChangeAction.REMOVED),
            Map.entry("remove", ChangeAction.REMOVED),
            Map.entry("lifted", ChangeAction.REMOVED),
            Map.entry("off", ChangeAction.REMOVED),
            Map.entry("fitted", ChangeAction.FITTED),
            Map.entry("replaced", ChangeAction.REPLACED),
            Map.entry("unplugged", ChangeAction.DISCONNECTED),
            Map.entry("disconnected", ChangeAction.DISCONNECTED),
            Map.entry("connected", ChangeAction.CONNECTED),
            Map.entry("cleaned", ChangeAction.CLEANED));

    private final Board board;

    public EntryLine(Board board) {
        this.board = board;
    }

    /** What the line came to. */
    public sealed interface Parsed {
        record Entry(Observation observation) implements Parsed {}

        /** @param reason which word was not understood */
        record NotUnderstood(Reason reason, String word) implements Parsed {}
    }

    /** Why a line was not understood. */
    public enum Reason {
        EMPTY,
        NO_SUCH_PLACE,
        NO_VALUE,
        NO_SUCH_FINDING,
        UNKNOWN_WORD
    }

    /** @param seq the number that the entry gets */
    public Parsed parse(String line, int seq) {
        List<String> words = new ArrayList<>(Arrays.asList(line.trim().split("\\s+")));
        if (words.get(0).isEmpty()) {
            return new Parsed.NotUnderstood(Reason.EMPTY, "");
        }
        String first = words.get(0).toLowerCase(Locale.ROOT);
        if (first.equals("inj") || first.equals("inject")) {
            return inject(words.subList(1, words.size()), seq);
        }
        for (int i = 0; i < Math.min(2, words.size()); i++) {
            String word = words.get(i).toLowerCase(Locale.ROOT);
            List<String> rest = new ArrayList<>(words);
            rest.remove(i);
            if (word.equals("look")) {
                return look(rest, seq);
            }
            if (ACTIONS.containsKey(word)) {
                return change(ACTIONS.get(word), rest, seq);
            }
        }
        return read(words, seq);
    }

    private Parsed change(ChangeAction action, List<String> rest, int seq) {
        Optional<String> place = rest.isEmpty() ? Optional.empty() : place(rest.get(0));
        boolean battery = !rest.isEmpty() && rest.get(0).equalsIgnoreCase("battery");
        if (!battery && place.isEmpty()) {
            return new Parsed.NotUnderstood(Reason.NO_SUCH_PLACE, rest.isEmpty() ? "" : rest.get(0));
        }
        return new Parsed.Entry(
                new Change(seq, action, battery ? "battery" : place.orElseThrow(), action.usuallyHot()));
    }

    private Parsed look(List<String> rest, int seq) {
        Optional<String> place = rest.isEmpty() ? Optional.empty() : place(rest.get(0));
        if (place.isEmpty()) {
            return new Parsed.NotUnderstood(Reason.NO_SUCH_PLACE, rest.isEmpty() ? "" : rest.get(0));
        }
        String said = String.join("_", rest.subList(1, rest.size()))
                .toUpperCase(Locale.ROOT)
                .replace('-', '_');
        for (LookFinding finding : LookFinding.values()) {
            if (finding.name().equals(said)) {
                return new Parsed.Entry(new Look(seq, place.get(), finding));
            }
        }
        return new Parsed.NotUnderstood(Reason.NO_SUCH_FINDING, said.toLowerCase(Locale.ROOT));
    }

    private Parsed inject(List<String> rest, int seq) {
        Optional<String> net = Optional.empty();
        List<Double> volts = new ArrayList<>();
        List<Double> amps = new ArrayList<>();
        for (String word : rest) {
            Matcher m = QUANTITY.matcher(word);
            if (m.matches() && m.group(3) != null && m.group(3).equalsIgnoreCase("v")) {
                volts.add(value(m));
            } else if (m.matches() && m.group(3) != null && m.group(3).equalsIgnoreCase("a")) {
                amps.add(value(m));
            } else if (netNamed(word).isPresent()) {
                net = netNamed(word);
            } else {
                return new Parsed.NotUnderstood(Reason.UNKNOWN_WORD, word);
            }
        }
        if (net.isEmpty()) {
            return new Parsed.NotUnderstood(Reason.NO_SUCH_PLACE, "");
        }
        if (volts.isEmpty() || amps.isEmpty()) {
            return new Parsed.NotUnderstood(Reason.NO_VALUE, "");
        }
        boolean measured = volts.size() > 1 && amps.size() > 1;
        return new Parsed.Entry(new Observation.Inject(
                seq,
                net.get(),
                Optional.empty(),
                OptionalDouble.of(volts.get(0)),
                OptionalDouble.of(amps.get(0)),
                measured ? OptionalDouble.of(volts.get(1)) : OptionalDouble.empty(),
                measured ? OptionalDouble.of(amps.get(1)) : OptionalDouble.empty(),
                OptionalDouble.empty(),
                Optional.empty(),
                Optional.empty()));
    }

    private Parsed read(List<String> words, int seq) {
        Optional<String> ref = place(words.get(0)).filter(p -> netNamed(p).isEmpty());
        Optional<String> net = netNamed(words.get(0));
        if (ref.isEmpty() && net.isEmpty()) {
            return new Parsed.NotUnderstood(Reason.NO_SUCH_PLACE, words.get(0));
        }
        ReadMode mode = null;
        OptionalDouble value = OptionalDouble.empty();
        boolean open = false;
        for (String word : words.subList(1, words.size())) {
            String lower = word.toLowerCase(Locale.ROOT);
            Matcher m = QUANTITY.matcher(word);
            if (MODES.containsKey(lower)) {
                mode = MODES.get(lower);
            } else if (OVER_RANGE.contains(lower)) {
                open = true;
            } else if (netNamed(word).isPresent()) {
                net = netNamed(word);
            } else if (m.matches() && value.isEmpty()) {
                value = OptionalDouble.of(value(m));
                if (mode == null && m.group(3) != null && !m.group(3).equalsIgnoreCase("a")) {
                    mode = m.group(3).equalsIgnoreCase("v") ? ReadMode.VOLTS : ReadMode.OHMS;
                }
            } else {
                return new Parsed.NotUnderstood(Reason.UNKNOWN_WORD, word);
            }
        }
        if (mode == null || value.isEmpty() && !open) {
            return new Parsed.NotUnderstood(Reason.NO_VALUE, words.get(words.size() - 1));
        }
        return new Parsed.Entry(new Read(
                seq,
                mode,
                net,
                ref,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                open ? OptionalDouble.empty() : value,
                Optional.empty(),
                Optional.empty()));
    }

    private static double value(Matcher m) {
        double number = Double.parseDouble(m.group(1).replace(',', '.'));
        String prefix = m.group(2) == null ? "" : m.group(2);
        return number
                * switch (prefix) {
                    case "k", "K" -> 1e3;
                    case "M" -> 1e6;
                    case "m" -> 1e-3;
                    case "u", "µ", "U" -> 1e-6;
                    default -> 1;
                };
    }

    private Optional<String> place(String word) {
        return board.parts().stream()
                .map(p -> p.ref())
                .filter(word::equalsIgnoreCase)
                .findFirst()
                .or(() -> board.testPoints().stream()
                        .map(t -> t.ref())
                        .filter(word::equalsIgnoreCase)
                        .findFirst());
    }

    private Optional<String> netNamed(String word) {
        return board.nets().stream()
                .map(n -> n.name())
                .filter(word::equalsIgnoreCase)
                .findFirst();
    }
}
