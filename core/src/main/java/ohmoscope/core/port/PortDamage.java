package ohmoscope.core.port;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.port.PortPin.Function;

/**
 * What the state of a port's pins means.
 *
 * @param effects what each mark does, in the order of the pins
 * @param dead ways round in which it no longer works; empty where both do, or the kind has one
 * @param behind chips that may have died with it, each with the line that took the voltage
 * @param after nets to read when the port is off
 * @param held nets that the marks hold at ground
 * @param opened nets that they part from the plug
 */
public record PortDamage(
        PortKind kind,
        List<Effect> effects,
        Set<Way> dead,
        Map<String, String> behind,
        List<String> after,
        Set<String> held,
        Set<String> opened) {
    /** What was seen on a pin. */
    public enum Mark {
        BENT,
        MISSING,
        /** It touches the pin that follows in its row. */
        TOUCHES_NEXT
    }

    /** Which side of the plug is up. */
    public enum Way {
        A,
        B
    }

    /** What a mark does. */
    public enum What {
        /** Power on ground: the source gives way. */
        POWER_TO_GROUND,
        /** Power on a line that bears less: what is behind it may be dead. */
        POWER_TO_LINE,
        LINE_TO_GROUND,
        LINE_TO_LINE,
        /** Two pins of the same net: nothing. */
        SAME,
        OPEN_CONFIG,
        OPEN_POWER,
        OPEN_GROUND,
        OPEN_LINE
    }

    /** @param other the pin that is touched, empty for a pin that is bent or missing */
    public record Effect(PortPin pin, Mark mark, What what, Optional<PortPin> other) {}

    public PortDamage {
        effects = List.copyOf(effects);
    }

    /**
     * @param part the port on the board
     * @param marks by pin; none but the kind's own
     * @throws InvalidMember for a pin that the kind does not have, or a last one that is said to touch the next
     */
    public static PortDamage of(BoardIndex board, Part part, Map<String, Mark> marks) {
        return new Reader(board, part, marks).read();
    }

    /** Whether what is marked makes a net read like this. @param low whether it reads low, as against high or open */
    public boolean explains(String net, boolean low) {
        return low ? held.contains(net) : opened.contains(net);
    }

    /** Whether the port alone is to be renewed, as nothing behind it took more than it bears. */
    public boolean portAlone() {
        return behind.isEmpty();
    }

    /** Goes through the marks. */
    private static final class Reader {
        private final BoardIndex board;
        private final Part part;
        private final PortKind kind;
        private final Map<String, Mark> marks;
        private final List<Effect> effects = new ArrayList<>();
        private final Set<Way> dead = new LinkedHashSet<>();
        private final Map<String, String> behind = new LinkedHashMap<>();
        private final Set<String> after = new LinkedHashSet<>();
        private final Set<String> held = new LinkedHashSet<>();
        private final Set<String> opened = new LinkedHashSet<>();

        Reader(BoardIndex board, Part part, Map<String, Mark> marks) {
            this.board = board;
            this.part = part;
            this.kind = PortKind.of(part);
            this.marks = marks;
        }

        PortDamage read() {
            marks.keySet().stream()
                    .filter(name -> kind.pin(name).isEmpty())
                    .findFirst()
                    .ifPresent(name -> {
                        throw new InvalidMember("marks", "names the pin " + name + ", which such a port does not have");
                    });
            for (List<PortPin> row : kind.rows()) {
                for (PortPin pin : row) {
                    Mark mark = marks.get(pin.name());
                    if (mark == Mark.TOUCHES_NEXT) {
                        touches(pin);
                    } else if (mark != null) {
                        opens(pin, mark);
                    }
                }
            }
            return new PortDamage(kind, effects, dead, behind, List.copyOf(after), held, opened);
        }

        private void touches(PortPin pin) {
            PortPin other = kind.next(pin.name())
                    .orElseThrow(() -> new InvalidMember(
                            "marks", "says that " + pin.name() + ", the last of its row, touches the next"));
            Function a = pin.function();
            Function b = other.function();
            boolean power = a == Function.POWER || b == Function.POWER;
            boolean ground = a == Function.GND || b == Function.GND;
            What what = a == b && !a.line()
                    ? What.SAME
                    : power && ground
                            ? What.POWER_TO_GROUND
                            : power ? What.POWER_TO_LINE : ground ? What.LINE_TO_GROUND : What.LINE_TO_LINE;
            effects.add(new Effect(pin, Mark.TOUCHES_NEXT, what, Optional.of(other)));
            if (what == What.SAME) {
                return;
            }
            boolean grounded = what == What.POWER_TO_GROUND || what == What.LINE_TO_GROUND;
            for (PortPin one : List.of(pin, other)) {
                net(one).filter(n -> !board.isGround(n)).ifPresent(n -> {
                    after.add(n);
                    if (grounded) {
                        held.add(n);
                    }
                });
            }
            if (what == What.POWER_TO_GROUND) {
                dead.add(Way.A);
                dead.add(Way.B);
            } else if (what != What.LINE_TO_LINE) {
                for (PortPin one : List.of(pin, other)) {
                    if (one.function() == Function.CONFIG) {
                        dead.add(way(one));
                    }
                    if (what == What.POWER_TO_LINE && one.function().line()) {
                        hurt(one);
                    }
                }
            }
        }

        private void opens(PortPin pin, Mark mark) {
            What what = switch (pin.function()) {
                case CONFIG -> What.OPEN_CONFIG;
                case POWER -> What.OPEN_POWER;
                case GND -> What.OPEN_GROUND;
                default -> What.OPEN_LINE;
            };
            effects.add(new Effect(pin, mark, what, Optional.empty()));
            if (what == What.OPEN_CONFIG) {
                dead.add(way(pin));
            }
            net(pin).ifPresent(opened::add);
        }

        private static Way way(PortPin pin) {
            return pin.name().startsWith("B") ? Way.B : Way.A;
        }

        /** The chips on the line that took what it does not bear. */
        private void hurt(PortPin pin) {
            net(pin).ifPresent(line -> board.partsOn(line)
                    .filter(p -> p.kind() == PartKind.IC || p.kind() == PartKind.TVS)
                    .forEach(p -> {
                        behind.putIfAbsent(p.ref(), line);
                        p.pins().stream()
                                .map(Pin::net)
                                .filter(n -> board.net(n)
                                        .map(x -> x.kind() == NetKind.POWER)
                                        .orElse(false))
                                .forEach(after::add);
                    }));
        }

        /** The board's net on a pin: by the pin's number, else by what it carries. */
        private Optional<String> net(PortPin pin) {
            Optional<String> byNumber = part.pins().stream()
                    .filter(p -> p.name().equalsIgnoreCase(pin.name()))
                    .map(Pin::net)
                    .findFirst();
            return byNumber.or(() -> switch (pin.function()) {
                case GND -> Optional.of(board.ground());
                case POWER -> board.powerNets(part).stream().findFirst();
                case CONFIG -> named("CC" + (way(pin) == Way.B ? "2" : "1"));
                case DATA -> named(pin.name().endsWith("6") || pin.name().equals("3") ? "DP" : "DN");
                default -> Optional.empty();
            });
        }

        private Optional<String> named(String word) {
            return part.pins().stream()
                    .filter(p -> p.name().equalsIgnoreCase(word)
                            || p.net().toUpperCase(java.util.Locale.ROOT).endsWith(word))
                    .map(Pin::net)
                    .findFirst();
        }
    }
}
