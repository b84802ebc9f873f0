package ohmoscope.web.port;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.port.PortDamage;
import ohmoscope.core.port.PortDamage.Effect;
import ohmoscope.core.port.PortDamage.Mark;
import ohmoscope.core.port.PortDamage.Way;
import ohmoscope.core.port.PortKind;
import ohmoscope.core.port.PortPin;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;

/**
 * The page of one port.
 *
 * @param marks as they stand in the address
 * @param fromPads whether it is seen from the board's side
 * @param explained readings that the marks explain
 * @param other readings that are wrong and that they do not
 */
public record PortView(
        JobHead head,
        String ref,
        String value,
        List<String> ports,
        String marks,
        boolean fromPads,
        int width,
        List<List<Key>> rows,
        List<String> effects,
        List<String> ways,
        List<Behind> behind,
        List<After> after,
        List<String> explained,
        List<String> other,
        List<Finding> findings,
        String order,
        List<AdviceView.StopLine> stops) {
    private static final int PITCH = 46;

    /**
     * One pin to tap.
     *
     * @param next the marks once it is tapped
     * @param link whether it is joined to the pin at its right
     */
    public record Key(
            int x, int y, String name, String carries, String state, String label, String next, boolean link) {}

    /** A chip that may have died with the port. */
    public record Behind(String ref, String line) {}

    /** A net to read when the port is off. */
    public record After(String net, String good) {}

    /** What may be kept as evidence. */
    public record Finding(String line, String words) {}

    static PortView of(OpenJobs.Open open, PowerTree tree, Optional<String> wanted, String text, boolean fromPads) {
        BoardIndex board = new BoardIndex(open.job().board());
        List<Part> ports = new ArrayList<>(tree.inputs());
        tree.battery().ifPresent(ports::add);
        Part port = wanted.map(ref -> board.part(ref)
                        .orElseThrow(() -> new InvalidMember("ref", "is " + ref + ", which this board does not have")))
                .or(() -> ports.stream().findFirst())
                .orElseThrow(() -> new InvalidMember("ref", "is missing: this board has no port that is known as one"));
        Map<String, Mark> marks = Marks.read(text);
        PortDamage damage = PortDamage.of(board, port, marks);
        List<Sign> wrong = open.advice().signs().stream()
                .filter(s -> s.says().concern() == Says.Concern.WRONG)
                .toList();
        return new PortView(
                open.head(),
                port.ref(),
                port.value().isBlank() ? Words.of(port.kind()) : port.value(),
                ports.stream().map(Part::ref).toList(),
                Marks.write(marks),
                fromPads,
                damage.kind().rows().stream().mapToInt(List::size).max().orElse(1) * PITCH + 16,
                rows(damage.kind(), marks, fromPads),
                damage.effects().stream().map(PortView::words).toList(),
                ways(damage),
                damage.behind().entrySet().stream()
                        .map(e -> new Behind(e.getKey(), e.getValue()))
                        .toList(),
                damage.after().stream().map(n -> after(board, n)).toList(),
                signs(wrong, damage, true),
                signs(wrong, damage, false),
                findings(port.ref(), damage),
                order(port.ref(), damage),
                AdviceView.stops(open));
    }

    private static List<List<Key>> rows(PortKind kind, Map<String, Mark> marks, boolean fromPads) {
        List<List<Key>> rows = new ArrayList<>();
        for (int r = 0; r < kind.rows().size(); r++) {
            List<PortPin> pins = kind.rows().get(r);
            List<Key> row = new ArrayList<>();
            for (int i = 0; i < pins.size(); i++) {
                PortPin pin = pins.get(i);
                int place = fromPads ? pins.size() - 1 - i : i;
                Optional<Mark> mark = Optional.ofNullable(marks.get(pin.name()));
                boolean last = i == pins.size() - 1;
                row.add(new Key(
                        8 + PITCH * place,
                        8 + 74 * r,
                        pin.name(),
                        carries(pin),
                        mark.map(m -> m.name()
                                        .toLowerCase(java.util.Locale.ROOT)
                                        .replace('_', '-'))
                                .orElse("fine"),
                        pin.name() + ", " + carries(pin) + ", "
                                + mark.map(PortView::plain).orElse("as it should be"),
                        Marks.write(Marks.tapped(marks, pin.name(), last)),
                        mark.filter(m -> m == Mark.TOUCHES_NEXT).isPresent()));
            }
            rows.add(row);
        }
        return rows;
    }

    private static String plain(Mark mark) {
        return switch (mark) {
            case BENT -> "bent";
            case MISSING -> "missing";
            case TOUCHES_NEXT -> "touches the next";
        };
    }

    private static String carries(PortPin pin) {
        return switch (pin.function()) {
            case GND -> "ground";
            case POWER -> "power";
            case CONFIG -> "way";
            case DATA -> "data";
            case TX, RX -> "fast";
            case SIDE -> "side";
            case IDENTITY -> "ident";
        };
    }

    private static String words(Effect effect) {
        String pins =
                effect.pin().name() + effect.other().map(o -> "–" + o.name()).orElse("");
        return pins + ": "
                + switch (effect.what()) {
                    case POWER_TO_GROUND -> "power meets ground. Any source gives way; nothing behind it takes harm.";
                    case POWER_TO_LINE ->
                        "power meets a line that bears a quarter of it at most. What hangs on the line may be dead.";
                    case LINE_TO_GROUND -> "the line is held at ground.";
                    case LINE_TO_LINE -> "two lines are crossed: no harm, and neither works.";
                    case SAME -> "the two carry the same: nothing changes.";
                    case OPEN_CONFIG -> "nothing tells the source which way round the plug is: that way is dead.";
                    case OPEN_POWER -> "one of the pins that carry power is gone: the others get warm.";
                    case OPEN_GROUND -> "one ground less: the shell and the others carry it.";
                    case OPEN_LINE -> "the line is open: what it does is missing.";
                };
    }

    private static List<String> ways(PortDamage damage) {
        if (damage.kind() != PortKind.REVERSIBLE_24 || damage.dead().isEmpty()) {
            return List.of();
        }
        if (damage.dead().size() == 2) {
            return List.of("It works neither way round.");
        }
        boolean a = damage.dead().contains(Way.A);
        return List.of("Dead with side " + (a ? "A" : "B")
                + " of the plug up; alive the other way round. Try both: it shows.");
    }

    private static After after(BoardIndex board, String net) {
        String good = board.isGround(net)
                ? ""
                : board.net(net)
                        .flatMap(n -> Interpreter.expected(n, ReadMode.DIODE))
                        .map(r -> Words.range(r, ReadMode.DIODE))
                        .orElse("as its sister reads");
        return new After(net, good);
    }

    private static List<String> signs(List<Sign> wrong, PortDamage damage, boolean explained) {
        return wrong.stream()
                .filter(s -> damage.explains(s.net(), s.says() == Says.SHORTED || s.says() == Says.LOW) == explained)
                .map(s -> s.net() + ": " + AdviceWords.sign(s))
                .distinct()
                .toList();
    }

    private static List<Finding> findings(String ref, PortDamage damage) {
        Map<String, String> lines = new LinkedHashMap<>();
        for (Effect effect : damage.effects()) {
            switch (effect.mark()) {
                case TOUCHES_NEXT -> lines.put("look " + ref + " pins touching", "Keep: pins touching");
                case BENT -> lines.put("look " + ref + " pin bent", "Keep: pin bent");
                case MISSING -> lines.put("look " + ref + " pin missing", "Keep: pin missing");
            }
        }
        return lines.entrySet().stream()
                .map(e -> new Finding(e.getKey(), e.getValue()))
                .toList();
    }

    private static String order(String ref, PortDamage damage) {
        if (damage.effects().isEmpty()) {
            return "";
        }
        String chips = damage.behind().keySet().stream().collect(Collectors.joining(", "));
        return damage.portAlone()
                ? "Order " + ref + " alone: nothing behind it took more than it bears."
                : "Order " + ref + ", and have " + chips + " at hand: the readings with the port off decide.";
    }
}
