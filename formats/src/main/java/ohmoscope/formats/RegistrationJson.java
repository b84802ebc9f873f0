package ohmoscope.formats;

import java.io.IOException;
import java.util.List;
import ohmoscope.core.imaging.RegistrationPair;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The member {@code registration} of a capture. */
public final class RegistrationJson {
    private static final String MEMBER = "registration";

    private RegistrationJson() {}

    /** One line of JSON with the one member, for storing. */
    public static String write(List<RegistrationPair> pairs) {
        ObjectNode root = Fields.object();
        root.set(MEMBER, node(pairs));
        return Fields.compact(root);
    }

    /** @throws BundleException when the line holds no pairs */
    public static List<RegistrationPair> read(String line) throws IOException {
        return Member.line(line, MEMBER, RegistrationJson::read);
    }

    static List<RegistrationPair> read(Member capture) {
        return capture.list(MEMBER, p -> {
            double[] px = p.numbers("px", 2);
            double[] mm = p.numbers("mm", 2);
            return new RegistrationPair(px[0], px[1], mm[0], mm[1]);
        });
    }

    static ArrayNode node(List<RegistrationPair> pairs) {
        ArrayNode list = JsonNodeFactory.instance.arrayNode();
        for (RegistrationPair pair : pairs) {
            ObjectNode node = list.addObject();
            node.set("px", Fields.numbers(pair.xPx(), pair.yPx()));
            node.set("mm", Fields.numbers(pair.xMm(), pair.yMm()));
        }
        return list;
    }
}
