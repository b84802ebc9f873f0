package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.EntryLine.Parsed;
import ohmoscope.core.evidence.Observation.BatteryState;
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
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever an entry holds, the line made from it is read as the same entry; and no line whatever breaks the reader. */
class EntryLinePropertyTest {
    private static final int TRIES = 400;

    private final Board board = Fixtures.board();
    private final EntryLine line = new EntryLine(board);
    private final Random random = new Random(11);

    private <T> T one(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    private <T> T one(T[] of) {
        return of[random.nextInt(of.length)];
    }

    private <T> Optional<T> maybe(T value) {
        return random.nextBoolean() ? Optional.of(value) : Optional.empty();
    }

    private double number() {
        return Math.round(Math.pow(10, random.nextDouble() * 6 - 3) * 1e6) / 1e6;
    }

    private OptionalDouble maybeNumber() {
        return random.nextBoolean() ? OptionalDouble.of(number()) : OptionalDouble.empty();
    }

    private String ref() {
        return one(board.parts()).ref();
    }

    private String net() {
        return one(board.nets()).name();
    }

    private Observation read() {
        boolean across = random.nextInt(4) == 0;
        Optional<String> ref = across ? Optional.empty() : maybe(ref());
        Optional<String> pin =
                ref.flatMap(r -> maybe(one(board.part(r).orElseThrow().pins()).name()));
        Optional<String> net =
                across || ref.isPresent() && random.nextBoolean() ? Optional.empty() : Optional.of(net());
        return new Read(
                1,
                one(ReadMode.values()),
                net,
                ref,
                pin,
                across ? Optional.of(ref()) : Optional.empty(),
                maybe(net()),
                maybeNumber(),
                maybe(random.nextBoolean() ? "red-on-ground" : "black-on-ground"),
                maybe(one(PowerSource.values())));
    }

    private Observation power() {
        boolean port = random.nextBoolean();
        return new Power(
                1,
                one(PowerSource.values()),
                port ? Optional.of(ref()) : Optional.empty(),
                port ? Optional.empty() : Optional.of(net()),
                maybe(random.nextBoolean() ? "a" : "b"),
                maybe(one(BatteryState.values())),
                OptionalDouble.of(number()),
                maybeNumber(),
                one(DeviceState.values()),
                maybe(one(TraceShape.values())),
                Optional.empty());
    }

    private Observation inject() {
        OptionalDouble volts = maybeNumber();
        return new Inject(
                1,
                net(),
                maybe(ref()),
                OptionalDouble.of(number()),
                OptionalDouble.of(number()),
                volts,
                volts.isPresent() ? OptionalDouble.of(number()) : OptionalDouble.empty(),
                random.nextBoolean() ? OptionalDouble.of((1 + random.nextInt(9_999)) / 1000.0) : OptionalDouble.empty(),
                maybe(one(TraceShape.values())),
                maybe(one(PowerSource.values())));
    }

    private Observation warm() {
        boolean part = random.nextBoolean();
        return new Warm(
                1,
                part ? Optional.of(ref()) : Optional.empty(),
                part ? OptionalDouble.empty() : OptionalDouble.of(number()),
                part ? OptionalDouble.empty() : OptionalDouble.of(number()),
                maybe(one(Side.values())),
                maybe(one(WarmthMeans.values())),
                maybeNumber(),
                maybeNumber(),
                random.nextInt(5) == 0);
    }

    private Observation run() {
        RunFinding finding = one(RunFinding.values());
        return new Run(
                1, finding, finding == RunFinding.FUNCTION_MISSING ? Optional.of("radio card") : Optional.empty());
    }

    private Observation any() {
        return switch (random.nextInt(7)) {
            case 0 -> power();
            case 1 -> inject();
            case 2 -> warm();
            case 3 -> run();
            case 4 -> new Look(1, ref(), one(LookFinding.values()));
            case 5 ->
                new Change(
                        1,
                        one(ChangeAction.values()),
                        one(List.of(ref(), "battery", "peripherals", "stack:upper", "stack:lower")),
                        random.nextBoolean());
            default -> read();
        };
    }

    @Test
    void anEntryGoesToALineAndBack() {
        for (int i = 0; i < TRIES; i++) {
            Observation entry = any();
            String text = EntryText.of(entry);
            Parsed parsed = line.parse(text, 1);
            assertThat(parsed).as("%s from %s", text, entry).isEqualTo(new Parsed.Entry(entry));
        }
    }

    @Test
    void caseAndSpacesDoNotMatter() {
        for (int i = 0; i < TRIES / 4; i++) {
            Observation entry = new Look(1, ref(), one(LookFinding.values()));
            String text = EntryText.of(entry);
            String shouted = "  " + text.toUpperCase(java.util.Locale.ROOT).replace(" ", "   ") + " ";
            assertThat(line.parse(shouted, 1)).as(shouted).isEqualTo(new Parsed.Entry(entry));
        }
    }

    @Test
    void noLineBreaksTheReader() {
        String[] words = {
            "C1",
            "VSYS",
            "d",
            "ohm",
            ".003",
            "OL",
            "look",
            "pins",
            "touching",
            "removed",
            "charger",
            "5V",
            "2A",
            "inj",
            "at",
            "leads",
            "warm",
            "nothing",
            "top",
            "12,30",
            "undo",
            "fix",
            "7",
            "good",
            "across",
            "to",
            "side",
            "battery",
            "in",
            "beep",
            "no",
            "missing",
            "separated",
            "power",
            "C1.",
            ".1",
            "..",
            "-",
            "µ",
            "Ω",
            "1e999",
            "🙂",
            "\t",
            "''",
            "<b>"
        };
        for (int i = 0; i < 5000; i++) {
            StringBuilder text = new StringBuilder();
            for (int n = random.nextInt(7); n >= 0; n--) {
                text.append(one(words)).append(' ');
            }
            assertThat(line.parse(text.toString(), 1)).as(text.toString()).isNotNull();
        }
    }

    @ParameterizedTest
    @ValueSource(doubles = {1e-3, 4.7e-3, 0.12, 0.999, 1, 3.3, 47, 999, 1e3, 4.7e3, 2.2e6})
    void everyPrefixSaysTheSame(double ohms) {
        for (String text : List.of(
                String.format(java.util.Locale.ROOT, "C1 ohm %.6f", ohms),
                String.format(java.util.Locale.ROOT, "C1 %.6fmohm", ohms * 1e3),
                String.format(java.util.Locale.ROOT, "C1 %.9fkohm", ohms / 1e3),
                String.format(java.util.Locale.ROOT, "C1 r%.6f", ohms))) {
            Read read = (Read) ((Parsed.Entry) line.parse(text, 1)).observation();
            assertThat(read.mode()).isEqualTo(ReadMode.OHMS);
            assertThat(read.value().orElseThrow()).as(text).isCloseTo(ohms, within(1e-5 * ohms + 1e-6));
        }
    }
}
