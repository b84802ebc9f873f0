package ohmoscope.formats;

import java.util.List;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Stop;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What {@code advise} prints, as the contract says. */
public final class AdviceJson {
    private AdviceJson() {}

    public static String write(Advice advice) {
        return Fields.compact(node(advice));
    }

    static ObjectNode node(Advice advice) {
        ObjectNode root = Fields.object();
        ArrayNode findings = root.putArray("findings");
        for (Finding finding : advice.findings()) {
            ObjectNode node = findings.addObject();
            Fields.word(node, "code", finding.code());
            Fields.text(node, finding.isNet() ? "net" : "target", finding.place());
            because(node, finding.because());
        }
        ArrayNode hypotheses = root.putArray("hypotheses");
        for (Hypothesis hypothesis : advice.hypotheses()) {
            ObjectNode node = hypotheses.addObject();
            Fields.word(node, "code", hypothesis.code());
            Fields.text(node, "target", hypothesis.target());
            node.put("probability", Math.floor(hypothesis.probability() * 1e5) / 1e5);
        }
        ArrayNode next = root.putArray("next");
        for (Step step : advice.next()) {
            ObjectNode node = next.addObject();
            Fields.word(node, "action", step.action());
            Fields.text(node, "target", step.target());
            Fields.number(node, "set_v", step.setVolts());
            Fields.number(node, "limit_a", step.limitAmps());
            step.probe().ifPresent(probe -> how(node, step, probe));
            node.put("why", AdviceWords.why(step, advice));
        }
        ArrayNode stops = root.putArray("stops");
        for (Stop stop : advice.stops()) {
            ObjectNode node = stops.addObject();
            Fields.word(node, "code", stop.code());
            node.put("why", AdviceWords.stop(stop));
            because(node, stop.because());
        }
        return root;
    }

    private static void how(ObjectNode node, Step step, Step.Probe probe) {
        probe.mode().ifPresent(mode -> Fields.word(node, "mode", mode));
        probe.power().ifPresent(power -> Fields.word(node, "power", power));
        if (probe.across()) {
            Fields.text(node, "across", step.target());
        }
    }

    private static void because(ObjectNode node, List<Integer> seqs) {
        ArrayNode because = node.putArray("because");
        seqs.forEach(because::add);
    }
}
