package ohmoscope.formats;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.evidence.Observation.Change;

/** Advice in sentences of the trade: the one place where its codes get words. */
public final class AdviceWords {
    private AdviceWords() {}

    /** A fault in a few words, such as {@code C14 shorted}. */
    public static String fault(Hypothesis h) {
        return Texts.of("fault", h.code(), h.target());
    }

    /** What a finding says. */
    public static String finding(Finding f) {
        String value = switch (f.code()) {
            case DRAW_NORMAL, DRAW_STUCK, DRAW_EXCESSIVE -> number("value.amps", f.value());
            case RAIL_BACKFED -> number("value.stands", f.value());
            default -> number("value.bracketed", f.value());
        };
        return Texts.of("finding", f.code(), f.place().orElse(Texts.of("place.device")), value);
    }

    /** What to do, in a sentence. */
    public static String sentence(Step step) {
        String target = target(step);
        return switch (step.action()) {
            case INJECT ->
                Texts.of(
                        "step.inject",
                        target,
                        number("step.inject.volts", step.setVolts()),
                        number("step.inject.amps", step.limitAmps()));
            case LOOK ->
                step.reason() == Step.Reason.CLEAN_FIRST
                        ? Texts.of("step.look.clean", target)
                        : Texts.of("step.look", target);
            case SEPARATE -> Texts.of("step.separate", target.endsWith("lower") ? "lower" : "upper");
            case POWER ->
                step.reason() == Step.Reason.FEED_PAST_PORT
                        ? Texts.of(
                                "step.power.past-port",
                                target,
                                digits(step.setVolts().orElse(0)),
                                digits(step.limitAmps().orElse(0)))
                        : Texts.of(
                                "step.power",
                                step.probe().map(Step.Probe::battery).orElse(false) ? "in" : "out",
                                Texts.of(
                                        step.reason() == Step.Reason.PROVE_REPAIR
                                                ? "step.power.starts"
                                                : "step.power.end"));
            case PROVE -> step.target().isPresent() ? Texts.of("step.prove", target) : Texts.of("step.prove.device");
            case CHECK_FITTED ->
                target.startsWith(Change.STACK)
                        ? Texts.of("step.check-fitted.stack")
                        : Texts.of("step.check-fitted", target);
            default -> Texts.of("step", step.action(), target);
        };
    }

    private static String target(Step step) {
        return step.target().orElse(Texts.of("place.board"));
    }

    /** What one reading says of its net. */
    public static String sign(Sign sign) {
        return Texts.of("sign", sign.says());
    }

    /** Why a step is suggested, in a sentence or two. */
    public static String why(Step step, Advice advice) {
        String target = target(step);
        Optional<Hypothesis> about = step.target().flatMap(advice::about);
        String share = about.map(h -> share(fault(h), h.probability())).orElse(target);
        return switch (step.reason()) {
            case NOT_PLUGGED_BACK ->
                target.startsWith(Change.STACK)
                        ? Texts.of("why.not-plugged-back.stack")
                        : Texts.of("why.not-plugged-back", target);
            case TELLS_MOST -> outcomes(step);
            default -> Texts.of("why", step.reason(), target, share);
        };
    }

    private static String share(String what, double probability) {
        return Texts.of("why.share", what, say("%.0f", 100 * probability));
    }

    private static String outcomes(Step step) {
        StringBuilder words = new StringBuilder(Texts.of("why.tells-most"));
        for (Step.Outcome outcome : step.outcomes()) {
            words.append(words.indexOf(":") < 0 ? ": " : "; ");
            words.append(share(Texts.of("seen", outcome.seen()), outcome.probability()));
            outcome.then().ifPresent(h -> words.append(" → ").append(fault(h)));
        }
        return words.append('.').toString();
    }

    /** What a stop forbids, and why. */
    public static String stop(Stop stop) {
        String where = stop.place().orElse(Texts.of("place.board"));
        return switch (stop.code()) {
            case DO_NOT_POWER -> Texts.of("stop.power", stop.reason(), where);
            case LEAD_RATING -> Texts.of("stop", stop.code(), where, number("stop.amps", stop.value()));
            default -> Texts.of("stop", stop.code(), where, number("stop.volts", stop.value()));
        };
    }

    /** @param key a text with a place for the number */
    private static String number(String key, OptionalDouble value) {
        return value.isPresent() ? Texts.of(key, digits(value.getAsDouble())) : "";
    }

    private static String digits(double value) {
        return value == 0 || Math.abs(value) >= 1e4 || Math.abs(value) < 1e-3
                ? say("%.2g", value)
                : say("%.3g", value).contains("e") ? say("%.0f", value) : trimmed(say("%.3g", value));
    }

    private static String trimmed(String number) {
        return number.contains(".") ? number.replaceAll("0+$", "").replaceAll("\\.$", "") : number;
    }

    private static String say(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
