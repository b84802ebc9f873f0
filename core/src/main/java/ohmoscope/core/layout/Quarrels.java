package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ohmoscope.core.layout.Disagreement.What;

/** What files disagree in, collected while they are joined. */
final class Quarrels {
    private final Map<String, Disagreement> all = new LinkedHashMap<>();

    /**
     * Two files do not say the same.
     *
     * @param source what is known, from {@code is}'s file
     * @return the file that is believed: the one that somebody chose, else the one that is known
     */
    String between(What what, String name, String source, String is, String file, String other, Choices choices) {
        String key = Disagreement.key(what, name);
        Map<String, String> said = new LinkedHashMap<>();
        Disagreement before = all.get(key);
        if (before != null) {
            said.putAll(before.said());
        }
        said.putIfAbsent(source, is);
        said.put(file, other);
        String known = before == null ? source : before.believed();
        String believed = choices.believed().getOrDefault(key, known);
        String taken = said.containsKey(believed) ? believed : known;
        all.put(key, new Disagreement(what, name, taken, said));
        return taken;
    }

    List<Disagreement> all() {
        return List.copyOf(all.values());
    }

    /** A note for each pair of files and kind. @param most parts that are named in one */
    List<Note> notes(int most) {
        Map<String, List<Disagreement>> groups = all.values().stream()
                .collect(Collectors.groupingBy(
                        d -> other(d) + "\n" + d.what() + "\n" + d.believed(),
                        LinkedHashMap::new,
                        Collectors.toList()));
        List<Note> notes = new ArrayList<>();
        groups.values().forEach(group -> {
            Disagreement one = group.get(0);
            notes.add(Note.naming(
                    Note.Kind.DISAGREES,
                    one.what() == What.PART ? one.believed() : other(one),
                    words(one) + ": ",
                    group.stream().map(Quarrels::named).toList(),
                    most));
        });
        return notes;
    }

    /** The file that is not believed. */
    private static String other(Disagreement d) {
        return d.said().keySet().stream()
                .filter(f -> !f.equals(d.believed()))
                .findFirst()
                .orElse(d.believed());
    }

    private static String words(Disagreement d) {
        return switch (d.what()) {
            case VALUE -> "values, " + d.believed() + " / here";
            case NET -> "nets, " + d.believed() + " / here";
            case PLACE -> "stand elsewhere than in " + d.believed() + ", which is believed";
            case SIDE -> "are on the other side in " + d.believed() + ", which is believed";
            case PART ->
                d.said().get(d.believed()).startsWith("not")
                        ? "parts that " + other(d) + " has besides, and that are left out"
                        : "parts that " + other(d) + " does not have";
        };
    }

    private static String named(Disagreement d) {
        return switch (d.what()) {
            case VALUE, NET ->
                d.name() + " " + d.said().get(d.believed()) + " / " + d.said().get(other(d));
            default -> d.name();
        };
    }
}
