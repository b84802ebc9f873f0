package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.PowerTree;

/**
 * The least that a board needs to start on the bench, read off its connectors: what is not on the list is left out, as
 * each thing less can be wrong one thing less.
 *
 * @param items what is needed first
 */
public record BareStart(List<Item> items) {
    /** How much a start depends on it. */
    public enum Need {
        NEEDED,
        /** It starts without, but shows less, or not for long. */
        HELPS,
        LEAVE_OUT
    }

    /** What plugs in there. */
    public enum What {
        POWER(Need.NEEDED),
        BATTERY_ALONE(Need.NEEDED),
        MEMORY(Need.NEEDED),
        BUTTON(Need.HELPS),
        PICTURE(Need.HELPS),
        COOLING(Need.HELPS),
        BACKUP_CELL(Need.HELPS),
        BATTERY(Need.LEAVE_OUT),
        STORAGE(Need.LEAVE_OUT),
        OTHER(Need.LEAVE_OUT);

        private final Need need;

        What(Need need) {
            this.need = need;
        }

        public Need need() {
            return need;
        }
    }

    /** @param ref the connector @param name what the board calls it; may be empty @param in whether it is plugged in now */
    public record Item(String ref, String name, What what, boolean in) {}

    private static final Pattern MEMORY = words("memory|ram");
    private static final Pattern STORAGE = words("drive|storage|disk|card|flash");
    private static final Pattern PICTURE = words("display|screen|panel|picture|lamp");
    private static final Pattern BUTTON = words("button|keypad|key|keys|switch");
    private static final Pattern COOLING = words("fan|blower|pump|cooler");
    private static final Pattern BACKUP = words("backup|clock|coin");

    public BareStart {
        items = List.copyOf(items);
    }

    private static Pattern words(String alternatives) {
        return Pattern.compile("(?i).*\\b(" + alternatives + ")\\b.*");
    }

    /** O(parts). @param now what is plugged in */
    public static BareStart of(Board plain, BoardState now) {
        BoardIndex board = new BoardIndex(plain);
        PowerTree tree = PowerTree.of(board);
        List<Item> items = new ArrayList<>();
        for (Part part : board.parts()) {
            if (part.kind() == PartKind.CONNECTOR || board.role(part) == Role.CONNECTOR) {
                boolean in = now.has(part)
                        && !now.unplugged().contains(part.ref())
                        && (!tree.isBattery(part.ref()) || now.battery());
                items.add(new Item(part.ref(), part.value(), what(tree, part), in));
            }
        }
        items.sort(Comparator.comparing(Item::what));
        return new BareStart(items);
    }

    private static What what(PowerTree tree, Part part) {
        if (tree.isInput(part.ref())) {
            return What.POWER;
        }
        String name = part.value();
        if (BACKUP.matcher(name).matches()) {
            return What.BACKUP_CELL;
        }
        if (tree.isBattery(part.ref())) {
            return tree.inputs().isEmpty() ? What.BATTERY_ALONE : What.BATTERY;
        }
        return MEMORY.matcher(name).matches()
                ? What.MEMORY
                : STORAGE.matcher(name).matches()
                        ? What.STORAGE
                        : PICTURE.matcher(name).matches()
                                ? What.PICTURE
                                : COOLING.matcher(name).matches()
                                        ? What.COOLING
                                        : BUTTON.matcher(name).matches() ? What.BUTTON : What.OTHER;
    }

    /** Needed and not plugged in: asked for before power, and before any part is suspected of not starting. */
    public List<Item> missing() {
        return items.stream()
                .filter(i -> i.what().need() == Need.NEEDED && i.what() != What.POWER && !i.in())
                .toList();
    }
}
