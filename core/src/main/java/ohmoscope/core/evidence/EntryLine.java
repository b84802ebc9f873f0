package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Quantity.Unit;

/**
 * The one line to type into. Every kind of entry has its form; small words, case and order are forgiven:
 *
 * <pre>
 * C14 d .003 · C14 mv 3.2 · C14.1 VSYS ohm 2.1 · across F1 .02ohm · TP3 5.02V charger · J1.A5 d OL · C14 beep
 * look J1 pins touching · C14 cracked
 * charger J1 5.1V 0.04A flat side b · bench VMAIN 12V 3A collapse battery out
 * inj VMAIN 1V 2A 31mV 2.00A at C3 leads 10mohm burst
 * warm U7 2.4K touch · warm 12,30 top 4mm · nothing warm bottom
 * removed J1 · unplugged battery · separated upper · removed C45 cold
 * boots · no picture · missing radio
 * good VSYS d .42
 * undo · undo 7 · fix 7 C14 d .03
 * </pre>
 */
public final class EntryLine {
    private static final double BEEP = 1;
    private static final double NO_BEEP = 0;

    private final Board board;
    private final Habit habit;

    /**
     * What a line leaves unsaid.
     *
     * @param mode the meter's usual mode, for a number without one; empty when it must be said
     * @param lead which lead rests on ground, such as {@code black-on-ground}
     * @param feeding what powers the board while volts are read; empty when nothing is known to
     * @param leadOhms what the supply's leads read alone; empty when nobody kept it
     */
    public record Habit(
            Optional<ReadMode> mode, Optional<String> lead, Optional<PowerSource> feeding, OptionalDouble leadOhms) {
        public static final Habit NONE =
                new Habit(Optional.empty(), Optional.empty(), Optional.empty(), OptionalDouble.empty());
    }

    public EntryLine(Board board) {
        this(board, Habit.NONE);
    }

    public EntryLine(Board board, Habit habit) {
        this.board = board;
        this.habit = habit;
    }

    /** What the line came to. */
    public sealed interface Parsed {
        record Entry(Observation observation) implements Parsed {}

        /** An earlier entry as it should have been; {@code observation} has that entry's number. */
        record Correction(Observation observation) implements Parsed {}

        /** An earlier entry that should not count; without a number, the last one. */
        record Withdrawal(Optional<Integer> seq) implements Parsed {}

        /** What a good board of this kind reads; no entry of this job. */
        record Reference(GoodReadings.Good good) implements Parsed {}

        /** @param reason which word was not understood */
        record NotUnderstood(Reason reason, String word) implements Parsed {}
    }

    /** Why a line was not understood. */
    public enum Reason {
        EMPTY,
        NO_SUCH_PLACE,
        NO_VALUE,
        NO_SUCH_FINDING,
        NO_SUCH_ENTRY,
        NO_LEADS,
        UNKNOWN_WORD
    }

    /** The longest form has a dozen. */
    private static final int MOST_WORDS = 60;

    /** What the button of a lifted part says. */
    private static final Pattern IS_OFF = Pattern.compile("(?i)\\bis off\\b");

    /** What pages print between numbers and their units, and between what was set and what was shown. */
    private static final Pattern SPACED_UNIT =
            Pattern.compile("(?<![^ ])([+-]?[0-9]*[.,]?[0-9]+) ((?:[kMmuµ]?(?:V|A|Ω|ohms?)|mm|K)(?: |$))");

    private static final Pattern SPACE = Pattern.compile("[\\s\u00a0\u202f→]+");

    /** @param seq the number that the entry gets */
    public Parsed parse(String line, int seq) {
        String plain = SPACE.matcher(line).replaceAll(" ").trim();
        // What the button says, typed.
        plain = IS_OFF.matcher(plain).replaceAll("off");
        String joined = SPACED_UNIT.matcher(plain).replaceAll("$1$2");
        List<String> words = new ArrayList<>(Arrays.asList(joined.split(" ")));
        if (words.get(0).isEmpty()) {
            return new Parsed.NotUnderstood(Reason.EMPTY, "");
        }
        try {
            return words.size() > MOST_WORDS
                    ? new Parsed.NotUnderstood(Reason.UNKNOWN_WORD, words.get(MOST_WORDS))
                    : entry(words, seq);
        } catch (Unclear unclear) {
            return new Parsed.NotUnderstood(unclear.reason, unclear.word);
        }
    }

    private Parsed entry(List<String> words, int seq) throws Unclear {
        List<String> rest = words.subList(1, words.size());
        switch (lower(words.get(0))) {
            case "undo" -> {
                return new Parsed.Withdrawal(rest.isEmpty() ? Optional.empty() : Optional.of(number(rest.get(0))));
            }
            case "good" -> {
                return reference(rest);
            }
            case "fix" -> {
                if (rest.size() < 2) {
                    throw new Unclear(Reason.NO_SUCH_ENTRY, rest.isEmpty() ? "" : rest.get(0));
                }
                return new Parsed.Correction(observation(rest.subList(1, rest.size()), number(rest.get(0))));
            }
            default -> {
                return new Parsed.Entry(observation(words, seq));
            }
        }
    }

    private Parsed reference(List<String> words) throws Unclear {
        if (words.isEmpty()) {
            throw new Unclear(Reason.NO_SUCH_PLACE, "");
        }
        Observation.Read read = (Observation.Read) read(words, 0);
        Optional<String> net = read.net()
                .or(() -> read.ref().flatMap(this::netOf))
                .or(() -> read.ref().flatMap(board::testPoint).map(t -> t.net()));
        return new Parsed.Reference(
                GoodReadings.of(read, net).orElseThrow(() -> new Unclear(Reason.NO_VALUE, words.get(0))));
    }

    private static int number(String word) throws Unclear {
        try {
            return Integer.parseInt(word.replace("#", ""));
        } catch (NumberFormatException noNumber) {
            throw new Unclear(Reason.NO_SUCH_ENTRY, word);
        }
    }

    private Observation observation(List<String> words, int seq) throws Unclear {
        String first = lower(words.get(0));
        List<String> rest = words.subList(1, words.size());
        Optional<RunFinding> run = EntryVocabulary.run(first.equals("run") ? rest : words);
        if (run.isPresent()) {
            return new Run(seq, run.get(), Optional.empty());
        }
        switch (first) {
            case "inj", "inject" -> {
                return inject(rest, seq);
            }
            case "warm", "nothing" -> {
                return warm(words, seq);
            }
            case "missing" -> {
                if (!rest.isEmpty() && place(rest.get(0)).isEmpty()) {
                    return new Run(seq, RunFinding.FUNCTION_MISSING, Optional.of(String.join(" ", rest)));
                }
            }
            case "power" -> {
                return power(rest, seq);
            }
            default -> {
                if (EntryVocabulary.source(first).isPresent()
                        && rest.stream()
                                .noneMatch(w ->
                                        EntryVocabulary.ACTIONS.containsKey(lower(w)) && !lower(w).equals("off"))) {
                    return power(words, seq);
                }
            }
        }
        for (int i = 0; i < Math.min(2, words.size()); i++) {
            List<String> others = new ArrayList<>(words);
            String word = lower(others.remove(i));
            if (word.equals("look")) {
                return look(others, seq);
            }
            if (EntryVocabulary.ACTIONS.containsKey(word)) {
                return change(EntryVocabulary.ACTIONS.get(word), others, seq);
            }
        }
        Optional<LookFinding> seen = EntryVocabulary.look(rest);
        return seen.isPresent() && place(words.get(0)).isPresent() ? look(words, seq) : read(words, seq);
    }

    private Observation change(ChangeAction action, List<String> rest, int seq) throws Unclear {
        if (rest.isEmpty()) {
            throw new Unclear(Reason.NO_SUCH_PLACE, "");
        }
        String target = switch (lower(rest.get(0))) {
            case "battery", "cell", "pack" -> "battery";
            case "peripherals" -> "peripherals";
            case "upper", "stack:upper" -> "stack:upper";
            case "lower", "stack:lower" -> "stack:lower";
            default -> place(rest.get(0)).orElseThrow(() -> new Unclear(Reason.NO_SUCH_PLACE, rest.get(0)));
        };
        boolean heat = action.usuallyHot();
        for (String word : rest.subList(1, rest.size())) {
            switch (lower(word)) {
                case "cold" -> heat = false;
                case "hot", "heat" -> heat = true;
                default -> throw new Unclear(Reason.UNKNOWN_WORD, word);
            }
        }
        return new Change(seq, action, target, heat);
    }

    private Observation look(List<String> rest, int seq) throws Unclear {
        String word = rest.isEmpty() ? "" : rest.get(0);
        String place = place(word).orElseThrow(() -> new Unclear(Reason.NO_SUCH_PLACE, word));
        List<String> said = rest.subList(1, rest.size());
        return new Look(
                seq,
                place,
                EntryVocabulary.look(said)
                        .orElseThrow(() -> new Unclear(Reason.NO_SUCH_FINDING, String.join(" ", said))));
    }

    private Observation power(List<String> words, int seq) throws Unclear {
        PowerSource from = PowerSource.CHARGER;
        Optional<String> port = Optional.empty();
        Optional<String> net = Optional.empty();
        Optional<String> orientation = Optional.empty();
        Optional<Observation.BatteryState> battery = Optional.empty();
        OptionalDouble volts = OptionalDouble.empty();
        OptionalDouble amps = OptionalDouble.empty();
        DeviceState state = DeviceState.OFF;
        Optional<TraceShape> shape = Optional.empty();
        Words all = new Words(words);
        while (all.more()) {
            String word = all.next();
            String lower = lower(word);
            Optional<Quantity> quantity = Quantity.of(word);
            boolean aboutBattery = lower.equals("battery") && all.peekIs("in", "out", "none");
            if (aboutBattery) {
                battery =
                        Optional.of(Observation.BatteryState.valueOf(all.next().toUpperCase(Locale.ROOT)));
            } else if (lower.equals("side") && all.more()) {
                orientation = Optional.of(lower(all.next()));
            } else if (lower.equals("on") || lower.equals("off")) {
                state = lower.equals("on") ? DeviceState.ON : DeviceState.OFF;
            } else if (EntryVocabulary.source(lower).isPresent()) {
                from = EntryVocabulary.source(lower).get();
            } else if (EntryVocabulary.shape(lower).isPresent()) {
                shape = EntryVocabulary.shape(lower);
            } else if (quantity.map(q -> q.unit() == Unit.VOLTS).orElse(false)) {
                volts = OptionalDouble.of(quantity.get().value());
            } else if (quantity.map(q -> q.unit() == Unit.AMPS).orElse(false)) {
                amps = OptionalDouble.of(quantity.get().value());
            } else if (place(word).isPresent()) {
                port = place(word);
            } else if (netNamed(word).isPresent()) {
                net = netNamed(word);
            } else {
                throw new Unclear(Reason.UNKNOWN_WORD, word);
            }
        }
        if (volts.isEmpty() && amps.isEmpty() && shape.isEmpty()) {
            throw new Unclear(Reason.NO_VALUE, "");
        }
        return new Power(seq, from, port, net, orientation, battery, volts, amps, state, shape, Optional.empty());
    }

    private Observation inject(List<String> rest, int seq) throws Unclear {
        Optional<String> net = Optional.empty();
        Optional<String> ref = Optional.empty();
        OptionalDouble leads = OptionalDouble.empty();
        Optional<TraceShape> shape = Optional.empty();
        Optional<PowerSource> fed = Optional.empty();
        List<Double> volts = new ArrayList<>();
        List<Double> amps = new ArrayList<>();
        Words all = new Words(rest);
        while (all.more()) {
            String word = all.next();
            String lower = lower(word);
            Optional<Quantity> quantity = Quantity.of(word);
            Unit unit = quantity.map(Quantity::unit).orElse(Unit.NONE);
            if (lower.equals("at") && all.more()) {
                ref = Optional.of(all.place());
            } else if ((lower.equals("leads") || lower.equals("lead")) && all.more()) {
                leads = OptionalDouble.of(all.leads());
            } else if (unit == Unit.VOLTS) {
                volts.add(quantity.get().value());
            } else if (unit == Unit.AMPS) {
                amps.add(quantity.get().value());
            } else if (netNamed(word).isPresent()) {
                net = netNamed(word);
            } else if (place(word).isPresent()) {
                ref = place(word);
            } else if (EntryVocabulary.shape(lower).isPresent()) {
                shape = EntryVocabulary.shape(lower);
            } else if (EntryVocabulary.source(lower).isPresent()) {
                fed = EntryVocabulary.source(lower);
            } else {
                throw new Unclear(Reason.UNKNOWN_WORD, word);
            }
        }
        if (net.isEmpty()) {
            net = ref.flatMap(this::netOf);
        }
        if (volts.isEmpty() || amps.isEmpty()) {
            throw new Unclear(Reason.NO_VALUE, "");
        }
        return new Inject(
                seq,
                net.orElseThrow(() -> new Unclear(Reason.NO_SUCH_PLACE, "")),
                ref,
                OptionalDouble.of(volts.get(0)),
                OptionalDouble.of(amps.get(0)),
                volts.size() > 1 ? OptionalDouble.of(volts.get(1)) : OptionalDouble.empty(),
                amps.size() > 1 ? OptionalDouble.of(amps.get(1)) : OptionalDouble.empty(),
                leads.isPresent() ? leads : habit.leadOhms(),
                shape,
                fed);
    }

    private Observation warm(List<String> words, int seq) throws Unclear {
        Optional<String> ref = Optional.empty();
        double[] at = {};
        Optional<Side> side = Optional.empty();
        Optional<Observation.WarmthMeans> by = Optional.empty();
        OptionalDouble kelvin = OptionalDouble.empty();
        OptionalDouble spread = OptionalDouble.empty();
        boolean nothing = false;
        for (String word : words) {
            String lower = lower(word);
            Optional<Quantity> quantity = Quantity.of(word);
            Unit unit = quantity.map(Quantity::unit).orElse(Unit.NONE);
            if (lower.equals("nothing")) {
                nothing = true;
            } else if (EntryVocabulary.side(lower).isPresent()) {
                side = EntryVocabulary.side(lower);
            } else if (EntryVocabulary.means(lower).isPresent()) {
                by = EntryVocabulary.means(lower);
            } else if (unit == Unit.KELVIN) {
                kelvin = OptionalDouble.of(quantity.get().value());
            } else if (unit == Unit.MILLIMETRES) {
                spread = OptionalDouble.of(quantity.get().value());
            } else if (word.matches("-?[0-9.]+,-?[0-9.]+")) {
                at = Arrays.stream(word.split(","))
                        .mapToDouble(Double::parseDouble)
                        .toArray();
            } else if (place(word).isPresent()) {
                ref = place(word);
            } else if (!List.of("warm", "at", "by", "on", "side").contains(lower)) {
                throw new Unclear(Reason.UNKNOWN_WORD, word);
            }
        }
        if (!nothing && ref.isEmpty() && at.length == 0) {
            throw new Unclear(Reason.NO_SUCH_PLACE, "");
        }
        return new Observation.Warm(
                seq,
                ref,
                at.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(at[0]),
                at.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(at[1]),
                side,
                by,
                kelvin,
                spread,
                nothing);
    }

    private Observation read(List<String> words, int seq) throws Unclear {
        Reading reading = new Reading();
        Words all = new Words(words);
        while (all.more()) {
            reading.take(all);
        }
        return reading.kept(seq, words);
    }

    /** A reading as far as it has been read. */
    private final class Reading {
        private Optional<String> ref = Optional.empty();
        private Optional<String> pin = Optional.empty();
        private Optional<String> net = Optional.empty();
        private Optional<String> across = Optional.empty();
        private Optional<String> to = Optional.empty();
        private Optional<String> lead = Optional.empty();
        private Optional<PowerSource> power = Optional.empty();
        private Optional<ReadMode> mode = Optional.empty();
        private Optional<Quantity> value = Optional.empty();
        private boolean open;
        private boolean underInjection;

        void take(Words all) throws Unclear {
            String word = all.next();
            String lower = lower(word);
            Optional<ReadMode> named = Optional.ofNullable(EntryVocabulary.MODES.get(lower));
            if (named.isPresent()) {
                mode = named;
            } else if (EntryVocabulary.UNDER_INJECTION.contains(lower)) {
                mode = Optional.of(ReadMode.VOLTS);
                underInjection = true;
            } else if (EntryVocabulary.OVER_RANGE.contains(lower)) {
                open = true;
                if (all.peekIs("range")) {
                    all.next();
                }
            } else if (lower.equals("at") && ref.isEmpty() && all.more()) {
                // The place itself comes next.
                take(all);
            } else if (lower.equals("beep") || lower.equals("beeps")) {
                mode = Optional.of(ReadMode.CONTINUITY);
                value = value.or(() -> Optional.of(new Quantity(BEEP, Unit.NONE)));
            } else if (lower.equals("no") && all.peekIs("beep")) {
                value = Optional.of(new Quantity(NO_BEEP, Unit.NONE));
            } else if (lower.equals("across") && all.more() && place(all.peek()).isPresent()) {
                across = place(all.next());
            } else if (lower.equals("across") && ref.isPresent()) {
                across = ref;
                ref = Optional.empty();
            } else if (lower.equals("to") && all.more()) {
                to = Optional.of(all.net());
            } else if (lower.equals("red") || lower.equals("black")) {
                lead = Optional.of(lower + "-on-ground");
            } else if (EntryVocabulary.source(lower).isPresent()) {
                power = EntryVocabulary.source(lower);
            } else if (netNamed(word).isPresent()) {
                net = netNamed(word);
            } else if (ref.isEmpty() && across.isEmpty() && place(word).isPresent()) {
                ref = place(word);
            } else if (ref.isEmpty() && padded(word)) {
                ref = place(word.substring(0, word.lastIndexOf('.')));
                pin = pin(ref.orElseThrow(), word.substring(word.lastIndexOf('.') + 1));
            } else if (value.isEmpty() && somewhere() && glued(word).isPresent()) {
                mode = Optional.of(EntryVocabulary.MODES.get(lower.substring(0, 1)));
                value = glued(word);
            } else if (value.isEmpty() && Quantity.of(word).isPresent() && somewhere()) {
                value = Quantity.of(word);
            } else {
                throw new Unclear(somewhere() ? Reason.UNKNOWN_WORD : Reason.NO_SUCH_PLACE, word);
            }
        }

        private boolean somewhere() {
            return ref.isPresent() || net.isPresent() || across.isPresent();
        }

        /** A part's pad, such as C14.1. */
        private boolean padded(String word) {
            int dot = word.lastIndexOf('.');
            return dot > 0
                    && place(word.substring(0, dot))
                            .flatMap(r -> pin(r, word.substring(dot + 1)))
                            .isPresent();
        }

        private Optional<String> pin(String part, String name) {
            return board.part(part).stream()
                    .flatMap(p -> p.pins().stream())
                    .map(p -> p.name())
                    .filter(name::equalsIgnoreCase)
                    .findFirst();
        }

        /** Mode and number without a space between, such as d.45. */
        private Optional<Quantity> glued(String word) {
            return word.matches("(?i)[drcv][0-9.,].*") ? Quantity.of(word.substring(1)) : Optional.empty();
        }

        Observation kept(int seq, List<String> words) throws Unclear {
            if (!somewhere()) {
                throw new Unclear(Reason.NO_SUCH_PLACE, "");
            }
            if (value.isEmpty() && !open) {
                throw new Unclear(Reason.NO_VALUE, words.get(words.size() - 1));
            }
            Optional<ReadMode> how =
                    mode.or(() -> value.flatMap(v -> byUnit(v.unit()))).or(habit::mode);
            if (how.isEmpty()) {
                throw new Unclear(Reason.NO_VALUE, words.get(words.size() - 1));
            }
            boolean volts = how.get() == ReadMode.VOLTS || how.get() == ReadMode.VOLTS_AC;
            return new Read(
                    seq,
                    how.get(),
                    net,
                    ref,
                    pin,
                    across,
                    to,
                    open
                            ? OptionalDouble.empty()
                            : OptionalDouble.of(amount(value.orElseThrow(), underInjection ? 1e-3 : 1)),
                    how.get() == ReadMode.DIODE ? lead.or(habit::lead) : lead,
                    power.isEmpty() && volts ? feeding() : power);
        }

        private Optional<PowerSource> feeding() {
            return underInjection ? Optional.of(PowerSource.BENCH) : habit.feeding();
        }

        /** A large K is kelvin elsewhere; a meter means thousands. @param plain what a number without a unit is in */
        private static double amount(Quantity value, double plain) {
            return switch (value.unit()) {
                case KELVIN -> value.value() * 1e3;
                case NONE -> value.value() * plain;
                default -> value.value();
            };
        }

        private static Optional<ReadMode> byUnit(Unit unit) {
            return switch (unit) {
                case VOLTS -> Optional.of(ReadMode.VOLTS);
                case OHMS, KELVIN -> Optional.of(ReadMode.OHMS);
                default -> Optional.empty();
            };
        }
    }

    /** The words of a line, one after another. */
    private final class Words {
        private final List<String> words;
        private int at;

        Words(List<String> words) {
            this.words = words;
        }

        boolean more() {
            return at < words.size();
        }

        String next() {
            return words.get(at++);
        }

        String peek() {
            return words.get(at);
        }

        boolean peekIs(String... expected) {
            return more() && List.of(expected).contains(lower(peek()));
        }

        String place() throws Unclear {
            String word = next();
            return EntryLine.this.place(word).orElseThrow(() -> new Unclear(Reason.NO_SUCH_PLACE, word));
        }

        String net() throws Unclear {
            String word = next();
            return netNamed(word).orElseThrow(() -> new Unclear(Reason.NO_SUCH_PLACE, word));
        }

        double leads() throws Unclear {
            String word = next();
            double ohms = Quantity.of(word)
                    .orElseThrow(() -> new Unclear(Reason.NO_VALUE, word))
                    .value();
            if (!Injection.leadsCanBe(ohms)) {
                throw new Unclear(Reason.NO_LEADS, word);
            }
            return ohms;
        }
    }

    private Optional<String> netOf(String ref) {
        return board.part(ref)
                .flatMap(p -> p.pins().stream()
                        .map(Pin::net)
                        .filter(n -> board.net(n)
                                .map(net -> net.kind() == NetKind.POWER)
                                .orElse(false))
                        .findFirst());
    }

    private Optional<String> place(String word) {
        return board.parts().stream()
                .map(Part::ref)
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

    private static String lower(String word) {
        return word.toLowerCase(Locale.ROOT);
    }

    /** A word that stands in the way; becomes {@link Parsed.NotUnderstood}. */
    private static final class Unclear extends Exception {
        private static final long serialVersionUID = 1L;
        private final Reason reason;
        private final String word;

        Unclear(Reason reason, String word) {
            super(word, null, false, false);
            this.reason = reason;
            this.word = word;
        }
    }
}
