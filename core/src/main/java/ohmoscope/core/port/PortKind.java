package ohmoscope.core.port;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Part;
import ohmoscope.core.port.PortPin.Function;

/** The usual kinds of ports, each with its rows of pins as seen when one looks into the plug's side, top row first. */
public enum PortKind {
    /** Two rows of twelve; the plug goes in either way round. */
    REVERSIBLE_24(rows(
            "A1 GND,A2 TX,A3 TX,A4 POWER,A5 CONFIG,A6 DATA,A7 DATA,A8 SIDE,A9 POWER,A10 RX,A11 RX,A12 GND",
            "B12 GND,B11 RX,B10 RX,B9 POWER,B8 SIDE,B7 DATA,B6 DATA,B5 CONFIG,B4 POWER,B3 TX,B2 TX,B1 GND")),
    SMALL_5(rows("1 POWER,2 DATA,3 DATA,4 IDENTITY,5 GND")),
    BARREL(rows("1 POWER,3 IDENTITY,2 GND")),
    BATTERY(rows("1 POWER,2 POWER,3 DATA,4 DATA,5 IDENTITY,6 GND,7 GND"));

    private final List<List<PortPin>> rows;

    PortKind(List<List<PortPin>> rows) {
        this.rows = rows;
    }

    private static List<List<PortPin>> rows(String... rows) {
        List<List<PortPin>> all = new ArrayList<>();
        for (String row : rows) {
            List<PortPin> pins = new ArrayList<>();
            for (String pin : row.split(",")) {
                String[] words = pin.split(" ");
                pins.add(new PortPin(words[0], Function.valueOf(words[1])));
            }
            all.add(List.copyOf(pins));
        }
        return List.copyOf(all);
    }

    public List<List<PortPin>> rows() {
        return rows;
    }

    public Optional<PortPin> pin(String name) {
        return rows.stream()
                .flatMap(List::stream)
                .filter(p -> p.name().equals(name))
                .findFirst();
    }

    /** The pin that follows in its row. */
    public Optional<PortPin> next(String name) {
        for (List<PortPin> row : rows) {
            for (int i = 0; i + 1 < row.size(); i++) {
                if (row.get(i).name().equals(name)) {
                    return Optional.of(row.get(i + 1));
                }
            }
        }
        return Optional.empty();
    }

    /** What a connector is, by its pins' names and its words. */
    public static PortKind of(Part part) {
        Set<String> names =
                part.pins().stream().map(p -> p.name().toUpperCase(Locale.ROOT)).collect(Collectors.toSet());
        String words = part.value().toLowerCase(Locale.ROOT);
        boolean reversible = part.expects().map(e -> e.reversible()).orElse(false);
        if (reversible || names.contains("A4") || names.contains("A5") || names.contains("CC1")) {
            return REVERSIBLE_24;
        }
        if (words.contains("batter") || words.contains("cell") || words.contains("pack")) {
            return BATTERY;
        }
        return part.pins().size() >= 5 ? SMALL_5 : BARREL;
    }
}
