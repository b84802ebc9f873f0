package ohmoscope.web.live;

import java.io.IOException;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.evidence.EntryText;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.evidence.TraceReading;
import ohmoscope.core.instrument.InlineMeter.Sample;
import ohmoscope.core.live.SteadyReading;
import ohmoscope.formats.Texts;
import ohmoscope.formats.TraceCsv;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.EvidenceStrips;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.StepLine;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.power.Drawn;
import ohmoscope.web.power.TraceWords;
import ohmoscope.web.store.EvidenceStore;

/**
 * A board under power: what it draws when it is plugged in, then the meter in volts from rail to rail. The bench's thread does
 * all of it; what the page is shown may be asked for by any.
 */
final class LivePower {
    private final String number;
    private final String by;
    private final LiveKeeper keeper;
    private final LivePlans plans;
    private final Hands hands;
    private final boolean metered;
    private final SteadyReading steady = new SteadyReading(SteadyReading.RAILS);
    private volatile InlineTrace inline = new InlineTrace();
    private volatile Asked asked = Asked.NOTHING;
    private volatile Optional<Taken> taken = Optional.empty();
    private volatile OptionalDouble shows = OptionalDouble.empty();
    private volatile Optional<SteadyReading.Resting> resting = Optional.empty();
    private volatile Optional<TraceReading> drawn = Optional.empty();

    /** What is wanted of the hand. */
    private enum What {
        CHARGER,
        POINT,
        /** No further volts: the sheet goes on otherwise. */
        ELSEWHERE
    }

    /**
     * @param target a net, or a connector
     * @param line the step in words
     * @param nominal what the net should stand at
     */
    private record Asked(What what, String target, StepLine line, OptionalDouble nominal) {
        static final Asked NOTHING =
                new Asked(What.ELSEWHERE, "", new StepLine("", "", "none", "", List.of()), OptionalDouble.empty());
    }

    /** What was kept, as it stands among the evidence. */
    private record Taken(int seq, LiveState.Verdict verdict) {}

    /** @param metered whether an inline meter stands at this bench */
    LivePower(String number, String by, LiveKeeper keeper, LivePlans plans, Hands hands, boolean metered) {
        this.number = number;
        this.by = by;
        this.keeper = keeper;
        this.plans = plans;
        this.hands = hands;
        this.metered = metered;
    }

    // ---- what is wanted next ------------------------------------------------------------------

    /** The next point by the evidence as it is now. */
    void ask() throws IOException {
        OpenJobs.Open open = plans.open(number, by);
        List<Step> steps = open.advice().next();
        Optional<Step> first = steps.stream().findFirst();
        Optional<Step> volts = steps.stream().filter(LivePower::inVolts).findFirst();
        boolean charger = first.filter(s -> s.action() == Step.Action.POWER).isPresent();
        taken = Optional.empty();
        if (charger) {
            asked = new Asked(
                    What.CHARGER,
                    first.get().target().orElseGet(() -> port(open).orElse("")),
                    AdviceView.line(open, first.get()),
                    OptionalDouble.empty());
            inline = new InlineTrace();
            drawn = Optional.empty();
            hands.charger(true);
        } else if (volts.isPresent()) {
            String net = volts.get().target().orElse("");
            asked = new Asked(
                    What.POINT,
                    net,
                    AdviceView.line(open, volts.get()),
                    open.job().board().net(net).map(n -> n.nominalVolts()).orElse(OptionalDouble.empty()));
            hands.charger(true);
            hands.probe(net);
        } else {
            asked = new Asked(
                    What.ELSEWHERE,
                    "",
                    AdviceView.of(open).next().orElse(Asked.NOTHING.line()),
                    OptionalDouble.empty());
        }
    }

    private static boolean inVolts(Step step) {
        return (step.action() == Step.Action.READ || step.action() == Step.Action.PROVE)
                && step.probe()
                        .flatMap(Step.Probe::mode)
                        .filter(m -> m == ReadMode.VOLTS)
                        .isPresent()
                && !step.probe().map(Step.Probe::across).orElse(false);
    }

    private static Optional<String> port(OpenJobs.Open open) {
        return open.tree().inputs().stream().map(Part::ref).findFirst();
    }

    // ---- what the instruments say -------------------------------------------------------------

    /** A reading of the meter. */
    void probed(double volts) throws IOException {
        shows = OptionalDouble.of(volts);
        // What was taken already is told from the next point by a probe that was seen to leave.
        OptionalDouble value = asked.what == What.POINT ? steady.next(volts) : OptionalDouble.empty();
        resting = steady.resting();
        if (value.isPresent() && taken.isEmpty()) {
            keep(value.getAsDouble());
        }
    }

    /** What the inline meter has said since. */
    void flowed(List<Sample> samples) throws IOException {
        boolean ends = inline.add(samples);
        if (ends || inline.runs()) {
            drawn = inline.reading();
        }
        if (ends) {
            keepTrace();
        }
    }

    // ---- the hand -----------------------------------------------------------------------------

    /** The pedal: takes what the meter shows, or goes on when that was taken. @return what it came to, in words */
    String pedal() throws IOException {
        if (asked.what == What.CHARGER && inline.runs()) {
            inline.end();
            keepTrace();
            return "";
        }
        if (asked.what == What.POINT && taken.isEmpty()) {
            OptionalDouble value = steady.take();
            if (value.isEmpty()) {
                return Texts.of("live.not-steady");
            }
            keep(value.getAsDouble());
            return "";
        }
        if (asked.what == What.CHARGER && taken.isEmpty()) {
            return Texts.of(metered ? "live.plug-first" : "live.no-inline");
        }
        ask();
        return "";
    }

    /** What was taken last does not count: the same point once more. */
    void again() throws IOException {
        if (taken.isPresent()) {
            keeper.line(number, "undo " + taken.get().seq, by);
            ask();
        }
    }

    void over() {
        hands.charger(false);
    }

    // ---- entries ------------------------------------------------------------------------------

    private void keep(double volts) throws IOException {
        Read read = new Read(
                1,
                ReadMode.VOLTS,
                Optional.of(asked.target),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(Math.round(volts * 1e3) / 1e3 + 0.0),
                Optional.empty(),
                Optional.of(PowerSource.CHARGER));
        keeper.line(number, EntryText.of(read), by);
        judged();
    }

    private void keepTrace() throws IOException {
        Optional<Trace> trace = inline.trace();
        if (trace.isEmpty()) {
            return;
        }
        OpenJobs.Open open = plans.open(number, by);
        boolean out = LivePlans.batteryOut(open.job().bundle().observations());
        Drawn how = new Drawn(
                PowerSource.CHARGER,
                Optional.of(asked.target).filter(t -> !t.isEmpty()).or(() -> port(open)),
                Optional.empty(),
                out ? BatteryState.OUT : BatteryState.IN,
                DeviceState.OFF);
        TraceReading reading = TraceReading.of(trace.get());
        keeper.trace(
                number,
                "inline.csv",
                TraceCsv.write(trace.get()),
                (seq, stored) -> how.entry(seq, stored, reading),
                by);
        judged();
    }

    /** What the newest entry means here. */
    private void judged() throws IOException {
        OpenJobs.Open open = plans.open(number, by);
        List<EvidenceStore.Entry> entries = open.job().entries();
        EvidenceStrips.Strip strip = EvidenceStrips.of(
                        open.job(),
                        entries.subList(entries.size() - 1, entries.size()),
                        open.advice(),
                        ZoneId.systemDefault())
                .get(0);
        taken = Optional.of(
                new Taken(strip.seq(), new LiveState.Verdict(strip.headline(), strip.meaning(), strip.mark())));
    }

    // ---- what the page is told ----------------------------------------------------------------

    Optional<LiveState.Verdict> verdict() {
        return taken.map(Taken::verdict);
    }

    LiveState.Powered state() {
        Asked now = asked;
        Optional<SteadyReading.Resting> rests = resting;
        boolean charger = now.what == What.CHARGER;
        return new LiveState.Powered(
                charger ? Texts.of("live.plug-in", now.target) : now.target,
                now.line.sentence(),
                now.line.why(),
                now.what == What.ELSEWHERE ? "elsewhere" : charger ? "charger" : "point",
                now.nominal.isPresent()
                        ? Texts.of("live.should-stand", Eng.significant(now.nominal.getAsDouble(), 3))
                        : "",
                shows.isPresent() ? shows.getAsDouble() : null,
                rests.isPresent() ? rests.get().apartVolts() : null,
                verdict().orElse(null),
                drawn.map(r -> TraceWords.shape(r) + " " + TraceWords.meaning(r.shape()))
                        .orElse(metered ? "" : Texts.of("live.no-inline")));
    }

    InlineTrace.Drawing drawing() {
        return inline.drawing();
    }
}
