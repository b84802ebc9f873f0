package ohmoscope.web.port;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.port.PortDamage.Mark;

/** Marks on pins as they stand in an address: {@code A4t.B5m}. */
final class Marks {
    private static final int LONGEST = 400;

    private Marks() {}

    static Map<String, Mark> read(String text) {
        Map<String, Mark> marks = new TreeMap<>();
        if (text.length() > LONGEST) {
            throw new InvalidMember("marks", "are more than a port has pins");
        }
        for (String word : text.isEmpty() ? new String[0] : text.split("\\.")) {
            if (!word.matches("[A-Z]?\\d{1,2}[bmt]")) {
                throw new InvalidMember("marks", "has " + word + "; a mark is a pin with b, m or t behind it");
            }
            marks.put(
                    word.substring(0, word.length() - 1),
                    switch (word.charAt(word.length() - 1)) {
                        case 'b' -> Mark.BENT;
                        case 'm' -> Mark.MISSING;
                        default -> Mark.TOUCHES_NEXT;
                    });
        }
        return marks;
    }

    static String write(Map<String, Mark> marks) {
        return marks.entrySet().stream()
                .map(e -> e.getKey()
                        + switch (e.getValue()) {
                            case BENT -> "b";
                            case MISSING -> "m";
                            case TOUCHES_NEXT -> "t";
                        })
                .collect(Collectors.joining("."));
    }

    /** A tap goes on to the next state: touches the next, bent, missing, fine. */
    static Map<String, Mark> tapped(Map<String, Mark> marks, String pin, boolean last) {
        Map<String, Mark> more = new LinkedHashMap<>(new TreeMap<>(marks));
        Mark now = marks.get(pin);
        if (now == null) {
            more.put(pin, last ? Mark.BENT : Mark.TOUCHES_NEXT);
        } else {
            switch (now) {
                case TOUCHES_NEXT -> more.put(pin, Mark.BENT);
                case BENT -> more.put(pin, Mark.MISSING);
                case MISSING -> more.remove(pin);
            }
        }
        return more;
    }
}
