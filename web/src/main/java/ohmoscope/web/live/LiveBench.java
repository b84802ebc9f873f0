package ohmoscope.web.live;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
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
import ohmoscope.core.live.HoldWatch;
import ohmoscope.formats.Texts;
import ohmoscope.instruments.GuardedSupply;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.live.LiveState.There;

/**
 * One bench while a page has it open: the only thread that talks to supply and meter, and the rules by which current may
 * flow. Nothing here switches an output on but {@link #flow}, and that only while the key is held; whatever ends it, the
 * output is switched off in its {@code finally}, and where that cannot be said, the watchdog does it.
 */
final class LiveBench implements AutoCloseable {
    private static final long IDLE_MS = 400;
    private static final long BETWEEN_MS = 25;
    private static final long POWERED_MS = 60;
    private static final int OFF_TRIES = 3;
    private static final double OVER_SHARE = 1.25;
    private static final double PAUSE_S = 1;
    private static final int MOST_KEPT = 12;
    private static final double COLD_WAIT_S = 1.5;
    private static final int COLD_FRAMES = 6;
    private static final double AFTERGLOW_S = 1;
    /** Tips that are apart, or leads that are none, have more. */
    private static final double MOST_LEADS_OHMS = 2;

    private final Instruments instruments;
    private final LiveWork work;
    private final Optional<Eye> eye;
    private final BlockingQueue<Act> acts = new LinkedBlockingQueue<>();
    private final AtomicLong version;
    private final long silenceNanos;
    private final Deque<String> kept = new ArrayDeque<>();
    private volatile boolean held;
    private volatile boolean pageGone;
    private volatile long aliveNanos;
    private volatile boolean closed;
    private volatile boolean flowing;
    private volatile String doing = "idle";
    private volatile String words = Texts.of("live.begin");
    private volatile String tone = "plain";
    private volatile Optional<Supply.Shown> shown = Optional.empty();
    private volatile Optional<SupplySetting> set = Optional.empty();
    private volatile OptionalDouble meterVolts = OptionalDouble.empty();
    private volatile OptionalDouble seconds = OptionalDouble.empty();
    private volatile String supplySays = "";
    private volatile String meterSays = "";
    private volatile Optional<ContactCheck> check = Optional.empty();
    private volatile boolean checked;
    /** In earlier pulses of this step. */
    private double flowedS;

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
        silenceNanos = silence.toNanos();
        this.version = version;
        this.instruments = instruments;
        this.eye = eye;
        this.work = work;
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
        if (!held && power.isEmpty()) {
            held = true;
            aliveNanos = System.nanoTime();
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
        aliveNanos = System.nanoTime();
        if (flowing) {
            instruments.supply().ifPresent(GuardedSupply::alive);
        }
    }

    void release() {
        held = false;
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
        byEye.ifPresent(e -> e.mark(part, seconds));
        changed();
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
                    note(Texts.of("live.marked", ref));
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
            if (shown.map(Supply.Shown::on).orElse(false)) {
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
        by.verdict().filter(v -> !before.equals(Optional.of(v))).ifPresent(v -> note(v.headline()));
        changed();
    }

    /** What an inline meter has recorded; empty while the board is not powered. */
    Optional<InlineTrace.Drawing> drawing() {
        return power.map(LivePower::drawing);
    }

    void batteryOut() {
        acts.add(() -> {
            work.batteryOut();
            note(Texts.of("live.battery-out"));
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
                held &= !acts.isEmpty();
                doing = power.isPresent() ? "powered" : "idle";
                seconds = OptionalDouble.empty();
                changed();
            }
        }
        instruments.close();
    }

    /** Looks how things stand while nothing is done. */
    private void look() {
        instruments.supply().ifPresent(supply -> {
            try {
                shown = Optional.of(supply.shown());
                supplySays = "";
                if (shown.get().on()) {
                    // Nobody holds a key: whoever switched it on, it was not this page.
                    say("look", Texts.of("live.on-by-itself"));
                } else if (words.equals(Texts.of("live.off-unknown"))) {
                    say("look", Texts.of("live.off-known"));
                }
            } catch (InstrumentException trouble) {
                shown = Optional.empty();
                supplySays = trouble.getMessage();
                unchecked();
            }
        });
        meterVolts = volts();
        work.between();
    }

    private void lookPowered(LivePower powered) {
        meterVolts = volts();
        said(powered, () -> {
            if (meterVolts.isPresent()) {
                powered.probed(meterVolts.getAsDouble());
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
            meterSays = "";
            return value;
        } catch (InstrumentException trouble) {
            meterSays = trouble.getMessage();
            return OptionalDouble.empty();
        }
    }

    private GuardedSupply supply() throws InstrumentException {
        return instruments
                .supply()
                .orElseThrow(
                        () -> new InstrumentException(InstrumentException.Trouble.LOST, Texts.of("live.no-supply")));
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
        doing = "checking";
        say("plain", Texts.of("live.checking"));
        unchecked();
        OptionalDouble before = volts();
        if (ContactCheck.fedAlready(before)) {
            checked(ContactCheck.refused(before));
            return;
        }
        // Across a part the meter does not see what the leads bring.
        boolean meterAtRail = work.bothEnds().isEmpty();
        Flow flow = flow(
                new SupplySetting(ContactCheck.VOLTS, ContactCheck.AMPS), ContactCheck.SECONDS, meterAtRail, false);
        if (flow.settled().isEmpty() || flow.ending() != Ending.TIME && flow.ending() != Ending.CONTACT_LOST) {
            brokenOff(flow.ending());
            return;
        }
        checked(ContactCheck.of(flow.settled().get(), flow.meterVolts(), work.leadOhms()));
        if (check.map(c -> c.outcome().goOn()).orElse(false)) {
            work.injected(flow.setting(), flow.settled().get());
            note(entry(flow.settled().get()));
        }
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
        doing = "checking";
        Flow flow = flow(new SupplySetting(ContactCheck.VOLTS, 0.5), ContactCheck.SECONDS, false, false);
        Optional<Supply.Shown> settled = flow.settled().filter(s -> s.amps() > 0.05);
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
        doing = "holding";
        say("plain", Texts.of("live.setting"));
        coldPicture();
        Ending ending = Ending.RELEASED;
        Optional<Supply.Shown> settled = Optional.empty();
        SupplySetting wanted = setting(r);
        work.film(r);
        try {
            int pulses = Math.max(1, r.pulses());
            if (pulses > 1) {
                eye.ifPresent(e -> e.pulses(PAUSE_S));
            }
            for (int p = 0; p < pulses; p++) {
                flowedS = p * r.seconds();
                Flow flow = flow(wanted, r.seconds(), false, true);
                ending = flow.ending();
                settled = flow.settled();
                if (ending == Ending.TIME && p > 0) {
                    ending = work.pulsed((p + 1) * r.seconds()).orElse(Ending.TIME);
                }
                if (ending != Ending.TIME || p == pulses - 1 || !rest()) {
                    break;
                }
            }
        } finally {
            flowedS = 0;
            work.cooling();
            afterglow();
            work.cut();
        }
        ended(ending);
        if (settled.isPresent() && settled.get().amps() > 0.005) {
            work.injected(wanted, settled.get());
            note(entry(settled.get()));
        }
        if (ending == Ending.CURRENT_GONE) {
            whereIsTheCurrent();
        }
        work.planAnew();
    }

    /** Current for as long as the key is held, and the meter from point to point. */
    private void walked() throws InstrumentException {
        doing = "walking";
        Flow flow = flow(protectedAt(work.walkSetting()), Instruments.HARD_LIMIT.toSeconds() - 5.0, false, false);
        ended(flow.ending());
        work.walkedSoFar().forEach(this::note);
    }

    /** Current into one end of a series part, until meter and camera have told what it carries. */
    private void endFed() throws InstrumentException {
        if (work.bothEnds().map(LiveEnds::over).orElse(true)) {
            say("look", Texts.of("live.ends-over"));
            return;
        }
        doing = "ends";
        say("plain", Texts.of("live.setting"));
        coldPicture();
        work.bothEnds().ifPresent(LiveEnds::begin);
        SupplySetting wanted = protectedAt(work.endSetting());
        Flow flow = flow(wanted, 2 * LiveEnds.WITH_CAMERA_S, false, false);
        ended(flow.ending());
        List<String> told = flow.settled()
                .filter(s -> flow.ending().asPlanned())
                .map(s -> work.endDone(wanted, s))
                .orElse(List.of());
        told.forEach(this::note);
        if (!told.isEmpty()) {
            // The lead goes to the other end now.
            unchecked();
        } else if (flow.ending().asPlanned()) {
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
            pause();
        }
        return true;
    }

    /** Before current the camera learns what is cold. */
    private void coldPicture() {
        eye.filter(Eye::there).ifPresent(e -> {
            e.begin();
            long until = System.nanoTime() + (long) (COLD_WAIT_S * 1e9);
            while (held && e.coldFrames() < COLD_FRAMES && System.nanoTime() < until) {
                pause();
            }
        });
    }

    private void afterglow() {
        if (eye.isPresent()) {
            long until = System.nanoTime() + (long) (AFTERGLOW_S * 1e9);
            while (!closed && System.nanoTime() < until) {
                pause();
            }
        }
    }

    private static SupplySetting setting(Rung rung) {
        return protectedAt(new SupplySetting(rung.setVolts(), rung.limitAmps()));
    }

    /** With the supply's own protection a little above. */
    private static SupplySetting protectedAt(SupplySetting s) {
        return new SupplySetting(
                s.volts(),
                s.amps(),
                OptionalDouble.of(Math.max(s.volts() * OVER_SHARE, s.volts() + 0.2)),
                OptionalDouble.of(Math.max(s.amps() * OVER_SHARE, s.amps() + 0.2)));
    }

    /**
     * What one stretch of current showed.
     *
     * @param settled empty where the output never came on
     * @param meterVolts at the board meanwhile, where that was asked for
     */
    private record Flow(
            Ending ending, SupplySetting setting, Optional<Supply.Shown> settled, OptionalDouble meterVolts) {}

    /** Lets current flow: limits first, read back; then on, for as long as the key is held and nothing ends it. */
    private Flow flow(SupplySetting wanted, double forSeconds, boolean withMeter, boolean watched)
            throws InstrumentException {
        GuardedSupply supply = supply();
        supply.arm();
        SupplySetting says = supply.set(wanted);
        set = Optional.of(says);
        changed();
        Optional<Ending> before = ending();
        if (before.isPresent()) {
            return new Flow(before.get(), says, Optional.empty(), OptionalDouble.empty());
        }
        OptionalDouble meter = OptionalDouble.empty();
        HoldWatch watch = new HoldWatch(says, forSeconds, work.leadOhms(), work.leadRatedAmps(), System.nanoTime());
        Optional<Ending> ending = Optional.empty();
        try {
            flowing = true;
            work.row(System.nanoTime(), 0, 0, false);
            supply.on();
            eye.ifPresent(e -> e.powered(true));
            eye.ifPresent(e -> e.switched(true, System.nanoTime()));
            say("plain", Texts.of("live.flows"));
            watch = new HoldWatch(says, forSeconds, work.leadOhms(), work.leadRatedAmps(), System.nanoTime());
            while (ending.isEmpty()) {
                Supply.Shown now = supply.shown();
                shown = Optional.of(now);
                seconds = OptionalDouble.of(watch.onSeconds(now.atNanos()));
                work.row(now.atNanos(), now.volts(), now.amps(), now.on());
                ending = watch.next(now).or(this::ending);
                if (ending.isEmpty() && watched) {
                    ending = work.seen(flowedS + watch.onSeconds(now.atNanos()));
                }
                if (doing.equals("walking")) {
                    meter = volts();
                    meter.ifPresent(v -> work.probed(v, now.amps()));
                }
                if (doing.equals("ends")) {
                    meter = volts();
                    if (ending.isEmpty()) {
                        ending = work.endSeen(meter, now.amps(), watch.onSeconds(now.atNanos()));
                    }
                }
                if (withMeter && meter.isEmpty() && watch.onSeconds(now.atNanos()) > forSeconds / 3) {
                    meter = volts();
                }
                meterVolts = meter;
                changed();
                pause();
            }
        } catch (InstrumentException trouble) {
            supplySays = trouble.getMessage();
            ending = Optional.of(refusedOrLost(trouble));
        } finally {
            off(supply);
        }
        return new Flow(ending.orElse(Ending.RELEASED), says, watch.settled(), meter);
    }

    /** What is there and says no has its protection latched, perhaps since just after the last hold. */
    private Ending refusedOrLost(InstrumentException trouble) {
        if (trouble.trouble() == InstrumentException.Trouble.REFUSED) {
            return Ending.SUPPLY_TRIPPED;
        }
        unchecked();
        return Ending.INSTRUMENT_LOST;
    }

    /** Why the one who holds the key ends it. */
    private Optional<Ending> ending() {
        if (pageGone || closed || held && System.nanoTime() - aliveNanos > silenceNanos) {
            return Optional.of(Ending.PAGE_GONE);
        }
        // A key that was pressed just before the charger was asked for holds nothing any more.
        return held && power.isEmpty() ? Optional.empty() : Optional.of(Ending.RELEASED);
    }

    private void off(GuardedSupply supply) {
        flowing = false;
        eye.ifPresent(e -> e.powered(false));
        eye.ifPresent(e -> e.switched(false, System.nanoTime()));
        for (int i = 0; i < OFF_TRIES; i++) {
            try {
                supply.off();
                work.row(System.nanoTime(), 0, 0, false);
                shown = Optional.of(supply.shown());
                return;
            } catch (InstrumentException trouble) {
                supplySays = trouble.getMessage();
                shown = Optional.empty();
            }
        }
        // Nobody can say that it is off: the watchdog goes on trying, and so must the hand at the supply.
        supply.close();
        say("bad", Texts.of("live.off-unknown"));
    }

    private void ended(Ending ending) {
        if (ending != Ending.INSTRUMENT_LOST || !words.equals(Texts.of("live.off-unknown"))) {
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
        note(Texts.of("live.read", text(reading)));
        say(shorted ? "look" : "bad", Texts.of(shorted ? "live.lead-slipped" : "live.burned-open", text(reading)));
    }

    private void keepReading(ReadMode mode) throws InstrumentException {
        if (instruments.meter().isEmpty()) {
            say("look", Texts.of("live.no-meter"));
            return;
        }
        Meter.Reading reading = instruments.meter().get().read(mode);
        work.read(reading);
        note(Texts.of("live.read", text(reading)));
    }

    private static String text(Meter.Reading reading) {
        return reading.value().isEmpty()
                ? "OL"
                : Eng.prefixed(
                                reading.value().getAsDouble(),
                                reading.mode() == ReadMode.OHMS || reading.mode() == ReadMode.CONTINUITY ? "Ω" : "V",
                                3)
                        .toString();
    }

    private static String entry(Supply.Shown shown) {
        return String.format(Locale.ROOT, "%s, %.2f A", Eng.prefixed(shown.volts(), "V", 3), shown.amps());
    }

    private static void pause() {
        try {
            TimeUnit.MILLISECONDS.sleep(BETWEEN_MS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    // ---- what the page is told ----------------------------------------------------------------

    private void say(String how, String what) {
        tone = how;
        words = what;
        changed();
    }

    private void note(String entry) {
        synchronized (kept) {
            kept.addFirst(entry);
            while (kept.size() > MOST_KEPT) {
                kept.removeLast();
            }
        }
        changed();
    }

    private void changed() {
        version.incrementAndGet();
    }

    long version() {
        return version.get();
    }

    LiveState state() {
        Optional<Supply.Shown> now = shown;
        OptionalDouble ohms = now.isPresent() ? HoldWatch.ohms(now.get(), work.leadOhms()) : OptionalDouble.empty();
        List<String> entries;
        synchronized (kept) {
            entries = List.copyOf(kept);
        }
        return new LiveState(
                doing,
                words,
                tone,
                new LiveState.Shown(
                        now.map(Supply.Shown::volts).orElse(null),
                        now.map(Supply.Shown::amps).orElse(null),
                        boxed(ohms),
                        ohms.isPresent() ? now.get().amps() * now.get().amps() * ohms.getAsDouble() : null,
                        now.map(Supply.Shown::on).orElse(false),
                        now.map(Supply.Shown::limiting).orElse(false),
                        boxed(seconds),
                        boxed(meterVolts)),
                set.map(LiveBench::limits).orElse(null),
                List.of(
                        there("supply", instruments.supply().isPresent(), supplySays),
                        there("meter", instruments.meter().isPresent(), meterSays),
                        eye.map(e -> new There("camera", e.there() ? "ok" : "bad", e.words()))
                                .orElseGet(() -> there("camera", false, ""))),
                work.steps(checked && doing.equals("idle") && work.stop().isEmpty()),
                check.map(c -> new LiveState.Checked(c.outcome().goOn(), Texts.of("contact", c.outcome())))
                        .orElse(null),
                work.warm().orElse(null),
                work.named(),
                work.walkState().orElse(null),
                work.endsState().orElse(null),
                power.map(LivePower::state).orElse(null),
                byEye.map(LiveEye::state).orElse(null),
                entries);
    }

    private static LiveState.Limits limits(SupplySetting set) {
        String over = set.overVolts().isPresent() && set.overAmps().isPresent()
                ? Texts.of(
                        "live.protection",
                        Eng.fixed(set.overVolts().getAsDouble(), 2) + " V",
                        Eng.fixed(set.overAmps().getAsDouble(), 2) + " A")
                : Texts.of("live.no-protection");
        return new LiveState.Limits(set.volts(), set.amps(), over);
    }

    private static There there(String role, boolean present, String trouble) {
        return new There(role, present ? trouble.isEmpty() ? "ok" : "bad" : "none", trouble);
    }

    private static @org.jspecify.annotations.Nullable Double boxed(OptionalDouble value) {
        return value.isPresent() ? value.getAsDouble() : null;
    }

    /** The page is gone: whatever flows ends, and the bench is free. */
    @Override
    public void close() {
        pageGone = true;
        held = false;
        power.ifPresent(LivePower::over);
        closed = true;
        eye.ifPresent(Eye::close);
    }
}
