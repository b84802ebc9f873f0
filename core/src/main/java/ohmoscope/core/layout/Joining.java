package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import ohmoscope.core.layout.Draft.DraftPart;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;

/** Several files of one board: joined by reference, the fullest first. */
final class Joining {
    /** Fewer parts than this share must stand where the fullest file has them, or the places are not believed. */
    private static final double AGREE = 0.6;

    private static final int MOST_NAMED = 12;

    private final Draft base;
    private final List<Note> notes;
    private final Map<String, DraftPart> parts = new LinkedHashMap<>();
    private final Set<String> nets = new LinkedHashSet<>();

    private Joining(Draft base, List<Note> notes) {
        this.base = base;
        this.notes = notes;
        List<String> again = new ArrayList<>();
        for (DraftPart part : base.parts()) {
            DraftPart own = part;
            for (int i = 2; parts.containsKey(own.ref()); i++) {
                own = renamed(part, part.ref() + "_" + i);
            }
            if (own != part) {
                again.add(own.ref());
            }
            parts.put(own.ref(), own);
        }
        say(Note.Kind.DISAGREES, base.file(), "references that stand more than once got a number", again);
        nets.addAll(base.nets());
    }

    static Draft of(List<Draft> drafts, List<Note> notes) {
        List<Draft> byWeight = drafts.stream()
                .sorted(Comparator.comparingInt(Draft::weight).reversed())
                .toList();
        for (Draft draft : byWeight) {
            draft.unused().entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .forEach(e -> notes.add(
                            new Note(Note.Kind.UNUSED, draft.file(), e.getKey() + " (" + e.getValue() + ")")));
        }
        Joining joining = new Joining(byWeight.get(0), notes);
        byWeight.stream().skip(1).forEach(joining::join);
        return joining.whole(byWeight);
    }

    private void join(Draft other) {
        Map<String, Place> here = new HashMap<>();
        parts.values().forEach(p -> p.place().ifPresent(at -> here.put(p.ref(), at)));
        Optional<Axes> axes = Axes.of(here, other.parts());
        boolean places = other.parts().stream().anyMatch(p -> p.place().isPresent());
        // Layers of one set have no part in common, and the same axes.
        boolean apart = other.parts().stream().noneMatch(p -> here.containsKey(p.ref()));
        boolean believed =
                here.isEmpty() || apart || axes.map(a -> a.agree() >= AGREE).orElse(false);
        if (places && apart && !here.isEmpty()) {
            notes.add(new Note(
                    Note.Kind.GUESSED,
                    other.file(),
                    "has no part in common with what was read before: its places are taken as they are"));
        } else if (places && !here.isEmpty()) {
            sayAxes(other, axes, believed, here);
        }
        List<String> more = new ArrayList<>();
        List<String> values = new ArrayList<>();
        List<String> netNames = new ArrayList<>();
        for (DraftPart part : other.parts()) {
            Optional<Place> at =
                    believed ? part.place().map(p -> axes.map(a -> a.of(p)).orElse(p)) : Optional.empty();
            DraftPart moved = moved(part, at, axes, believed);
            DraftPart known = parts.get(part.ref());
            if (known == null) {
                more.add(part.ref());
                parts.put(part.ref(), moved);
                continue;
            }
            if (!known.value().isBlank() && !part.value().isBlank() && !same(known.value(), part.value())) {
                values.add(part.ref() + " " + known.value() + " / " + part.value());
            }
            known.pads().stream()
                    .filter(p -> p.net().isPresent())
                    .forEach(p -> part.pads().stream()
                            .filter(o -> o.name().equals(p.name()) && o.net().isPresent())
                            .filter(o -> !sameNet(o.net().get(), p.net().get()))
                            .findFirst()
                            .ifPresent(o -> netNames.add(part.ref() + "-" + p.name() + " "
                                    + p.net().get() + " / " + o.net().get())));
            parts.put(part.ref(), filled(known, moved));
        }
        if (believed || here.isEmpty()) {
            nets.addAll(other.nets());
        }
        say(Note.Kind.DISAGREES, other.file(), "values, " + base.file() + " / here", values);
        say(Note.Kind.DISAGREES, other.file(), "nets, " + base.file() + " / here", netNames);
        if (!apart) {
            say(Note.Kind.DISAGREES, other.file(), "parts that " + base.file() + " does not have", more);
        }
    }

    private void sayAxes(Draft other, Optional<Axes> axes, boolean believed, Map<String, Place> here) {
        if (axes.isEmpty() || !believed) {
            notes.add(new Note(
                    Note.Kind.DISAGREES,
                    other.file(),
                    "too few parts stand where " + base.file() + " has them: its places are not used"));
            return;
        }
        if (!axes.get().plain()) {
            notes.add(new Note(Note.Kind.DISAGREES, other.file(), axes.get().words()));
        }
        say(
                Note.Kind.DISAGREES,
                other.file(),
                "stand elsewhere than in " + base.file() + ", which is believed",
                other.parts().stream()
                        .filter(p -> p.place().isPresent() && here.containsKey(p.ref()))
                        .filter(p ->
                                !axes.get().near(here.get(p.ref()), p.place().orElseThrow()))
                        .map(DraftPart::ref)
                        .toList());
        say(
                Note.Kind.DISAGREES,
                other.file(),
                "are on the other side in " + base.file() + ", which is believed",
                other.parts().stream()
                        .filter(p -> p.place().isPresent() && here.containsKey(p.ref()))
                        .filter(p -> here.get(p.ref()).side()
                                != p.place().orElseThrow().side())
                        .map(DraftPart::ref)
                        .toList());
    }

    private static DraftPart renamed(DraftPart part, String ref) {
        return new DraftPart(
                ref, part.value(), part.packageName(), part.place(), part.body(), part.pads(), part.fitted());
    }

    private void say(Note.Kind kind, String file, String what, List<String> which) {
        if (!which.isEmpty()) {
            notes.add(Note.naming(kind, file, what + ": ", which, MOST_NAMED));
        }
    }

    private static DraftPart moved(DraftPart part, Optional<Place> at, Optional<Axes> axes, boolean believed) {
        List<Pad> pads = !believed
                ? List.of()
                : part.pads().stream()
                        .map(p -> axes.filter(a -> part.place().isPresent())
                                .map(a -> a.of(
                                        new Place(part.place().orElseThrow().side(), p.xMm(), p.yMm(), 0)))
                                .map(q -> new Pad(p.name(), p.net(), p.function(), q.xMm(), q.yMm()))
                                .orElse(p))
                        .toList();
        return new DraftPart(part.ref(), part.value(), part.packageName(), at, part.body(), pads, part.fitted());
    }

    /** What the fuller file leaves open is taken from the other; a value from the one that has it. */
    private static DraftPart filled(DraftPart known, DraftPart other) {
        return new DraftPart(
                known.ref(),
                known.value().isBlank() ? other.value() : known.value(),
                known.packageName().isBlank() ? other.packageName() : known.packageName(),
                known.place().or(other::place),
                known.body().or(other::body),
                known.pads().isEmpty() ? other.pads() : known.pads(),
                known.fitted() && other.fitted());
    }

    private static boolean same(String a, String b) {
        return a.replaceAll("\\s", "").equalsIgnoreCase(b.replaceAll("\\s", ""));
    }

    /** A file may cut a net's name short, or leave its sheet out. */
    private static boolean sameNet(String a, String b) {
        String x = NetNames.leaf(a);
        String y = NetNames.leaf(b);
        return x.startsWith(y) || y.startsWith(x);
    }

    private Draft whole(List<Draft> drafts) {
        return new Draft(
                base.file(),
                first(drafts, Draft::name),
                first(drafts, Draft::revision),
                drafts.stream()
                        .map(Draft::outline)
                        .filter(o -> !o.isEmpty())
                        .findFirst()
                        .orElse(List.of()),
                drafts.stream()
                        .map(Draft::thicknessMm)
                        .filter(o -> o.isPresent())
                        .findFirst()
                        .orElse(base.thicknessMm()),
                drafts.stream()
                        .map(Draft::copperLayers)
                        .filter(o -> o.isPresent())
                        .findFirst()
                        .orElse(base.copperLayers()),
                drafts.stream()
                        .map(Draft::copperUm)
                        .filter(o -> o.isPresent())
                        .findFirst()
                        .orElse(base.copperUm()),
                List.copyOf(nets),
                List.copyOf(parts.values()),
                Map.of());
    }

    private static String first(List<Draft> drafts, Function<Draft, String> what) {
        return drafts.stream().map(what).filter(s -> !s.isBlank()).findFirst().orElse("");
    }
}
