package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import ohmoscope.core.layout.Disagreement.What;
import ohmoscope.core.layout.Draft.DraftPart;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;

/** Several files of one board: joined by reference, the fullest first. */
final class Joining {
    /** Fewer parts than this share must stand where the fullest file has them, or the places are not believed. */
    private static final double AGREE = 0.6;

    private static final int MOST_NAMED = 12;

    private final List<Draft> drafts;
    private final Draft base;
    private final List<Note> notes;
    private final Choices choices;
    private final Quarrels quarrels = new Quarrels();
    private final List<FileRead> files = new ArrayList<>();
    /** The file that a part that is not in the first one was first met in. */
    private final Map<String, String> first = new HashMap<>();

    private final Map<String, DraftPart> parts = new LinkedHashMap<>();
    private final Set<String> nets = new LinkedHashSet<>();

    private Joining(List<Draft> drafts, List<Note> notes, Choices choices) {
        this.drafts = drafts;
        this.base = drafts.get(0);
        this.notes = notes;
        this.choices = choices;
        int placed =
                (int) base.parts().stream().filter(p -> p.place().isPresent()).count();
        files.add(new FileRead(base.file(), base.parts().size(), placed, true, placed, 1, false, false, 0, 0, 1, true));
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

    static Joining of(List<Draft> drafts, List<Note> notes, Choices choices) {
        List<Draft> ordered = drafts.stream()
                .sorted(Comparator.comparing((Draft d) ->
                                !choices.first().map(d.file()::equals).orElse(false))
                        .thenComparing(Comparator.comparingInt(Draft::weight).reversed()))
                .toList();
        for (Draft draft : ordered) {
            draft.unused().entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .forEach(e -> notes.add(
                            new Note(Note.Kind.UNUSED, draft.file(), e.getKey() + " (" + e.getValue() + ")")));
        }
        Joining joining = new Joining(ordered, notes, choices);
        ordered.stream().skip(1).forEach(joining::join);
        return joining;
    }

    private void join(Draft other) {
        Map<String, Place> here = new HashMap<>();
        parts.values().forEach(p -> p.place().ifPresent(at -> here.put(p.ref(), at)));
        Choices.AxesChoice choice = choices.axesOf(other.file());
        Optional<Axes> axes = Axes.of(here, other.parts(), choice);
        boolean places = other.parts().stream().anyMatch(p -> p.place().isPresent());
        // Layers of one set have no part in common, and the same axes.
        boolean apart = other.parts().stream().noneMatch(p -> here.containsKey(p.ref()));
        boolean believed = here.isEmpty()
                || apart
                || axes.map(a -> choice.said() || a.agree() >= AGREE).orElse(false);
        files.add(read(other, here, axes, believed));
        if (places && apart && !here.isEmpty()) {
            notes.add(new Note(
                    Note.Kind.GUESSED,
                    other.file(),
                    "has no part in common with what was read before: its places are taken as they are"));
        } else if (places && !here.isEmpty()) {
            sayAxes(other, axes, believed);
        }
        for (DraftPart part : other.parts()) {
            Optional<Place> at =
                    believed ? part.place().map(p -> axes.map(a -> a.of(p)).orElse(p)) : Optional.empty();
            DraftPart moved = moved(part, at, axes, believed);
            DraftPart known = parts.get(part.ref());
            if (known != null) {
                parts.put(part.ref(), filled(settled(known, moved, part.pads(), other.file()), moved));
            } else if (apart || !gone(part.ref(), other.file())) {
                parts.put(part.ref(), moved);
                first.put(part.ref(), other.file());
            }
        }
        if (believed || here.isEmpty()) {
            nets.addAll(other.nets());
        }
    }

    /** Whether a part that only this file has is left out, as somebody said. */
    private boolean gone(String ref, String file) {
        String without = base.file();
        return quarrels.between(What.PART, ref, file, "on the board", without, "not on it", choices)
                .equals(without);
    }

    /** What is known of a part, with what somebody would rather believe of the other file. @param pads as that file has them */
    private DraftPart settled(DraftPart known, DraftPart other, List<Pad> pads, String file) {
        String source = first.getOrDefault(known.ref(), base.file());
        DraftPart settled = known;
        if (!known.value().isBlank() && !other.value().isBlank() && !same(known.value(), other.value())) {
            String believed =
                    quarrels.between(What.VALUE, known.ref(), source, known.value(), file, other.value(), choices);
            settled = believed.equals(file) ? settled.valued(other.value()) : settled;
        }
        if (known.place().isPresent() && other.place().isPresent()) {
            Place here = known.place().get();
            Place there = other.place().get();
            boolean otherSide = here.side() != there.side();
            boolean elsewhere = Math.hypot(here.xMm() - there.xMm(), here.yMm() - there.yMm()) >= Axes.NEAR_MM;
            if (otherSide || elsewhere) {
                String believed = quarrels.between(
                        otherSide ? What.SIDE : What.PLACE,
                        known.ref(),
                        source,
                        words(here),
                        file,
                        words(there),
                        choices);
                settled = believed.equals(file) ? settled.standing(there, other.pads()) : settled;
            }
        }
        return settled.connected(settled.pads().stream()
                .map(pad -> net(known.ref(), pad, pads, source, file))
                .toList());
    }

    private Pad net(String ref, Pad pad, List<Pad> others, String source, String file) {
        Optional<Pad> there = others.stream()
                .filter(o -> o.name().equals(pad.name()) && o.net().isPresent())
                .filter(o -> pad.net().isPresent()
                        && !sameNet(o.net().get(), pad.net().get()))
                .findFirst();
        if (there.isEmpty()) {
            return pad;
        }
        String believed = quarrels.between(
                What.NET,
                ref + "-" + pad.name(),
                source,
                pad.net().orElseThrow(),
                file,
                there.get().net().orElseThrow(),
                choices);
        return believed.equals(file)
                ? new Pad(pad.name(), there.get().net(), pad.function(), pad.xMm(), pad.yMm())
                : pad;
    }

    private static String words(Place place) {
        return String.format(
                Locale.ROOT, "%s, %.2f, %.2f", place.side().name().toLowerCase(Locale.ROOT), place.xMm(), place.yMm());
    }

    private static FileRead read(Draft draft, Map<String, Place> here, Optional<Axes> axes, boolean used) {
        int common = (int) draft.parts().stream()
                .filter(p -> p.place().isPresent() && here.containsKey(p.ref()))
                .count();
        Axes as = axes.orElse(Axes.PLAIN);
        return new FileRead(
                draft.file(),
                draft.parts().size(),
                (int) draft.parts().stream().filter(p -> p.place().isPresent()).count(),
                false,
                common,
                as.scale(),
                as.mirrored(),
                as.down(),
                as.xMm(),
                as.yMm(),
                as.agree(),
                used);
    }

    private void sayAxes(Draft other, Optional<Axes> axes, boolean believed) {
        if (axes.isEmpty() || !believed) {
            notes.add(new Note(
                    Note.Kind.DISAGREES,
                    other.file(),
                    "too few parts stand where " + base.file() + " has them: its places are not used"));
        } else if (!axes.get().plain()) {
            notes.add(new Note(Note.Kind.DISAGREES, other.file(), axes.get().words()));
        }
    }

    List<FileRead> files() {
        return List.copyOf(files);
    }

    List<Disagreement> disagreements() {
        return quarrels.all();
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

    /** What all of them come to, with the notes on what they disagree in. */
    Draft whole() {
        quarrels.notes(MOST_NAMED).forEach(notes::add);
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
