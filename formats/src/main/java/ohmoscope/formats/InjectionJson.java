package ohmoscope.formats;

import java.io.IOException;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import tools.jackson.databind.node.ObjectNode;

/** The member {@code injection}. */
public final class InjectionJson {
    private InjectionJson() {}

    /** One line of JSON, for storing. */
    public static String write(Injection injection) {
        return Fields.compact(node(injection));
    }

    /** @throws BundleException when the line is no injection */
    public static Injection read(String line) throws IOException {
        return Member.line(line, "injection", InjectionJson::read);
    }

    static Injection read(Member m) {
        return new Injection(
                m.text("net"),
                m.optionalObject("at").map(InjectionJson::place),
                m.optionalObject("return").map(InjectionJson::place),
                m.optionalNumber("set_v"),
                m.optionalNumber("limit_a"),
                m.optionalNumber("lead_ohms"),
                m.optionalNumber("lead_sigma_ohms"));
    }

    private static ProbePlace place(Member m) {
        return new ProbePlace(m.number("x_mm"), m.number("y_mm"), m.choice("side", Side.class), m.optionalText("ref"));
    }

    static ObjectNode node(Injection injection) {
        ObjectNode node = Fields.object();
        node.put("net", injection.net());
        injection.at().ifPresent(p -> node.set("at", place(p)));
        injection.returnAt().ifPresent(p -> node.set("return", place(p)));
        Fields.number(node, "set_v", injection.setVolts());
        Fields.number(node, "limit_a", injection.limitAmps());
        Fields.number(node, "lead_ohms", injection.leadOhms());
        Fields.number(node, "lead_sigma_ohms", injection.leadSigmaOhms());
        return node;
    }

    private static ObjectNode place(ProbePlace place) {
        ObjectNode node = Fields.object();
        Fields.number(node, "x_mm", place.xMm());
        Fields.number(node, "y_mm", place.yMm());
        Fields.word(node, "side", place.side());
        Fields.text(node, "ref", place.ref());
        return node;
    }
}
