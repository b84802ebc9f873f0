package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;

/** Points that are met on the bench and that the board's data does not have: added one by one, none ever taken away. */
public final class Points {
    private static final Pattern NAME = Pattern.compile("[\\p{L}\\p{N}_.+-]{1,40}");
    private static final double STEP_MM = 1.0;
    private static final double CLEAR_MM = 0.3;

    private Points() {}

    /**
     * What was met.
     *
     * @param name as the technician says it; blanks become hyphens
     * @param net what it hangs on; one that the board does not have is added
     * @param other the net of its other end, empty where it has none or nobody knows
     * @param rail whether a net that is added carries power
     */
    public record Met(String name, PartKind kind, String net, Optional<String> other, boolean rail) {
        public Met {
            name = word("name", name);
            net = word("net", net);
            other = other.map(String::strip).filter(o -> !o.isEmpty()).map(o -> word("other", o));
        }

        private static String word(String member, String text) {
            String word = text.strip().replaceAll("\\s+", "-");
            if (!NAME.matcher(word).matches()) {
                throw new InvalidMember(
                        member, "must have 1 to 40 letters, digits, hyphens, dots, plus signs or underscores");
            }
            return word;
        }
    }

    /**
     * The board with the point more, at a free place.
     *
     * @throws InvalidMember where the name is taken
     */
    public static Board with(Board board, Met met) {
        if (board.part(met.name()).isPresent()
                || board.testPoint(met.name()).isPresent()
                || board.net(met.name()).isPresent()) {
            throw new InvalidMember("name", "is " + met.name() + ", which the board has already");
        }
        List<Net> nets = new ArrayList<>(board.nets());
        add(nets, met.net(), met.rail());
        met.other().ifPresent(o -> add(nets, o, false));
        Draft.Body body = new Draft.Body(1.6, 0.8);
        double[] place = free(board, body);
        List<Pin> pins = new ArrayList<>();
        pins.add(new Pin("1", met.net(), place[0] - body.wMm() / 2, place[1]));
        met.other().ifPresent(o -> pins.add(new Pin("2", o, place[0] + body.wMm() / 2, place[1])));
        List<Part> parts = new ArrayList<>(board.parts());
        parts.add(Part.of(met.name(), met.kind(), Side.TOP, place[0], place[1], body.wMm(), body.hMm(), pins));
        return board.withNets(nets).withParts(parts);
    }

    private static void add(List<Net> nets, String name, boolean rail) {
        if (nets.stream().noneMatch(n -> n.name().equals(name))) {
            nets.add(new Net(
                    name,
                    NetNames.ground(name)
                            ? NetKind.GROUND
                            : rail || NetNames.power(name) ? NetKind.POWER : NetKind.SIGNAL,
                    NetNames.ground(name) ? OptionalDouble.empty() : NetNames.volts(name),
                    Optional.empty()));
        }
    }

    private static double[] free(Board board, Draft.Body body) {
        var outline = board.outline();
        for (double y = outline.minYMm() + STEP_MM; y < outline.maxYMm(); y += STEP_MM) {
            for (double x = outline.minXMm() + 2 * STEP_MM; x < outline.maxXMm() - 2 * STEP_MM; x += STEP_MM) {
                double atX = x;
                double atY = y;
                boolean taken = board.parts().stream()
                        .filter(p -> p.side() == Side.TOP)
                        .anyMatch(p -> p.covers(atX, atY, CLEAR_MM + body.wMm() / 2));
                if (!taken) {
                    return new double[] {x, y};
                }
            }
        }
        return new double[] {outline.minXMm(), outline.minYMm()};
    }
}
