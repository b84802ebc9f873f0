package ohmoscope.formats;

import java.io.IOException;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import tools.jackson.databind.node.ObjectNode;

/** One element of {@code observations}. */
public final class ObservationJson {
    private ObservationJson() {}

    static Observation read(Member m) {
        int seq = m.integer("seq");
        String kind = m.text("kind");
        return switch (kind) {
            case "power" ->
                new Power(
                        seq,
                        m.choice("from", PowerSource.class),
                        m.optionalText("port"),
                        m.optionalText("net"),
                        m.optionalText("orientation"),
                        m.optionalChoice("battery", BatteryState.class),
                        m.optionalNumber("volts"),
                        m.optionalNumber("amps"),
                        m.optionalChoice("state", DeviceState.class).orElse(DeviceState.OFF),
                        m.optionalChoice("shape", TraceShape.class),
                        m.optionalText("trace"));
            case "look" -> new Look(seq, m.text("target"), m.choice("finding", LookFinding.class));
            case "read" ->
                new Read(
                        seq,
                        m.choice("mode", ReadMode.class),
                        m.optionalText("net"),
                        m.optionalText("ref"),
                        m.optionalText("pin"),
                        m.optionalText("across"),
                        m.optionalText("to"),
                        m.optionalNumber("value"),
                        m.optionalText("lead"),
                        offOr(m, "power"));
            case "inject" ->
                new Inject(
                        seq,
                        m.text("net"),
                        m.optionalText("ref"),
                        m.optionalNumber("set_v"),
                        m.optionalNumber("limit_a"),
                        m.optionalNumber("volts"),
                        m.optionalNumber("amps"),
                        m.optionalNumber("lead_ohms"),
                        m.optionalChoice("shape", TraceShape.class),
                        offOr(m, "power"));
            case "warm" ->
                new Warm(
                        seq,
                        m.optionalText("ref"),
                        m.optionalNumber("x_mm"),
                        m.optionalNumber("y_mm"),
                        m.optionalChoice("side", Side.class),
                        m.optionalChoice("by", WarmthMeans.class),
                        m.optionalNumber("delta_k"),
                        m.optionalNumber("spread_mm"),
                        m.flag("nothing", false));
            case "change" -> {
                ChangeAction action = m.choice("action", ChangeAction.class);
                yield new Change(seq, action, m.text("target"), m.flag("heat", action.usuallyHot()));
            }
            case "run" -> new Run(seq, m.choice("finding", RunFinding.class), m.optionalText("what"));
            default ->
                throw new MemberException(
                        Faults.join(m.path(), "kind"),
                        "must be one of power, look, read, inject, warm, change, run; was " + kind);
        };
    }

    private static Optional<PowerSource> offOr(Member m, String name) {
        return m.optionalText(name)
                .filter(word -> !word.equals("off"))
                .flatMap(w -> m.optionalChoice(name, PowerSource.class));
    }

    /** One entry as a line of JSON, for storing. */
    public static String write(Observation observation) {
        return Fields.compact(node(observation));
    }

    /** @throws BundleException when the line is no entry of the contract */
    public static Observation read(String line) throws IOException {
        return Member.line(line, "observation", ObservationJson::read);
    }

    static ObjectNode node(Observation observation) {
        ObjectNode node = Fields.object();
        node.put("seq", observation.seq());
        if (observation instanceof Power o) {
            node.put("kind", "power");
            Fields.word(node, "from", o.from());
            Fields.text(node, "port", o.port());
            Fields.text(node, "net", o.net());
            Fields.text(node, "orientation", o.orientation());
            Fields.word(node, "battery", o.battery());
            Fields.number(node, "volts", o.volts());
            Fields.number(node, "amps", o.amps());
            Fields.word(node, "state", o.state());
            Fields.word(node, "shape", o.shape());
            Fields.text(node, "trace", o.trace());
        } else if (observation instanceof Look o) {
            node.put("kind", "look").put("target", o.target());
            Fields.word(node, "finding", o.finding());
        } else if (observation instanceof Read o) {
            node.put("kind", "read");
            Fields.word(node, "mode", o.mode());
            Fields.text(node, "net", o.net());
            Fields.text(node, "ref", o.ref());
            Fields.text(node, "pin", o.pin());
            Fields.text(node, "across", o.across());
            Fields.text(node, "to", o.to());
            if (o.value().isPresent()) {
                Fields.number(node, "value", o.value());
            } else {
                node.putNull("value");
            }
            Fields.text(node, "lead", o.lead());
            Fields.word(node, "power", o.power());
        } else if (observation instanceof Inject o) {
            node.put("kind", "inject").put("net", o.net());
            Fields.text(node, "ref", o.ref());
            Fields.number(node, "set_v", o.setVolts());
            Fields.number(node, "limit_a", o.limitAmps());
            Fields.number(node, "volts", o.volts());
            Fields.number(node, "amps", o.amps());
            Fields.number(node, "lead_ohms", o.leadOhms());
            Fields.word(node, "shape", o.shape());
            Fields.word(node, "power", o.power());
        } else if (observation instanceof Warm o) {
            node.put("kind", "warm");
            Fields.text(node, "ref", o.ref());
            Fields.number(node, "x_mm", o.xMm());
            Fields.number(node, "y_mm", o.yMm());
            Fields.word(node, "side", o.side());
            Fields.word(node, "by", o.by());
            Fields.number(node, "delta_k", o.deltaK());
            Fields.number(node, "spread_mm", o.spreadMm());
            if (o.nothing()) {
                node.put("nothing", true);
            }
        } else if (observation instanceof Change o) {
            node.put("kind", "change");
            Fields.word(node, "action", o.action());
            node.put("target", o.target()).put("heat", o.heat());
        } else if (observation instanceof Run o) {
            node.put("kind", "run");
            Fields.word(node, "finding", o.finding());
            Fields.text(node, "what", o.what());
        }
        return node;
    }
}
