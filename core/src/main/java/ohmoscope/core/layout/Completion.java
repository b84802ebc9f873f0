package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Fiducial;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Supply;
import ohmoscope.core.board.TestPoint;
import ohmoscope.core.layout.Draft.Body;
import ohmoscope.core.layout.Draft.DraftPart;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;

/** Fills in what no file says, and says what was filled in. */
final class Completion {
    /** A rail that is not named so has this many capacitors to ground. */
    private static final int RAIL_CAPACITORS = 2;
    /** Where no net is named ground, one with this share of all pads is it. */
    private static final double GROUND_SHARE = 0.12;

    private static final int PADS_TO_TELL = 20;
    /** A resistor in a rail is not more than this, ohms. */
    private static final double SERIES_OHMS = 10;

    private static final double MARGIN_MM = 2;
    private static final double PAD_MM = 0.4;
    private static final double LEAST_BODY_MM = 0.2;
    private static final int MOST_NAMED = 400;

    private static final Set<String> IN = Set.of("VIN", "IN", "VI", "PVIN", "AVIN", "INPUT", "VINP");
    private static final Set<String> OUT = Set.of("VOUT", "OUT", "VO", "OUTPUT");
    private static final Set<String> SWITCH = Set.of("SW", "LX", "PH", "PHASE");
    private static final Set<String> ENABLE = Set.of("EN", "ENABLE", "CE", "SHDN", "EN/UVLO", "ON/OFF");

    private final Draft draft;
    private final List<Note> notes;
    private final List<DraftPart> placed;
    private final Map<String, PartKind> kinds = new HashMap<>();
    private final Map<String, List<DraftPart>> onNet = new HashMap<>();
    private final Map<String, NetKind> netKinds = new LinkedHashMap<>();

    Completion(Draft draft, List<Note> notes) {
        this.draft = draft;
        this.notes = notes;
        this.placed = draft.parts().stream()
                .filter(DraftPart::fitted)
                .filter(p -> p.place().isPresent())
                .toList();
        if (placed.isEmpty()) {
            throw new InvalidMember(
                    "parts",
                    "have no place in any of the files: a layout, a centroid table or a netlist with places is needed");
        }
        say(
                Note.Kind.UNUSED,
                "not fitted",
                draft.parts().stream()
                        .filter(p -> !p.fitted())
                        .map(DraftPart::ref)
                        .toList());
        say(
                Note.Kind.UNUSED,
                "without a place",
                draft.parts().stream()
                        .filter(p -> p.fitted() && p.place().isEmpty())
                        .map(DraftPart::ref)
                        .toList());
    }

    Board board() {
        kinds();
        nets();
        List<Part> parts = new ArrayList<>();
        List<TestPoint> points = new ArrayList<>();
        List<Fiducial> marks = new ArrayList<>();
        List<String> bodies = new ArrayList<>();
        List<String> bare = new ArrayList<>();
        List<String> makers = new ArrayList<>();
        for (DraftPart part : placed) {
            Place at = part.place().orElseThrow();
            Optional<String> first =
                    part.pads().stream().flatMap(p -> p.net().stream()).findFirst();
            if (PartNames.fiducial(part.ref(), part.packageName())) {
                marks.add(new Fiducial(part.ref(), Optional.of(at.side()), at.xMm(), at.yMm()));
            } else if (PartNames.testPoint(part.ref()) && first.isPresent()) {
                points.add(new TestPoint(part.ref(), first.get(), at.side(), at.xMm(), at.yMm()));
            } else {
                part.pads().stream().filter(p -> p.net().isEmpty()).forEach(p -> bare.add(part.ref() + "-" + p.name()));
                List<Supply> supplies = supplies(part);
                if (!supplies.isEmpty()) {
                    makers.add(part.ref() + " makes "
                            + supplies.stream().map(Supply::out).collect(Collectors.joining(", ")));
                }
                parts.add(part(part, at, supplies, bodies));
            }
        }
        say(Note.Kind.GUESSED, "bodies, by size code or pads", bodies);
        say(Note.Kind.GUESSED, "supplies, by the names of pins", makers);
        say(Note.Kind.UNUSED, "pads that nothing is connected to", bare);
        List<Net> nets = netKinds.entrySet().stream()
                .map(e -> new Net(
                        e.getKey(),
                        e.getValue(),
                        e.getValue() == NetKind.POWER ? NetNames.volts(e.getKey()) : OptionalDouble.empty(),
                        Optional.empty()))
                .toList();
        return new Board(
                draft.name().isBlank() ? draft.file() : draft.name(),
                draft.revision(),
                outline(),
                draft.thicknessMm().orElse(1.6),
                draft.copperLayers().orElse(4),
                draft.copperUm().orElse(18),
                nets,
                parts,
                points,
                marks);
    }

    private void kinds() {
        List<String> others = new ArrayList<>();
        for (DraftPart part : placed) {
            PartKind kind = PartNames.kind(part.ref(), part.value(), part.packageName());
            boolean gate = part.pads().stream().anyMatch(p -> p.function().equalsIgnoreCase("G"));
            PartKind sure = kind == PartKind.TRANSISTOR && gate ? PartKind.MOSFET : kind;
            kinds.put(part.ref(), sure);
            if (sure == PartKind.OTHER
                    && !PartNames.testPoint(part.ref())
                    && !PartNames.fiducial(part.ref(), part.packageName())) {
                others.add(part.ref());
            }
            part.pads().stream()
                    .flatMap(p -> p.net().stream())
                    .distinct()
                    .forEach(n ->
                            onNet.computeIfAbsent(n, k -> new ArrayList<>()).add(part));
        }
        say(Note.Kind.GUESSED, "no known kind by their references, taken as other", others);
    }

    private void nets() {
        Set<String> names = new LinkedHashSet<>(draft.nets());
        names.addAll(onNet.keySet());
        names.forEach(n -> netKinds.put(
                n, NetNames.ground(n) ? NetKind.GROUND : NetNames.power(n) ? NetKind.POWER : NetKind.SIGNAL));
        if (!netKinds.containsValue(NetKind.GROUND)) {
            groundBySize();
        }
        List<String> rails = new ArrayList<>();
        for (String net : names) {
            if (netKinds.get(net) == NetKind.SIGNAL && capacitorsToGround(net) >= RAIL_CAPACITORS) {
                netKinds.put(net, NetKind.POWER);
                rails.add(net);
            }
        }
        // A rail goes on behind what carries it.
        for (boolean more = true; more; ) {
            more = false;
            for (DraftPart part : placed) {
                for (String net : carried(part)) {
                    if (netKinds.get(net) == NetKind.SIGNAL) {
                        netKinds.put(net, NetKind.POWER);
                        rails.add(net);
                        more = true;
                    }
                }
            }
        }
        say(Note.Kind.GUESSED, "rails, by their capacitors and what carries them", rails);
        say(
                Note.Kind.GUESSED,
                "rails, by their names",
                names.stream()
                        .filter(n -> netKinds.get(n) == NetKind.POWER && !rails.contains(n))
                        .toList());
    }

    private void groundBySize() {
        long pads = onNet.values().stream().mapToLong(List::size).sum();
        onNet.entrySet().stream()
                .filter(e -> pads >= PADS_TO_TELL && e.getValue().size() > GROUND_SHARE * pads)
                .max(Map.Entry.comparingByValue(java.util.Comparator.comparingInt(List::size)))
                .ifPresent(e -> {
                    netKinds.put(e.getKey(), NetKind.GROUND);
                    say(Note.Kind.GUESSED, "ground, as most is on it", List.of(e.getKey()));
                });
    }

    private long capacitorsToGround(String net) {
        return onNet.getOrDefault(net, List.of()).stream()
                .filter(p -> kinds.get(p.ref()) == PartKind.CAPACITOR)
                .filter(p -> p.pads().stream()
                        .flatMap(q -> q.net().stream())
                        .anyMatch(n -> netKinds.get(n) == NetKind.GROUND))
                .count();
    }

    /** The far end of a fuse, coil, bead or small resistor in a rail, where a capacitor stands. */
    private List<String> carried(DraftPart part) {
        PartKind kind = kinds.get(part.ref());
        boolean carries = kind == PartKind.FUSE
                || kind == PartKind.FERRITE
                || kind == PartKind.INDUCTOR
                || kind == PartKind.RESISTOR && seriesOhms(part).isPresent();
        List<String> ends =
                part.pads().stream().flatMap(p -> p.net().stream()).distinct().toList();
        if (!carries || ends.size() != 2 || ends.stream().noneMatch(n -> netKinds.get(n) == NetKind.POWER)) {
            return List.of();
        }
        return ends.stream().filter(n -> capacitorsToGround(n) > 0).toList();
    }

    private static OptionalDouble seriesOhms(DraftPart part) {
        OptionalDouble ohms = PartValue.ohms(part.value().split("[\\s/,]")[0]);
        return ohms.isPresent() && ohms.getAsDouble() <= SERIES_OHMS ? ohms : OptionalDouble.empty();
    }

    private Part part(DraftPart part, Place at, List<Supply> supplies, List<String> bodies) {
        PartKind kind = kinds.get(part.ref());
        Body body = part.body().orElseGet(() -> {
            bodies.add(part.ref());
            return guessedBody(part, at, kind);
        });
        List<Pin> pins = part.pads().stream()
                .filter(p -> p.net().isPresent())
                .map(p -> new Pin(p.name(), p.net().get(), p.xMm(), p.yMm()))
                .toList();
        boolean carries = pins.stream().map(Pin::net).distinct().count() == 2
                && pins.stream().allMatch(p -> netKinds.get(p.net()) == NetKind.POWER);
        return new Part(
                part.ref(),
                kind,
                Optional.empty(),
                part.value(),
                kind == PartKind.CAPACITOR ? PartNames.ratedVolts(part.value()) : OptionalDouble.empty(),
                PartNames.chipSize(part.packageName()).orElse(part.packageName()),
                at.side(),
                at.xMm(),
                at.yMm(),
                at.rotDeg(),
                body.wMm(),
                body.hMm(),
                OptionalDouble.empty(),
                pins,
                kind == PartKind.RESISTOR && carries ? seriesOhms(part) : OptionalDouble.empty(),
                false,
                supplies,
                gate(part, kind),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    private static Body guessedBody(DraftPart part, Place at, PartKind kind) {
        boolean twoPads = part.pads().size() <= 2;
        Optional<Body> chip =
                twoPads && kind != PartKind.CONNECTOR ? PartNames.chip(part.packageName()) : Optional.empty();
        return chip.orElseGet(() -> {
            double angle = Math.toRadians(at.rotDeg());
            double w = 0;
            double h = 0;
            for (Pad pad : part.pads()) {
                double dx = pad.xMm() - at.xMm();
                double dy = pad.yMm() - at.yMm();
                w = Math.max(w, 2 * Math.abs(dx * Math.cos(angle) + dy * Math.sin(angle)));
                h = Math.max(h, 2 * Math.abs(dy * Math.cos(angle) - dx * Math.sin(angle)));
            }
            return new Body(Math.max(LEAST_BODY_MM, w + PAD_MM), Math.max(LEAST_BODY_MM, h + PAD_MM));
        });
    }

    private static Optional<Gate> gate(DraftPart part, PartKind kind) {
        String words = (part.value() + " " + part.packageName()).toUpperCase(Locale.ROOT);
        Optional<Gate.OnWhen> on = words.contains("PMOS") || words.matches(".*\\bP-?CH.*")
                ? Optional.of(Gate.OnWhen.LOW)
                : words.contains("NMOS") || words.matches(".*\\bN-?CH.*")
                        ? Optional.of(Gate.OnWhen.HIGH)
                        : Optional.empty();
        return kind != PartKind.MOSFET
                ? Optional.empty()
                : on.flatMap(when -> pin(part, Set.of("G")).map(net -> new Gate(net, when)));
    }

    /** A chip with a pin in and a pin out, or a pin that switches a coil. */
    private List<Supply> supplies(DraftPart part) {
        if (kinds.get(part.ref()) != PartKind.IC) {
            return List.of();
        }
        Optional<String> in = pin(part, IN).filter(n -> netKinds.get(n) == NetKind.POWER);
        Optional<String> coil = pin(part, SWITCH).flatMap(this::behindCoil);
        Optional<String> out =
                pin(part, OUT).filter(n -> netKinds.get(n) == NetKind.POWER).or(() -> coil);
        if (in.isEmpty() || out.isEmpty() || in.equals(out)) {
            return List.of();
        }
        Optional<String> enable = pin(part, ENABLE).filter(n -> !n.equals(in.get()));
        return List.of(new Supply(in.get(), out.get(), enable, NetNames.volts(out.get())));
    }

    private Optional<String> behindCoil(String switched) {
        return onNet.getOrDefault(switched, List.of()).stream()
                .filter(p -> kinds.get(p.ref()) == PartKind.INDUCTOR)
                .flatMap(p -> p.pads().stream().flatMap(q -> q.net().stream()))
                .filter(n -> !n.equals(switched) && netKinds.get(n) == NetKind.POWER)
                .findFirst();
    }

    private static Optional<String> pin(DraftPart part, Set<String> names) {
        return part.pads().stream()
                .filter(p -> names.contains(bare(p.function())))
                .flatMap(p -> p.net().stream())
                .findFirst();
    }

    /** A pin's name without the bar over it or a number behind. */
    private static String bare(String function) {
        return function.toUpperCase(Locale.ROOT).replaceAll("[~{}]", "").replaceAll("_?\\d+$", "");
    }

    private Outline outline() {
        if (draft.outline().size() >= 3) {
            try {
                return new Outline(draft.outline());
            } catch (InvalidMember crossed) {
                notes.add(new Note(
                        Note.Kind.DISAGREES, draft.file(), "its edge cannot be used: " + crossed.getMessage()));
            }
        }
        notes.add(new Note(Note.Kind.GUESSED, "outline", "no file has an edge: a rectangle round all parts"));
        double left = Double.POSITIVE_INFINITY;
        double low = Double.POSITIVE_INFINITY;
        double right = Double.NEGATIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (DraftPart part : placed) {
            Place at = part.place().orElseThrow();
            left = Math.min(left, at.xMm());
            right = Math.max(right, at.xMm());
            low = Math.min(low, at.yMm());
            high = Math.max(high, at.yMm());
            for (Pad pad : part.pads()) {
                left = Math.min(left, pad.xMm());
                right = Math.max(right, pad.xMm());
                low = Math.min(low, pad.yMm());
                high = Math.max(high, pad.yMm());
            }
        }
        return new Outline(List.of(
                new PointMm(left - MARGIN_MM, low - MARGIN_MM),
                new PointMm(right + MARGIN_MM, low - MARGIN_MM),
                new PointMm(right + MARGIN_MM, high + MARGIN_MM),
                new PointMm(left - MARGIN_MM, high + MARGIN_MM)));
    }

    private void say(Note.Kind kind, String about, List<String> which) {
        if (!which.isEmpty()) {
            notes.add(Note.naming(kind, about, "", which, MOST_NAMED));
        }
    }
}
