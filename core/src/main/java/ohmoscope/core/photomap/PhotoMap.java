package ohmoscope.core.photomap;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.TestPoint;
import ohmoscope.core.layout.Edits;
import ohmoscope.core.layout.PartNames;
import ohmoscope.core.layout.Points;

/**
 * A board as the steps so far have mapped it. Values never change: undoing is folding one step less. A step costs time and
 * memory of the order of the board's parts.
 *
 * @param laid the photographs and how they lie
 * @param known what the board had before anybody mapped it
 * @param last the reference that the last part of a kind's letters got, so that counting goes on from there
 */
public record PhotoMap(Board board, Map<Side, Laid> laid, Map<String, String> last, Set<String> known) {
    private static final Pattern COUNTED = Pattern.compile("(.*?)(\\d{1,8})");
    /** Pads within this of a touch are touched. */
    private static final double TOUCH_MM = 0.45;

    private static final double WAITING_STEP_MM = 4;
    private static final double WAITING_FROM_MM = 12;

    public PhotoMap {
        laid = Map.copyOf(laid);
        last = Map.copyOf(last);
        known = Set.copyOf(known);
    }

    /** A photograph as it lies. */
    public record Laid(long photo, Squared squared) {}

    public static PhotoMap of(Board board, Map<Side, Laid> laid) {
        return new PhotoMap(
                board, laid, Map.of(), board.parts().stream().map(Part::ref).collect(Collectors.toSet()));
    }

    /** A board of which nothing is known but that something feeds it. */
    public static Board blank(String name, String revision) {
        return new Board(
                name,
                revision,
                new Outline(List.of(new PointMm(0, 0), new PointMm(100, 0), new PointMm(100, 70), new PointMm(0, 70))),
                1.0,
                6,
                18,
                List.of(
                        new Net("GND", NetKind.GROUND, OptionalDouble.empty(), Optional.empty()),
                        new Net("VMAIN", NetKind.POWER, OptionalDouble.empty(), Optional.empty())),
                List.of(),
                List.of(),
                List.of());
    }

    /** @throws InvalidMember for a step that names what is not there, or gives what no board can have */
    public PhotoMap then(MapStep step) {
        if (step instanceof MapStep.Square s) {
            return squared(s);
        }
        if (step instanceof MapStep.Align s) {
            return aligned(s);
        }
        if (step instanceof MapStep.Put s) {
            return put(s);
        }
        if (step instanceof MapStep.Row s) {
            return row(s);
        }
        if (step instanceof MapStep.Paint s) {
            return painted(s);
        }
        if (step instanceof MapStep.OfNet s) {
            return with(ofNet(board, s));
        }
        return step instanceof MapStep.Say s ? said(s) : taken(((MapStep.Take) step).ref());
    }

    private PhotoMap with(Board other) {
        return new PhotoMap(other, laid, last, known);
    }

    /** The first photograph gives the board its size; what had made-up places waits beside it. */
    private PhotoMap squared(MapStep.Square step) {
        Squared squared = step.squared();
        Optional<Laid> other = Optional.ofNullable(laid.get(step.side().opposite()));
        if (other.isPresent()) {
            // Both sides are one board: the first one's size holds.
            Squared first = other.get().squared();
            squared =
                    new Squared(squared.lens(), squared.corners(), first.widthMm(), first.heightMm(), squared.nudge());
        }
        Board sized = laid.isEmpty() ? sized(squared) : rescaled(step.side(), squared);
        Map<Side, Laid> all = new EnumMap<>(Side.class);
        all.putAll(laid);
        all.put(step.side(), new Laid(step.photo(), squared));
        return new PhotoMap(sized, all, last, known);
    }

    private static Outline rectangle(Squared squared) {
        double w = squared.widthMm();
        double h = squared.heightMm();
        return new Outline(List.of(new PointMm(0, 0), new PointMm(w, 0), new PointMm(w, h), new PointMm(0, h)));
    }

    private Board sized(Squared squared) {
        List<Part> waiting = new ArrayList<>();
        for (Part part : board.parts()) {
            waiting.add(beside(part, waiting.size(), squared.heightMm()));
        }
        List<TestPoint> points = new ArrayList<>();
        for (TestPoint point : board.testPoints()) {
            PointMm at = waitingPlace(waiting.size() + points.size(), squared.heightMm());
            points.add(new TestPoint(point.ref(), point.net(), point.side(), at.xMm(), at.yMm()));
        }
        return new Board(
                board.name(),
                board.revision(),
                rectangle(squared),
                board.thicknessMm(),
                board.copperLayers(),
                board.copperUm(),
                board.nets(),
                waiting,
                points,
                List.of());
    }

    private static Part beside(Part part, int index, double heightMm) {
        return moved(part, part.side(), waitingPlace(index, heightMm), 0, part.wMm(), part.hMm());
    }

    private static PointMm waitingPlace(int index, double heightMm) {
        int rows = Math.max(1, (int) (heightMm / WAITING_STEP_MM));
        return new PointMm(-WAITING_FROM_MM - WAITING_STEP_MM * (index / rows), WAITING_STEP_MM * (0.5 + index % rows));
    }

    /** A side squared anew: its parts stay on the photograph's own pixels. */
    private Board rescaled(Side side, Squared squared) {
        Laid before = laid.get(side);
        if (before == null || before.squared().equals(squared)) {
            return board;
        }
        Squared.Laid was = before.squared().laid();
        Squared.Laid is = squared.laid();
        double by = squared.widthMm() / before.squared().widthMm();
        List<Part> parts = new ArrayList<>();
        for (Part part : board.parts()) {
            if (part.side() == side && board.placed(part)) {
                PointPx px = was.px(part.xMm(), part.yMm());
                parts.add(
                        moved(part, side, is.mm(px.xPx(), px.yPx()), part.rotDeg(), part.wMm() * by, part.hMm() * by));
            } else {
                parts.add(part);
            }
        }
        return new Board(
                board.name(),
                board.revision(),
                rectangle(squared),
                board.thicknessMm(),
                board.copperLayers(),
                board.copperUm(),
                board.nets(),
                parts,
                board.testPoints(),
                board.fiducials());
    }

    private PhotoMap aligned(MapStep.Align step) {
        Laid bottom = laid.get(Side.BOTTOM);
        if (bottom == null || !laid.containsKey(Side.TOP)) {
            throw new InvalidMember("holes", "need both sides squared up first");
        }
        Squared nudged = bottom.squared().aligned(step.bottom(), step.top());
        return squared(new MapStep.Square(Side.BOTTOM, bottom.photo(), nudged));
    }

    private PhotoMap put(MapStep.Put step) {
        Optional<Part> waiting = board.part(step.ref());
        if (waiting.isPresent() && board.placed(waiting.get())) {
            throw new InvalidMember("ref", "is " + step.ref() + ", which is on the board already");
        }
        if (waiting.isPresent()) {
            Part part = moved(waiting.get(), step.side(), step.at(), step.rotDeg(), step.wMm(), step.hMm());
            return with(replaced(part));
        }
        String ref = step.ref().isEmpty() ? next(step.kind()) : step.ref();
        Board base = board;
        String other = step.other();
        if (!step.net().isEmpty()) {
            // What somebody names while putting parts is the rail that is looked into.
            base = Points.withNet(base, step.net(), true);
        }
        if (other.isEmpty()
                && (step.kind() == PartKind.CAPACITOR || step.kind() == PartKind.TVS)
                && !step.net().isEmpty()) {
            other = ground(base);
        }
        if (!other.isEmpty()) {
            base = Points.withNet(base, other, false);
        }
        double along = Math.toRadians(step.rotDeg());
        double dx = step.wMm() / 2 * Math.cos(along);
        double dy = step.wMm() / 2 * Math.sin(along);
        List<Pin> pins = new ArrayList<>();
        if (!step.net().isEmpty()) {
            pins.add(
                    twoPins(step.kind())
                            ? new Pin(
                                    "1",
                                    step.net(),
                                    step.at().xMm() - dx,
                                    step.at().yMm() - dy)
                            : new Pin(
                                    "1", step.net(), step.at().xMm(), step.at().yMm()));
        }
        if (!other.isEmpty()) {
            pins.add(new Pin("2", other, step.at().xMm() + dx, step.at().yMm() + dy));
        }
        Part part = PartEdit.of(Part.of(
                        ref,
                        step.kind(),
                        step.side(),
                        step.at().xMm(),
                        step.at().yMm(),
                        step.wMm(),
                        step.hMm(),
                        pins))
                .at(step.side(), step.at().xMm(), step.at().yMm(), step.rotDeg())
                .packageName(step.packageName())
                .done();
        List<Part> parts = new ArrayList<>(base.parts());
        parts.add(part);
        Map<String, String> counted = new LinkedHashMap<>(last);
        counted.put(PartNames.letters(ref), ref);
        return new PhotoMap(base.withParts(parts), laid, counted, known);
    }

    private PhotoMap row(MapStep.Row step) {
        PhotoMap map = put(step.first());
        PointMm from = step.first().at();
        for (int i = 1; i < step.count(); i++) {
            double share = (double) i / (step.count() - 1);
            map = map.put(step.first()
                    .at(new PointMm(
                            from.xMm() + share * (step.last().xMm() - from.xMm()),
                            from.yMm() + share * (step.last().yMm() - from.yMm()))));
        }
        return map;
    }

    private PhotoMap painted(MapStep.Paint step) {
        Board painted = Points.withNet(board, step.net(), false);
        Map<String, Part> parts = new LinkedHashMap<>();
        painted.parts().forEach(p -> parts.put(p.ref(), p));
        for (MapStep.Touch touch : step.touches()) {
            Part part = parts.get(touch.ref());
            if (part == null) {
                throw new InvalidMember("touches", "names " + touch.ref() + ", which is not on the board");
            }
            parts.put(
                    part.ref(),
                    PartEdit.of(part).pins(pins(part, step.net(), touch.at())).done());
        }
        return with(painted.withParts(List.copyOf(parts.values())));
    }

    /** A two-pin part has a pin at either end; a chip gets one where it was touched. */
    private static List<Pin> pins(Part part, String net, PointMm at) {
        List<Pin> pins = new ArrayList<>(part.pins());
        String name;
        PointMm place = at;
        if (twoPins(part.kind()) && pins.size() <= 2) {
            double along = Math.toRadians(part.rotDeg());
            double dx = part.wMm() / 2 * Math.cos(along);
            double dy = part.wMm() / 2 * Math.sin(along);
            boolean second = (at.xMm() - part.xMm()) * dx + (at.yMm() - part.yMm()) * dy > 0;
            name = second ? "2" : "1";
            place = new PointMm(part.xMm() + (second ? dx : -dx), part.yMm() + (second ? dy : -dy));
        } else {
            name = pins.stream()
                    .filter(p -> at.distanceMm(p.xMm(), p.yMm()) < TOUCH_MM)
                    .min(Comparator.comparingDouble(p -> at.distanceMm(p.xMm(), p.yMm())))
                    .map(Pin::name)
                    .orElseGet(() -> free(pins));
        }
        for (int i = 0; i < pins.size(); i++) {
            if (pins.get(i).name().equals(name)) {
                pins.set(i, new Pin(name, net, pins.get(i).xMm(), pins.get(i).yMm()));
                return pins;
            }
        }
        pins.add(new Pin(name, net, place.xMm(), place.yMm()));
        return pins;
    }

    private static String free(List<Pin> pins) {
        int n = pins.size() + 1;
        while (taken(pins, String.valueOf(n))) {
            n++;
        }
        return String.valueOf(n);
    }

    private static boolean taken(List<Pin> pins, String name) {
        return pins.stream().anyMatch(p -> p.name().equals(name));
    }

    private PhotoMap said(MapStep.Say step) {
        Part part = part(step.ref());
        String called = step.called().isEmpty() ? step.ref() : step.called();
        if (!called.equals(step.ref())
                && (board.part(called).isPresent() || board.testPoint(called).isPresent())) {
            throw new InvalidMember("called", "is " + called + ", which the board has already");
        }
        Part turned = moved(
                part,
                part.side(),
                new PointMm(part.xMm(), part.yMm()),
                part.rotDeg() + step.turnDeg(),
                part.wMm(),
                part.hMm());
        Part other = PartEdit.of(turned)
                .called(called)
                .kind(step.kind().orElse(part.kind()))
                .value(step.value().orElse(part.value()))
                .done();
        Map<String, String> counted = new LinkedHashMap<>(last);
        counted.put(PartNames.letters(called), called);
        return new PhotoMap(
                board.withParts(board.parts().stream()
                        .map(p -> p.ref().equals(step.ref()) ? other : p)
                        .toList()),
                laid,
                counted,
                known.contains(step.ref()) ? renamed(step.ref(), called) : known);
    }

    /** Off the photograph: what somebody put there is gone, what the board had of its own waits beside it again. */
    private PhotoMap taken(String ref) {
        Part part = part(ref);
        return with(
                known.contains(ref)
                        ? replaced(beside(
                                part,
                                board.parts().indexOf(part),
                                board.outline().maxYMm()))
                        : board.withParts(board.parts().stream()
                                .filter(p -> !p.ref().equals(ref))
                                .toList()));
    }

    private Set<String> renamed(String was, String is) {
        Set<String> others = new HashSet<>(known);
        others.remove(was);
        others.add(is);
        return others;
    }

    private Part part(String ref) {
        return board.part(ref).orElseThrow(() -> new InvalidMember("ref", "is " + ref + ", which is not on the board"));
    }

    private Board replaced(Part part) {
        return board.withParts(board.parts().stream()
                .map(p -> p.ref().equals(part.ref()) ? part : p)
                .toList());
    }

    /** Body and pins together. */
    private static Part moved(Part part, Side side, PointMm to, double rotDeg, double wMm, double hMm) {
        double turn = Math.toRadians(rotDeg - part.rotDeg());
        double by = wMm / part.wMm();
        List<Pin> pins = part.pins().stream()
                .map(p -> {
                    double dx = (p.xMm() - part.xMm()) * by;
                    double dy = (p.yMm() - part.yMm()) * by;
                    return new Pin(
                            p.name(),
                            p.net(),
                            to.xMm() + Math.cos(turn) * dx - Math.sin(turn) * dy,
                            to.yMm() + Math.sin(turn) * dx + Math.cos(turn) * dy);
                })
                .toList();
        return PartEdit.of(part)
                .at(side, to.xMm(), to.yMm(), rotDeg)
                .body(wMm, hMm)
                .pins(pins)
                .done();
    }

    /** Parts whose ends are their pins. */
    public static boolean twoPins(PartKind kind) {
        return switch (kind) {
            case CAPACITOR, RESISTOR, INDUCTOR, FERRITE, DIODE, TVS, FUSE -> true;
            default -> false;
        };
    }

    /** The reference that the next part of a kind gets. */
    public String next(PartKind kind) {
        String letters = PartNames.letters(kind);
        Matcher counted = COUNTED.matcher(last.getOrDefault(letters, ""));
        long n = counted.matches() && counted.group(1).equalsIgnoreCase(letters)
                ? Long.parseLong(counted.group(2)) + 1
                : 1;
        while (board.part(letters + n).isPresent()
                || board.testPoint(letters + n).isPresent()) {
            n++;
        }
        return letters + n;
    }

    private static String ground(Board board) {
        return board.nets().stream()
                .filter(n -> n.kind() == NetKind.GROUND)
                .map(Net::name)
                .findFirst()
                .orElse("GND");
    }

    /** A net that is there keeps its voltage where none is said. */
    private static Board ofNet(Board board, MapStep.OfNet said) {
        OptionalDouble volts = board.net(said.net())
                .map(n -> said.volts().isPresent() ? said.volts() : n.nominalVolts())
                .orElse(said.kind() == NetKind.GROUND ? OptionalDouble.empty() : said.volts());
        return Edits.net(Points.withNet(board, said.net(), false), said.net(), said.kind(), volts);
    }
}
