package ohmoscope.formats;

import java.io.IOException;
import ohmoscope.core.rework.Kit;
import tools.jackson.databind.node.ObjectNode;

/**
 * A bench's kit for rework as a JSON object: {@code air} with {@code nozzles_mm}, {@code most_c} and {@code litres_per_min},
 * {@code iron} and {@code preheater} with {@code most_c}, {@code low_melt}, {@code screens} and {@code tape}. What is left out
 * is not there.
 */
public final class KitJson {
    private KitJson() {}

    /**
     * @param name of the file, for what is wrong with it
     * @throws BundleException where it is no kit; names the member and what was expected
     */
    public static Kit read(String json, String name) throws IOException {
        return Member.line(json, name, KitJson::read);
    }

    private static Kit read(Member m) {
        return new Kit(
                m.optionalObject("air")
                        .map(a -> new Kit.Air(a.numbers("nozzles_mm"), a.number("most_c"), a.number("litres_per_min"))),
                m.optionalObject("iron").map(i -> new Kit.Iron(i.number("most_c"))),
                m.optionalObject("preheater").map(p -> new Kit.Preheater(p.number("most_c"))),
                m.flag("low_melt", false),
                m.flag("screens", false),
                m.flag("tape", false));
    }

    /** The same object. */
    public static String write(Kit kit) {
        ObjectNode root = Fields.object();
        kit.air().ifPresent(air -> {
            ObjectNode node = root.putObject("air");
            node.set(
                    "nozzles_mm",
                    Fields.numbers(air.nozzlesMm().stream()
                            .mapToDouble(Double::doubleValue)
                            .toArray()));
            Fields.number(node, "most_c", air.mostC());
            Fields.number(node, "litres_per_min", air.litresPerMin());
        });
        kit.iron().ifPresent(iron -> Fields.number(root.putObject("iron"), "most_c", iron.mostC()));
        kit.preheater().ifPresent(p -> Fields.number(root.putObject("preheater"), "most_c", p.mostC()));
        root.put("low_melt", kit.lowMelt());
        root.put("screens", kit.screens());
        root.put("tape", kit.tape());
        return Fields.compact(root);
    }
}
