package ohmoscope.formats;

import java.util.Locale;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Warning;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What {@code locate} prints, as the contract says. */
public final class LocateJson {
    private LocateJson() {}

    public static String write(LocateResult result, long elapsedMs) {
        ObjectNode root = Fields.object();
        Fields.word(root, "verdict", result.verdict());
        ArrayNode suspects = root.putArray("suspects");
        for (Suspect suspect : result.suspects()) {
            ObjectNode node = suspects.addObject();
            node.put("ref", suspect.part().ref());
            node.put("probability", rounded(suspect.probability(), 1e-5));
            node.put("x_mm", suspect.part().xMm()).put("y_mm", suspect.part().yMm());
            Fields.word(node, "side", suspect.part().side());
        }
        result.source().ifPresent(s -> {
            ObjectNode node = root.putObject("source");
            node.put("x_mm", rounded(s.xMm(), 1e-3)).put("y_mm", rounded(s.yMm(), 1e-3));
            Fields.word(node, "side", s.side());
            node.put("sigma_mm", rounded(s.sigmaMm(), 1e-3)).put("watts", rounded(s.watts(), 1e-6));
        });
        result.resistance().ifPresent(r -> {
            ObjectNode node = root.putObject("short");
            node.put("ohms", rounded(r.ohms(), 1e-5));
            node.put("low", rounded(r.low(), 1e-5)).put("high", rounded(r.high(), 1e-5));
        });
        ArrayNode warnings = root.putArray("warnings");
        result.warnings().forEach((warning, number) -> {
            ObjectNode node = warnings.addObject();
            Fields.word(node, "code", warning);
            node.put("text", text(warning, number));
        });
        root.put("elapsed_ms", elapsedMs);
        return Fields.compact(root);
    }

    private static double rounded(double value, double step) {
        // Rounded down, so that probabilities still sum to at most 1.
        return Math.floor(value / step) * step == 0
                ? 0
                : Double.parseDouble(String.format(Locale.ROOT, "%.6g", Math.floor(value / step) * step));
    }

    /** The warning in a sentence, with its number. */
    public static String text(Warning warning, double number) {
        return switch (warning) {
            case INJECTED_INTO_GROUND ->
                say(
                        "The leads and series parts explain all of %.3f Ω: the current may be going straight into ground.",
                        number);
            case NO_CONTACT -> say("Only %.3f A flowed: a probe is not touching.", number);
            case LEAD_IS_HOTTEST -> "The lead or its contact is the hottest thing in the picture; it is not the fault.";
            case OTHER_SIDE -> "The heat comes through from the other side: turn the board and look again.";
            case CAMERA_MOVED -> say("The camera moved by %.1f px; frames were laid over each other.", number);
            case CAMERA_DRIFT -> say("The camera's level wandered by %.2f K; it was taken out.", number);
            case TOO_LITTLE_POWER ->
                say("About %.4f W at the fault is hardly more than the camera's noise: raise the current.", number);
            case SATURATED -> say("%.2f %% of the pixels are saturated: choose a wider range.", 100 * number);
            case REGISTRATION_POOR -> say("The registration pairs disagree by %.1f mm: set them again.", number);
            case SERIES_PART_WARM -> say("A series part takes %.3f W and warms by right; it is not the fault.", number);
            case CURRENT_LIMITED_OUT ->
                say(
                        "The current fell from %.2f A to nothing while the output was on: protection hides the fault.",
                        number);
        };
    }

    private static String say(String sentence, double number) {
        return String.format(Locale.ROOT, sentence, number);
    }
}
