package ohmoscope.web.live;

import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.inject.InjectionPlan.Rung;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.Meter;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;
import ohmoscope.core.live.ContactCheck;
import ohmoscope.core.live.Ending;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.live.LiveFlow.Flowed;

/**
 * One bench while a page has it open: the only thread that talks to supply and meter, and the rules by which current may
 * flow. {@link LiveFlow} switches the output on and off, {@link LiveKey} holds it, {@link LiveTold} is what the page hears.
 */
final class LiveBench implements AutoCloseable {
    private static final long IDLE_MS = 400;
    private static final long POWERED_MS = 60;
    private static final double PAUSE_S = 1;
    private static final double COLD_WAIT_S = 1.5;
    private static final double AFTERGLOW_S = 1;
    private static final double LEADS_AMPS = 0.5;
    /** Tips that are apart, or leads that are none, have more. */
    private static final double MOST_LEADS_OHMS = 2;

    private final Instruments instruments;
    private final LiveWork work;
    private final Optional<Eye> eye;
    private final BlockingQueue<Act> acts = new LinkedBlockingQueue<>();
    private final LiveKey key;
    private final LiveTold told;
    private final LiveFlow flow;
    private volatile boolean closed;
    private volatile Optional<ContactCheck> check = Optional.empty();
    private volatile boolean checked;
    private volatile Optional<LivePower> power = Optional.empty();
    private volatile Optional<LiveEye> byEye = Optional.empty();

    /** An act at the bench. */
    private interface Act {
        void run() throws InstrumentException;
    }

    /**
     * @param version counts up with everything that is new to the page
     * @param silence of a page that says every tenth of a second that its key is held
     */
    LiveBench(Instruments instruments, Optional<Eye> eye, LiveWork work, AtomicLong version, Duration silence) {
        this.instruments = instruments;
        this.eye = eye;
        this.work = work;
        key = new LiveKey(silence);
        told = new LiveTold(version);
        flow = new LiveFlow(instruments, eye, work, told, this::ending);
    }

    void start() {
        Thread thread = new Thread(this::stand, "live bench");
        thread.setDaemon(true);
        thread.start();
    }

    // ---- what the page says -------------------------------------------------------------------

    /** The key is pressed for a step. */
    void press(int step) {
        pressed(() -> hold(step));
    }

    private void pressed(Act act) {
        if (power.isEmpty() && key.press()) {
            acts.add(act);
        }
    }

    /** The key of a telephone: what the page's own would do now. */
    void pressKey() {
        if (power.isPresent()) {
            tap();
        } else if (checked) {
            press(work.chosen());
        } else {
            pressCheck();
        }
    }

    /** The key is still held. Never waits. */
    void alive() {
        key.alive();
        flow.alive();
    }

    void release() {
        key.release();
    }

    /** The contact check; the page presses the key for it, as for anything that flows. */
    void pressCheck() {
        pressed(this::contact);
    }

    /** The leads' ohms, tips together. */
    void pressLeads() {
        pressed(this::leads);
    }

    /** A lead was moved: what was checked holds no more. */
    void leadsMoved() {
        acts.add(() -> {
            unchecked();
            say("plain", Texts.of("live.moved"));
        });
    }

    /** The meter's reading at the rail becomes an entry. */
    void read(ReadMode mode) {
        acts.add(() -> keepReading(mode));
    }

    /** The key then holds the current for a walk with the meter along the rail, or no more. */
    void walk(boolean on) {
        acts.add(() -> {
            if (on && instruments.meter().isEmpty()) {
                say("look", Texts.of("live.no-meter"));
                return;
            }
            work.walk(on);
            say("plain", Texts.of(on ? "live.walk-begins" : "live.begin"));
        });
    }

    /** The key then feeds a series part from one end, and from the other; or no more. @param ref empty for the first there is */
    void ends(boolean on, String ref) {
        acts.add(() -> {
            unchecked();
            try {
                work.ends(on, ref, instruments.meter().isPresent());
            } catch (InvalidMember none) {
                wrong(none);
                return;
            }
            say("plain", Texts.of(on ? "live.ends-begin" : "live.begin"));
        });
    }

    /** Warmth is looked for without a camera from now on; by nothing else where it is empty. */
    void byEye(Optional<LiveEye.Means> means) {
        acts.add(() -> {
            byEye = means.map(LiveEye::new);
            say("plain", Texts.of(means.isPresent() ? "live.by-eye" : "live.begin"));
        });
    }

    /** Something dries, thaws or feels warm now. Never waits: current flows. */
    void mark(String ref) {
        Optional<String> part =
                Optional.of(ref.strip()).filter(r -> !r.isEmpty()).map(work::partNamed);
        byEye.ifPresent(e -> e.mark(part, told.seconds()));
        told.changed();
    }

    /** What the page said cannot be. */
    void wrong(InvalidMember what) {
        say("look", Texts.of("live.wrong", String.valueOf(what.getMessage())));
    }

    /** What came first is kept, once it has a name. */
    void keepMark() {
        acts.add(() ->
                byEye.ifPresent(marks -> marks.first(1).flatMap(Warm::ref).ifPresent(ref -> {
                    work.warmed(seq -> marks.first(seq).orElseThrow());
                    told.note(Texts.of("live.marked", ref));
                    byEye = Optional.empty();
                })));
    }

    /** The board is powered by its own charger and read in volts, or no more; nothing is injected meanwhile. */
    void powered(boolean on) {
        acts.add(() -> {
            power.ifPresent(LivePower::over);
            power = Optional.empty();
            work.noWalk();
            unchecked();
            if (!on) {
                say("plain", Texts.of("live.unplug"));
                return;
            }
            if (told.shown().map(Supply.Shown::on).orElse(false)) {
                say("bad", Texts.of("live.on-by-itself"));
                return;
            }
            if (instruments.meter().isEmpty()) {
                say("look", Texts.of("live.no-meter"));
                return;
            }
            LivePower fresh = work.power(instruments.inline().isPresent());
            said(fresh, fresh::ask);
            power = Optional.of(fresh);
            say("plain", Texts.of("live.powered"));
        });
    }

    /** The pedal, while the board is powered. */
    void tap() {
        acts.add(() -> power.ifPresent(p -> said(p, () -> {
            String words = p.pedal();
            if (!words.isEmpty()) {
                say("look", words);
            }
        })));
    }

    /** What was read last is read once more. */
    void again() {
        acts.add(() -> power.ifPresent(p -> said(p, p::again)));
    }

    /** An act that keeps, or reads, entries. */
    private interface Kept {
        void run() throws IOException;
    }

    private void said(LivePower by, Kept act) {
        Optional<LiveState.Verdict> before = by.verdict();
        try {
            act.run();
        } catch (IOException failed) {
            throw new IllegalStateException(Texts.of("live.not-kept"), failed);
        }
        by.verdict().filter(v -> !before.equals(Optional.of(v))).ifPresent(v -> told.note(v.headline()));
        told.changed();
    }

    /** What an inline meter has recorded; empty while the board is not powered. */
    Optional<InlineTrace.Drawing> drawing() {
        return power.map(LivePower::drawing);
    }

    void batteryOut() {
        acts.add(() -> {
            work.batteryOut();
            told.note(Texts.of("live.battery-out"));
        });
    }

    // ---- the bench's thread -------------------------------------------------------------------

    private void stand() {
        while (!closed) {
            try {
                Act act = acts.poll(power.isPresent() ? POWERED_MS : IDLE_MS, TimeUnit.MILLISECONDS);
                if (act == null && power.isPresent()) {
                    lookPowered(power.get());
                } else if (act == null) {
                    look();
                } else {
                    act.run();
                }
            } catch (InstrumentException trouble) {
                say("bad", trouble.getMessage());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                closed = true;
            } catch (RuntimeException odd) {
                say("bad", Texts.of("live.odd", String.valueOf(odd.getMessage())));
            } finally {
                if (acts.isEmpty()) {
                    key.release();
                }
                told.seconds(OptionalDouble.empty());
                told.doing(power.isPresent() ? "powered" : "idle");
            }
        }
        instruments.close();
    }

    /** Looks how things stand while nothing is done. */
    private void look() {
        instruments.supply().ifPresent(supply -> {
            try {
                Supply.Shown now = supply.shown();
                told.shows(now);
                told.supplySays("");
                if (now.on()) {
                    // Nobody holds a key: whoever switched it on, it was not this page.
                    say("look", Texts.of("live.on-by-itself"));
                } else if (told.says(Texts.of("live.off-unknown"))) {
                    say("look", Texts.of("live.off-known"));
                }
            } catch (InstrumentException trouble) {
                told.supplyLost(trouble.getMessage());
                unchecked();
            }
        });
        told.meter(volts());
        work.between();
    }

    private void lookPowered(LivePower powered) {
        OptionalDouble volts = volts();
        told.meter(volts);
        said(powered, () -> {
            if (volts.isPresent()) {
                powered.probed(volts.getAsDouble());
            }
            if (instruments.inline().isPresent()) {
                try {
                    powered.flowed(instruments.inline().get().since());
                } catch (InstrumentException gone) {
                    say("look", gone.getMessage());
                }
            }
        });
    }

    private OptionalDouble volts() {
        if (instruments.meter().isEmpty()) {
            return OptionalDouble.empty();
        }
        try {
            OptionalDouble value =
                    instruments.meter().get().read(ReadMode.VOLTS).value();
            told.meterSays("");
            return value;
        } catch (InstrumentException trouble) {
            told.meterSays(trouble.getMessage());
            return OptionalDouble.empty();
        }
    }

    /** Whether nothing speaks against current, said where something does. */
    private boolean free() {
        Optional<String> stop = work.stop();
        stop.ifPresent(s -> say("bad", s));
        return stop.isEmpty();
    }

    private void contact() throws InstrumentException {
        if (!free()) {
            return;
        }
        told.doing("checking");
        say("plain", Texts.of("live.checking"));
        unchecked();
        OptionalDouble before = volts();
        if (ContactCheck.fedAlready(before)) {
            checked(ContactCheck.refused(before));
            return;
        }
        // Across a part the meter does not see what the leads bring.
        boolean meterAtRail = work.bothEnds().isEmpty();
        AtRail rail = new AtRail();
        Flowed flowed = flow(
                new SupplySetting(ContactCheck.VOLTS, ContactCheck.AMPS),
                ContactCheck.SECONDS,
                meterAtRail ? rail : LiveFlow.Meanwhile.NOTHING);
        if (flowed.settled().isEmpty() || flowed.ending() != Ending.TIME && flowed.ending() != Ending.CONTACT_LOST) {
            brokenOff(flowed.ending());
            return;
        }
        checked(ContactCheck.of(flowed.settled().get(), rail.volts, work.leadOhms()));
        if (check.map(c -> c.outcome().goOn()).orElse(false)) {
            work.injected(flowed.setting(), flowed.settled().get());
            told.note(LiveTold.text(flowed.settled().get()));
        }
    }

    /** The meter at the rail, read once while the check's current has settled. */
    private final class AtRail implements LiveFlow.Meanwhile {
        private OptionalDouble volts = OptionalDouble.empty();

        @Override
        public Optional<Ending> look(Supply.Shown now, double onSeconds) {
            if (volts.isEmpty() && onSeconds > ContactCheck.SECONDS / 3) {
                volts = volts();
                told.meter(volts);
            }
            return Optional.empty();
        }
    }

    private Flowed flow(SupplySetting wanted, double forSeconds, LiveFlow.Meanwhile meanwhile)
            throws InstrumentException {
        Flowed flowed = flow.flow(wanted, forSeconds, meanwhile);
        if (flowed.ending() == Ending.INSTRUMENT_LOST) {
            unchecked();
        }
        return flowed;
    }

    /** A check that did not come to its end says nothing. */
    private void brokenOff(Ending ending) {
        boolean letGo = ending == Ending.RELEASED;
        say(letGo ? "look" : "bad", letGo ? Texts.of("live.held-too-short") : Texts.of("ending", ending));
    }

    /** What was checked holds no more. */
    private void unchecked() {
        checked = false;
        check = Optional.empty();
    }

    private void checked(ContactCheck result) {
        check = Optional.of(result);
        checked = result.outcome().goOn();
        boolean across = result.outcome() == ContactCheck.Outcome.FLOWS
                && work.bothEnds().isPresent()
                && instruments.meter().isPresent();
        say(checked ? "ok" : "bad", across ? Texts.of("live.ends-flows") : Texts.of("contact", result.outcome()));
    }

    private void leads() throws InstrumentException {
        told.doing("checking");
        Flowed flowed = flow(
                new SupplySetting(ContactCheck.VOLTS, LEADS_AMPS), ContactCheck.SECONDS, LiveFlow.Meanwhile.NOTHING);
        Optional<Supply.Shown> settled = flowed.settled().filter(s -> s.amps() > 0.05);
        if (settled.isEmpty()) {
            say("look", Texts.of("live.tips-apart"));
            return;
        }
        double ohms = settled.get().volts() / settled.get().amps();
        if (ohms > MOST_LEADS_OHMS) {
            say("look", Texts.of("live.tips-apart"));
            return;
        }
        unchecked();
        work.leads(ohms);
        say("ok", Texts.of("live.leads-measured", Eng.prefixed(ohms, "Ω", 2).toString()));
    }

    private void hold(int step) throws InstrumentException {
        Optional<Rung> rung = work.rung(step);
        if (rung.isEmpty() || !free()) {
            return;
        }
        if (!checked) {
            say("look", Texts.of("live.check-first"));
            return;
        }
        Rung r = rung.get();
        if (work.walking()) {
            walked();
            return;
        }
        if (work.bothEnds().isPresent()) {
            endFed();
            return;
        }
        told.doing("holding");
        say("plain", Texts.of("live.setting"));
        coldPicture();
        Ending ending = Ending.RELEASED;
        Optional<Supply.Shown> settled = Optional.empty();
        SupplySetting wanted = LiveFlow.setting(r);
        work.film(r);
        try {
            int pulses = Math.max(1, r.pulses());
            if (pulses > 1) {
                eye.ifPresent(e -> e.pulses(PAUSE_S));
            }
            for (int p = 0; p < pulses; p++) {
                double earlierS = p * r.seconds();
                Flowed flowed = flow(wanted, r.seconds(), (now, onSeconds) -> work.seen(earlierS + onSeconds));
                ending = flowed.ending();
                settled = flowed.settled();
                if (ending == Ending.TIME && p > 0) {
                    ending = work.pulsed((p + 1) * r.seconds()).orElse(Ending.TIME);
                }
                if (ending != Ending.TIME || p == pulses - 1 || !rest()) {
                    break;
                }
            }
        } finally {
            work.cooling(AFTERGLOW_S);
            afterglow();
            work.cut();
        }
        ended(ending);
        if (settled.isPresent() && settled.get().amps() > 0.005) {
            work.injected(wanted, settled.get());
            told.note(LiveTold.text(settled.get()));
        }
        if (ending == Ending.CURRENT_GONE) {
            whereIsTheCurrent();
        }
        work.planAnew();
    }

    /** Current for as long as the key is held, and the meter from point to point. */
    private void walked() throws InstrumentException {
        told.doing("walking");
        Flowed flowed = flow(
                LiveFlow.protectedAt(work.walkSetting()),
                Instruments.HARD_LIMIT.toSeconds() - 5.0,
                (now, onSeconds) -> {
                    OptionalDouble volts = volts();
                    told.meter(volts);
                    volts.ifPresent(v -> work.probed(v, now.amps()));
                    return Optional.empty();
                });
        ended(flowed.ending());
        work.walkedSoFar().forEach(told::note);
    }

    /** Current into one end of a series part, until meter and camera have told what it carries. */
    private void endFed() throws InstrumentException {
        if (work.bothEnds().map(LiveEnds::over).orElse(true)) {
            say("look", Texts.of("live.ends-over"));
            return;
        }
        told.doing("ends");
        say("plain", Texts.of("live.setting"));
        coldPicture();
        work.bothEnds().ifPresent(LiveEnds::begin);
        SupplySetting wanted = LiveFlow.protectedAt(work.endSetting());
        Flowed flowed = flow(wanted, 2 * LiveEnds.WITH_CAMERA_S, (now, onSeconds) -> {
            OptionalDouble volts = volts();
            told.meter(volts);
            return work.endSeen(volts, now.amps(), onSeconds);
        });
        ended(flowed.ending());
        List<String> seen = flowed.settled()
                .filter(s -> flowed.ending().asPlanned())
                .map(s -> work.endDone(wanted, s))
                .orElse(List.of());
        seen.forEach(told::note);
        if (!seen.isEmpty()) {
            // The lead goes to the other end now.
            unchecked();
        } else if (flowed.ending().asPlanned()) {
            say("look", Texts.of("live.end-untold"));
        }
    }

    /** Between two pulses, while the key is held. */
    private boolean rest() {
        long until = System.nanoTime() + (long) (PAUSE_S * 1e9);
        while (System.nanoTime() < until) {
            if (ending().isPresent()) {
                return false;
            }
            LiveFlow.pause();
        }
        return true;
    }

    /** Before current the camera learns what is cold. */
    private void coldPicture() {
        eye.filter(Eye::there).ifPresent(e -> {
            e.begin();
            long until = System.nanoTime() + (long) (COLD_WAIT_S * 1e9);
            while (key.held() && e.coldFrames() < work.coldFrames() && System.nanoTime() < until) {
                LiveFlow.pause();
            }
        });
    }

    private void afterglow() {
        if (eye.isPresent()) {
            long until = System.nanoTime() + (long) (AFTERGLOW_S * 1e9);
            while (!closed && System.nanoTime() < until) {
                LiveFlow.pause();
            }
        }
    }

    /** Why the one who holds the key ends it. */
    private Optional<Ending> ending() {
        // A key that was pressed just before the charger was asked for holds nothing any more.
        return key.ending().or(() -> power.map(p -> Ending.RELEASED));
    }

    private void ended(Ending ending) {
        if (ending != Ending.INSTRUMENT_LOST || !told.says(Texts.of("live.off-unknown"))) {
            say(ending.asPlanned() ? "ok" : "bad", Texts.of("ending", ending));
        }
        if (ending == Ending.CONTACT_LOST || ending == Ending.CURRENT_GONE || ending == Ending.OHMS_RUNNING) {
            unchecked();
        }
    }

    /** The meter has leads of its own: it tells a slipped lead from a short that is no more. */
    private void whereIsTheCurrent() throws InstrumentException {
        if (instruments.meter().isEmpty()) {
            return;
        }
        Meter.Reading reading = instruments.meter().get().read(ReadMode.OHMS);
        boolean shorted = reading.value().isPresent() && reading.value().getAsDouble() < work.stillShortedOhms();
        work.read(reading);
        told.note(Texts.of("live.read", LiveTold.text(reading)));
        say(
                shorted ? "look" : "bad",
                Texts.of(shorted ? "live.lead-slipped" : "live.burned-open", LiveTold.text(reading)));
    }

    private void keepReading(ReadMode mode) throws InstrumentException {
        if (instruments.meter().isEmpty()) {
            say("look", Texts.of("live.no-meter"));
            return;
        }
        Meter.Reading reading = instruments.meter().get().read(mode);
        work.read(reading);
        told.note(Texts.of("live.read", LiveTold.text(reading)));
    }

    // ---- what the page is told ----------------------------------------------------------------

    private void say(String how, String what) {
        told.say(how, what);
    }

    long version() {
        return told.version();
    }

    LiveState state() {
        return new LiveState(
                told.doing(),
                told.words(),
                told.tone(),
                told.instruments(work.leadOhms()),
                told.limits(),
                told.there(instruments, eye),
                work.steps(checked && told.doing().equals("idle") && work.stop().isEmpty()),
                check.map(c -> new LiveState.Checked(c.outcome().goOn(), Texts.of("contact", c.outcome())))
                        .orElse(null),
                work.warm().orElse(null),
                work.named(),
                work.walkState().orElse(null),
                work.endsState().orElse(null),
                power.map(LivePower::state).orElse(null),
                byEye.map(LiveEye::state).orElse(null),
                told.kept());
    }

    /** The page is gone: whatever flows ends, and the bench is free. */
    @Override
    public void close() {
        key.gone();
        power.ifPresent(LivePower::over);
        closed = true;
        eye.ifPresent(Eye::close);
    }
}
