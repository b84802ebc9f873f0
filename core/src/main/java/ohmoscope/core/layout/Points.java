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
import ohmoscope.core.board.PartEdit;
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
     * A name as it is kept: blanks become hyphens.
     *
     * @throws InvalidMember naming the member, for what can be no name
     */
    public static String word(String member, String text) {
        String word = text.strip().replaceAll("\\s+", "-");
        if (!NAME.matcher(word).matches()) {
            throw new InvalidMember(
                    member, "must have 1 to 40 letters, digits, hyphens, dots, plus signs or underscores");
        }
        return word;
    }

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
        Board wired = withNet(board, met.net(), met.rail());
        wired = met.other().isPresent() ? withNet(wired, met.other().get(), false) : wired;
        Draft.Body body = new Draft.Body(1.6, 0.8);
        double[] place = free(board, body);
        List<Pin> pins = new ArrayList<>();
        pins.add(new Pin("1", met.net(), place[0] - body.wMm() / 2, place[1]));
        met.other().ifPresent(o -> pins.add(new Pin("2", o, place[0] + body.wMm() / 2, place[1])));
        List<Part> parts = new ArrayList<>(board.parts());
        parts.add(Part.of(met.name(), met.kind(), Side.TOP, place[0], place[1], body.wMm(), body.hMm(), pins));
        return wired.withParts(parts);
    }

    /**
     * A part by another name. Where the board has a part of that name already, they were the same one: the first goes, and
     * the other gets the nets that it lacked.
     *
     * @throws InvalidMember where the board does not have it, or the name is a net's or a test point's
     */
    public static Board renamed(Board board, String was, String called) {
        String now = word("called", called);
        Part part = board.part(was)
                .orElseThrow(() -> new InvalidMember("name", "is " + was + ", which this board does not have"));
        if (board.net(now).isPresent() || board.testPoint(now).isPresent()) {
            throw new InvalidMember("called", "is " + now + ", which the board has as a net or a test point");
        }
        Optional<Part> same = board.part(now).filter(p -> !now.equals(was));
        if (same.isEmpty()) {
            return board.withParts(board.parts().stream()
                    .map(p -> p.ref().equals(was) ? PartEdit.of(p).called(now).done() : p)
                    .toList());
        }
        List<Pin> pins = new ArrayList<>(same.get().pins());
        for (Pin pin : part.pins()) {
            if (pins.stream().noneMatch(p -> p.net().equals(pin.net()))) {
                String name = String.valueOf(pins.size() + 1);
                pins.add(new Pin(
                        pins.stream().anyMatch(p -> p.name().equals(name)) ? was + "." + pin.name() : name,
                        pin.net(),
                        same.get().xMm(),
                        same.get().yMm()));
            }
        }
        Part one = PartEdit.of(same.get()).pins(pins).done();
        return board.withParts(board.parts().stream()
                .filter(p -> !p.ref().equals(was))
                .map(p -> p.ref().equals(now) ? one : p)
                .toList());
    }

    /**
     * The board with a net of that name: its own, or one more that is what its name says.
     *
     * @param rail whether a net that is added carries power, whatever it is called
     */
    public static Board withNet(Board board, String name, boolean rail) {
        if (board.net(name).isPresent()) {
            return board;
        }
        boolean ground = NetNames.ground(name);
        List<Net> nets = new ArrayList<>(board.nets());
        nets.add(new Net(
                name,
                ground ? NetKind.GROUND : rail || NetNames.power(name) ? NetKind.POWER : NetKind.SIGNAL,
                ground ? OptionalDouble.empty() : NetNames.volts(name),
                Optional.empty()));
        return board.withNets(nets);
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
