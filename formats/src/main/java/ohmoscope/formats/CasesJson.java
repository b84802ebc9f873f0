package ohmoscope.formats;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.job.SharedCase;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Proven cases that one shop tells another: a JSON object with {@code cases}, each with {@code board}, {@code revision},
 * {@code rail}, {@code complaint} (known words), {@code fault} (a hypothesis' code), {@code part}, {@code ohms} and
 * {@code draw_a}. Board and part are asked for; what else is left out is not known.
 */
public final class CasesJson {
    private static final int MOST_CASES = 50_000;

    private CasesJson() {}

    /**
     * @param name of the file, for what is wrong with it
     * @throws BundleException where it holds no cases; names the member and what was expected
     */
    public static List<SharedCase> read(String json, String name) throws IOException {
        List<SharedCase> cases = Member.line(json, name, root -> root.list("cases", CasesJson::one));
        if (cases.isEmpty()) {
            throw new BundleException(
                    name, "cases", "holds no case: a list of objects with board and part was expected");
        }
        if (cases.size() > MOST_CASES) {
            throw new BundleException(name, "cases", "holds more than " + MOST_CASES + " cases: split the file");
        }
        return cases;
    }

    private static SharedCase one(Member m) {
        Optional<Code> code = m.optionalChoice("fault", Code.class).filter(c -> c != Code.NONE);
        return new SharedCase(
                m.text("board"),
                m.optionalText("revision").orElse(""),
                m.optionalText("rail"),
                m.optionalText("complaint").orElse(""),
                code,
                m.text("part"),
                m.optionalNumber("ohms"),
                m.optionalNumber("draw_a"));
    }

    /** The same object. */
    public static byte[] write(List<SharedCase> cases) {
        ObjectNode root = Fields.object();
        ArrayNode list = root.putArray("cases");
        for (SharedCase met : cases) {
            ObjectNode node = list.addObject();
            node.put("board", met.board());
            Fields.text(node, "revision", met.revision());
            Fields.text(node, "rail", met.rail());
            Fields.text(node, "complaint", met.complaint());
            Fields.word(node, "fault", met.code());
            node.put("part", met.ref());
            Fields.number(node, "ohms", met.ohms());
            Fields.number(node, "draw_a", met.drawAmps());
        }
        return Fields.bytes(root);
    }
}
