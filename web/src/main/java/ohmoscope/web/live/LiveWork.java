package ohmoscope.web.live;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.function.LongToDoubleFunction;
import java.util.stream.IntStream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.LockIn;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.core.inject.InjectionPlan.Rung;
import ohmoscope.core.inject.MillivoltWalk;
import ohmoscope.core.instrument.Meter;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;
import ohmoscope.core.live.Ending;
import ohmoscope.core.live.PartRise;
import ohmoscope.core.live.WarmPlace;
import ohmoscope.core.live.WarmStop;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.Texts;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.inject.InjectView;
import ohmoscope.web.inject.Planned;
import ohmoscope.web.kit.Eng;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What a live bench works on: the job with its plan, the picture's place on the board, the movie that is being taken, and who
 * it may be. Entries are kept by the bench's thread; the movie is kept, and looked into, by two threads of its own.
 */
final class LiveWork implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(LiveWork.class);
    /** Steps that show less than this warm nothing that could be seen: no movie is kept of them unless something warms. */
    private static final double WORTH_A_MOVIE = 3;

    private static final double LAID_MM = 0.25;
    private static final double LAID_SLACK_MM = 1.2;
    /** Of the warmest place the picture is smoothed to so many pixels; its unrest moves it by that over the surety. */
    private static final double SPOT_PX = 1.3;

    private static final double SPOT_OVER_BOUND = 3;
    private static final double SURE = 0.9;
    /** A swing with the pulses that stands out so far is no noise, whichever of the pixels it is. */
    private static final double CLEAR_SWING = 7;

    /** What is said to have flowed in a rehearsal. */
    private static final double REHEARSED_VOLTS = 0.1;

    private static final double REHEARSED_AMPS = 1;
    private static final int COLD_FRAMES = 6;
    /** Of so many the picture's edges are sought. */
    private static final int EDGE_FRAMES = 12;

    private static final double WALK_AMPS = 3;
    private static final double LEAST_WALK_AMPS = 0.5;
    /** A part that stays warm for half a minute. */
    private static final double WALK_RISE_K = 30;

    private static final double WALK_HEADROOM = 1.15;
    /** A part in series whose value the board does not say. */
    private static final double SERIES_OHMS = 0.02;

    private static final double STILL_SHORTED_SHARE = 4;
    private static final double STILL_SHORTED_OHMS = 1;

    private final String number;
    private final String by;
    private final LiveKeeper keeper;
    private final LivePlans plans;
    private final Optional<Eye> eye;
    private final LongToDoubleFunction bundleS;
    private final Runnable changed;
    private final Hands hands;
    private final LiveFilm film;
    private volatile LivePlans.Plan plan;
    private volatile int at;
    /** The step was chosen by hand since current last flowed: a plan that is made anew then leaves it. */
    private volatile boolean picked;

    private volatile OptionalDouble measuredLeads = OptionalDouble.empty();
    private volatile int hotLead;
    private volatile Optional<Laying> laying = Optional.empty();
    private volatile Optional<LiveState.Warm> warm = Optional.empty();
    private volatile Optional<LiveWalk> walk = Optional.empty();
    private volatile Optional<LiveEnds> ends = Optional.empty();

    /**
     * @param bundleS from the bench's nanoseconds to seconds on the job's clock
     * @param changed is told when there is something new to be shown
     * @param hands are told where the meter's probe is wanted
     */
    LiveWork(
            String number,
            String by,
            LiveKeeper keeper,
            LivePlans plans,
            LivePlans.Plan first,
            Optional<Eye> eye,
            LongToDoubleFunction bundleS,
            Runnable changed,
            Hands hands) {
        this.hands = hands;
        this.number = number;
        this.by = by;
        this.keeper = keeper;
        this.plans = plans;
        this.plan = first;
        this.eye = eye;
        this.bundleS = bundleS;
        this.changed = changed;
        this.at = 0;
        this.film = new LiveFilm(number, by, keeper, changed);
    }

    // ---- the plan -----------------------------------------------------------------------------

    double leadOhms() {
        return measuredLeads.orElse(plan.given().leadOhms());
    }

    double leadRatedAmps() {
        return plan.given().leadRatedA();
    }

    double stillShortedOhms() {
        return Math.max(
                STILL_SHORTED_OHMS,
                STILL_SHORTED_SHARE * plan.planned().plan().fault().high());
    }

    Optional<Rung> rung(int step) {
        List<Rung> rungs = plan.planned().plan().rungs();
        if (step < 0 || step >= rungs.size()) {
            return Optional.empty();
        }
        at = step;
        picked = false;
        return Optional.of(rungs.get(step));
    }

    /** The step that the key takes, as it was chosen on the page. */
    int chosen() {
        return at;
    }

    void choose(int step) {
        if (step >= 0 && step < plan.planned().plan().rungs().size()) {
            at = step;
            picked = true;
            changed.run();
        }
    }

    /** What forbids current now, as a sentence. */
    Optional<String> stop() {
        return plan.stop();
    }

    LiveState.Steps steps(boolean ready) {
        List<LiveState.Step> steps = new ArrayList<>();
        List<Rung> rungs = plan.planned().plan().rungs();
        for (Rung r : rungs) {
            steps.add(new LiveState.Step(
                    Eng.significant(r.setVolts(), 2) + " V, " + Eng.significant(r.limitAmps(), 2) + " A",
                    r.pulses() > 0 ? r.pulses() + " × 1 s" : Eng.significant(r.seconds(), 1) + " s",
                    "+" + Eng.significant(r.riseK(), 2) + " K; " + InjectView.sees(r.surety(), r.sigmaMm()),
                    InjectView.words(r.stopWhen()),
                    plan.planned().tried(r)));
        }
        return new LiveState.Steps(steps, Math.max(0, Math.min(at, steps.size() - 1)), ready && !steps.isEmpty());
    }

    /** The first step that gives more than any that was tried; the last where none does. */
    private int next() {
        double tried = plan.planned().review().points().stream()
                .mapToDouble(p -> p.amps())
                .max()
                .orElse(0);
        List<Rung> rungs = plan.planned().plan().rungs();
        for (int i = 0; i < rungs.size(); i++) {
            if (rungs.get(i).amps() > 1.1 * tried) {
                return i;
            }
        }
        return Math.max(0, rungs.size() - 1);
    }

    /** From the evidence as it is now. */
    void planAnew() {
        try {
            plan = plans.of(number, by, plan.side(), OptionalDouble.of(leadOhms()), laying.map(this::pixelMm));
            at = picked ? Math.min(at, Math.max(0, plan.planned().plan().rungs().size() - 1)) : next();
            changed.run();
        } catch (IOException unreadable) {
            LOG.warn("{} could not be planned anew", number, unreadable);
        }
    }

    private double pixelMm(Laying laid) {
        return laid.map().pitchMm(laid.width() / 2.0, laid.height() / 2.0);
    }

    void leads(double ohms) {
        measuredLeads = OptionalDouble.of(ohms);
        planAnew();
    }

    void hotLead(int place) {
        hotLead = place;
        changed.run();
    }

    private Board board() {
        return plan.job().bundle().board();
    }

    private String rail() {
        return plan.job().bundle().rail();
    }

    private static ProbePlace probe(InjectionPlaces.Place place) {
        return new ProbePlace(place.xMm(), place.yMm(), place.side(), Optional.of(place.ref()));
    }

    private Optional<ProbePlace> hot() {
        List<InjectionPlaces.Place> places = plan.places().hot();
        return hotLead >= 0 && hotLead < places.size() ? Optional.of(probe(places.get(hotLead))) : Optional.empty();
    }

    private Optional<ProbePlace> back() {
        return plan.places().back().stream().findFirst().map(LiveWork::probe);
    }

    LivePower power(boolean metered) {
        return new LivePower(number, by, keeper, plans, hands, metered);
    }

    // ---- entries ------------------------------------------------------------------------------

    void injected(SupplySetting setting, Supply.Shown shown) {
        Optional<LiveEnds.End> end = ends.filter(e -> !e.over()).map(LiveEnds::end);
        String net = end.map(LiveEnds.End::net).orElse(rail());
        Optional<String> ref = end.map(LiveEnds.End::lead).or(this::hot).flatMap(ProbePlace::ref);
        keep(seq -> inject(seq, net, ref, setting, shown));
    }

    private Inject inject(int seq, String net, Optional<String> ref, SupplySetting setting, Supply.Shown shown) {
        return new Inject(
                seq,
                net,
                ref,
                OptionalDouble.of(setting.volts()),
                OptionalDouble.of(setting.amps()),
                OptionalDouble.of(thousandths(shown.volts())),
                OptionalDouble.of(thousandths(shown.amps())),
                OptionalDouble.of(leadOhms()),
                Optional.of(TraceShape.FLAT),
                Optional.empty());
    }

    void read(Meter.Reading reading) {
        keep(seq -> new Read(
                seq,
                reading.mode(),
                Optional.of(rail()),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                reading.value(),
                Optional.empty(),
                Optional.empty()));
    }

    void warmed(IntFunction<Observation> entry) {
        keep(entry);
        planAnew();
    }

    /** A part as the board writes it. @throws InvalidMember where the board has none of that name */
    String partNamed(String word) {
        return board().parts().stream()
                .map(Part::ref)
                .filter(word::equalsIgnoreCase)
                .findFirst()
                .orElseThrow(() -> new InvalidMember("ref", "names " + word + ", which this board does not have"));
    }

    void batteryOut() {
        keep(seq -> new Change(seq, ChangeAction.DISCONNECTED, Change.BATTERY, false));
        planAnew();
    }

    private void keep(IntFunction<Observation> entry) {
        keepAll(first -> List.of(entry.apply(first)));
    }

    private void keepAll(Bench.LogEntries entries) {
        try {
            keeper.entry(number, entries, by);
        } catch (IOException | RuntimeException failed) {
            LOG.warn("entries of {} could not be kept", number, failed);
            throw new IllegalStateException(Texts.of("live.not-kept"), failed);
        }
    }

    private static double thousandths(double value) {
        return Math.round(Math.max(0, value) * 10_000) / 10_000.0;
    }

    // ---- without a camera --------------------------------------------------------------------

    /** @throws IllegalStateException where no pad of rail or ground is known to set a lead on */
    void walk(boolean on) {
        ends = Optional.empty();
        ProbePlace hot = hot().orElseThrow(() -> new IllegalStateException(Texts.of("live.no-pads")));
        ProbePlace back = back().orElseThrow(() -> new IllegalStateException(Texts.of("live.no-pads")));
        walk = on
                ? Optional.of(new LiveWalk(
                        new MillivoltWalk.Copper(board(), rail(), new BoardIndex(board()).ground(), hot, back)))
                : Optional.empty();
        asked();
    }

    /** Neither a walk nor a part's two ends. */
    void noWalk() {
        walk = Optional.empty();
        ends = Optional.empty();
        asked();
    }

    /** As much as leads, supply and part bear for as long as a walk takes: the drop along the copper goes with the current. */
    SupplySetting walkSetting() {
        var planned = plan.planned().plan();
        double ohms = planned.fault().ohms();
        double most = Math.min(
                WALK_AMPS, Math.min(plan.given().leadRatedA(), plan.given().mostA()));
        double amps = most;
        while (amps > LEAST_WALK_AMPS && planned.spot().riseK(amps * amps * ohms) > WALK_RISE_K) {
            amps *= 0.9;
        }
        double volts = WALK_HEADROOM * amps * (planned.fault().high() + leadOhms());
        return new SupplySetting(
                Math.min(volts, Math.min(planned.ceilingVolts(), plan.given().mostV())), amps);
    }

    boolean walking() {
        return walk.isPresent();
    }

    /** What the probe shows while current flows. */
    void probed(double volts, double amps) {
        walk.filter(w -> w.probed(volts, amps)).ifPresent(w -> asked());
    }

    private void asked() {
        hands.probe(walk.flatMap(LiveWalk::asked).orElse(rail()));
        changed.run();
    }

    /** Keeps what was read while current flowed, all at once. @return in words */
    List<String> walkedSoFar() {
        List<String> kept = new ArrayList<>();
        walk.ifPresent(w -> {
            List<Read> reads = w.unkept();
            if (reads.isEmpty()) {
                return;
            }
            keepAll(first -> IntStream.range(0, reads.size())
                    .mapToObj(i -> LiveWalk.numbered(reads.get(i), first + i))
                    .toList());
            reads.forEach(r ->
                    kept.add(LiveWalk.point(r.ref().orElseThrow(), r.value().getAsDouble())));
        });
        return kept;
    }

    Optional<LiveState.Walked> walkState() {
        return walk.map(LiveWalk::state);
    }

    /** Current goes into both ends of a series part, one after the other; or no more. @param ref empty for the first there is */
    void ends(boolean on, String ref, boolean metered) {
        walk = Optional.empty();
        if (!on) {
            ends = Optional.empty();
            lead(hot(), rail());
            hands.probe(rail());
            changed.run();
            return;
        }
        InjectionPlaces.Series series = series().stream()
                .filter(s -> ref.isEmpty() || s.ref().equals(ref))
                .findFirst()
                .orElseThrow(() -> new InvalidMember("series", Texts.of("live.no-series", rail())));
        Part part = new BoardIndex(board()).part(series.ref()).orElseThrow();
        ends = Optional.of(new LiveEnds(
                part,
                List.of(
                        end(series.behind().net(), part.ref()),
                        end(series.before().net(), part.ref())),
                metered));
        nextEnd();
    }

    /** Parts in series on the rail, between two of whose ends its short can be looked for. */
    List<InjectionPlaces.Series> series() {
        return InjectionPlaces.seriesAt(board(), rail());
    }

    /** @param part whose end it is: a lead on the part itself would warm it, and stand in the meter's way */
    private LiveEnds.End end(String net, String part) {
        List<InjectionPlaces.Place> places = net.equals(rail())
                ? plan.places().hot()
                : plans.places(plan, net).hot();
        InjectionPlaces.Place place = places.stream()
                .filter(p -> !p.ref().equals(part))
                .findFirst()
                .or(() -> places.stream().findFirst())
                .orElseThrow(() -> new IllegalStateException(Texts.of("live.no-pads")));
        return new LiveEnds.End(net, probe(place), Planned.words(place));
    }

    private void nextEnd() {
        ends.ifPresent(e -> {
            lead(Optional.of(e.end().lead()), e.end().net());
            hands.probe("across " + e.part().ref());
        });
        changed.run();
    }

    private void lead(Optional<ProbePlace> place, String net) {
        place.flatMap(ProbePlace::ref).ifPresent(ref -> hands.lead(ref, net));
    }

    Optional<LiveEnds> bothEnds() {
        return ends;
    }

    /** As for a walk, with what the part itself drops. */
    SupplySetting endSetting() {
        SupplySetting usual = walkSetting();
        double part =
                ends.map(e -> e.part().resistanceOhms().orElse(SERIES_OHMS)).orElse(0.0);
        return new SupplySetting(
                Math.min(
                        usual.volts() + usual.amps() * part,
                        Math.min(
                                plan.planned().plan().ceilingVolts(),
                                plan.given().mostV())),
                usual.amps());
    }

    /** What is seen of a series part while current flows into one of its ends. @return why this end needs no more */
    Optional<Ending> endSeen(OptionalDouble meterVolts, double amps, double onSeconds) {
        return ends.filter(e -> e.seen(meterVolts, rise(e.part()), amps, onSeconds))
                .map(e -> Ending.TIME);
    }

    private OptionalDouble rise(Part part) {
        Optional<Eye.View> view = eye.filter(Eye::there).flatMap(Eye::view);
        Optional<Laying> laid = laying.filter(l -> l.by().trusted() && l.side() == part.side());
        if (view.isEmpty() || laid.filter(l -> fits(l, view.get())).isEmpty()) {
            return OptionalDouble.empty();
        }
        float[] rises = view.get().seen().risesK();
        return rises.length == 0
                ? OptionalDouble.empty()
                : PartRise.of(
                        rises,
                        view.get().width(),
                        view.get().height(),
                        laid.get().map(),
                        part);
    }

    /** One end is done: what was set, what flowed, what the part showed. @return in words; empty where nothing was measured */
    List<String> endDone(SupplySetting setting, Supply.Shown shown) {
        LiveEnds e = ends.orElseThrow();
        LiveEnds.End end = e.end();
        List<IntFunction<Observation>> seen = e.done();
        if (seen.isEmpty()) {
            return List.of();
        }
        List<IntFunction<Observation>> all = new ArrayList<>();
        all.add(seq -> inject(seq, end.net(), end.lead().ref(), setting, shown));
        all.addAll(seen);
        keepAll(first -> IntStream.range(0, all.size())
                .mapToObj(i -> all.get(i).apply(first + i))
                .toList());
        if (e.over()) {
            planAnew();
        }
        nextEnd();
        return e.state()
                .fed()
                .subList(e.state().fed().size() - 1, e.state().fed().size());
    }

    Optional<LiveState.Ends> endsState() {
        return ends.map(LiveEnds::state);
    }

    // ---- the picture --------------------------------------------------------------------------

    /** While nothing is done: a picture that nobody has laid yet is laid by its own edges, once. */
    void between() {
        if (eye.isEmpty()) {
            return;
        }
        Optional<Eye.View> view = eye.get().view();
        if (view.isPresent() && laying.filter(l -> fits(l, view.get())).isEmpty()) {
            Laying first = Laying.first(
                    board(),
                    plan.side(),
                    view.get().width(),
                    view.get().height(),
                    plan.job().bundle().captures().stream()
                            .map(Capture::spec)
                            .filter(c -> c.side() == plan.side()
                                    && c.width() == view.get().width()
                                    && c.height() == view.get().height())
                            .reduce((a, b) -> b));
            laying = Optional.of(first);
            changed.run();
        }
        boolean seen = eye.get().coldFrames() >= EDGE_FRAMES;
        if (guessed() && seen) {
            snap();
        } else if (seen && laying.isPresent() && keeper.rehearses()) {
            rehearse();
        }
    }

    /** How many a hold waits for before current flows: more where the picture has to be laid by them first. */
    int coldFrames() {
        return guessed() ? EDGE_FRAMES : COLD_FRAMES;
    }

    private boolean guessed() {
        return laying.map(l -> l.by() == Laying.By.GUESS).orElse(true);
    }

    private void rehearse() {
        LiveMovie cold = movie("rehearsal");
        eye.orElseThrow().recent(cold);
        List<Double> timesS = cold.from(0).timesS();
        for (double tS : timesS.subList(Math.min(COLD_FRAMES, timesS.size()), timesS.size())) {
            cold.add(new SupplyLog.Row(tS, REHEARSED_VOLTS, REHEARSED_AMPS, true));
        }
        film.rehearse(cold, LiveKeeper.injection(rail(), hot(), back(), REHEARSED_VOLTS, REHEARSED_AMPS, leadOhms()));
    }

    /** A movie by the picture as it is laid. */
    private LiveMovie movie(String name) {
        Laying laid = laying.orElseThrow();
        return new LiveMovie(
                name,
                laid.side(),
                laid.width(),
                laid.height(),
                eye.orElseThrow().scale(),
                laid.pairs());
    }

    private static boolean fits(Laying laid, Eye.View view) {
        return laid.width() == view.width() && laid.height() == view.height();
    }

    /** Lays the picture by its own edges. @return whether it could */
    boolean snap() {
        if (eye.isEmpty() || laying.isEmpty()) {
            return false;
        }
        float[] cold = eye.get().coldPicture();
        Optional<Laying> snapped =
                cold.length == laying.get().width() * laying.get().height()
                        ? laying.get().snapped(board(), cold)
                        : Optional.empty();
        // What shows no edges is not tried again and again.
        laying = Optional.of(snapped.orElseGet(() -> new Laying(
                laying.get().side(),
                laying.get().width(),
                laying.get().height(),
                laying.get().pairs(),
                Laying.By.UNLAID)));
        changed.run();
        return snapped.isPresent();
    }

    void lay(List<double[]> pixels) {
        laying = laying.map(l -> l.moved(pixels));
        changed.run();
    }

    void side(ohmoscope.core.board.Side side) {
        plan = plan.seeing(side);
        laying = Optional.empty();
        changed.run();
    }

    Optional<Laying> laying() {
        return laying;
    }

    Laying.Shapes shapes(Laying laid) {
        return laid.shapes(board(), rail());
    }

    Optional<LiveState.Warm> warm() {
        return warm;
    }

    LiveState.Named named() {
        return film.named();
    }

    /** What the camera says while current flows. @param onSeconds in this step so far @return why it should end */
    Optional<Ending> seen(double onSeconds) {
        return eye.flatMap(Eye::view)
                .filter(v -> v.seen().warming())
                .flatMap(v -> warms(
                        v,
                        new Spot(
                                v.seen().xPx(),
                                v.seen().yPx(),
                                v.seen().riseK(),
                                v.seen().standsOut()),
                        onSeconds));
    }

    /** What a train of pulses says after one more of them. @param onSeconds of all of them @return why it should end */
    Optional<Ending> pulsed(double onSeconds) {
        Optional<Eye.View> view = eye.flatMap(Eye::view);
        Optional<LockIn.Picture> picture = eye.flatMap(Eye::locked);
        if (view.isEmpty() || picture.isEmpty() || picture.get().standsOut() < CLEAR_SWING) {
            return Optional.empty();
        }
        int width = view.get().width();
        int at = picture.get().strongest();
        Spot spot = new Spot(
                at % width,
                at / width,
                2 * picture.get().swingK()[at],
                picture.get().standsOut());
        return warms(view.get(), spot, onSeconds);
    }

    /** A place in the picture that stands out. @param standsOut standard deviations of the picture's unrest */
    private record Spot(double xPx, double yPx, double riseK, double standsOut) {}

    private Optional<Ending> warms(Eye.View view, Spot seen, double onSeconds) {
        Optional<Laying> laid = laying;
        if (laid.isEmpty() || !fits(laid.get(), view)) {
            return Optional.empty();
        }
        film.worthKeeping();
        Homography map = laid.get().map();
        double pitch = map.pitchMm(seen.xPx(), seen.yPx());
        WarmPlace place = WarmPlace.of(
                board(),
                laid.get().side(),
                Set.of(rail()),
                java.util.stream.Stream.of(hot(), back())
                        .flatMap(Optional::stream)
                        .toList(),
                map.xMm(seen.xPx(), seen.yPx()),
                map.yMm(seen.xPx(), seen.yPx()),
                LAID_SLACK_MM + pitch);
        warm = Optional.of(new LiveState.Warm(
                seen.xPx(),
                seen.yPx(),
                seen.riseK(),
                place.what().name().toLowerCase(java.util.Locale.ROOT),
                Texts.of("warm", place.what(), place.ref().orElse("?"), Eng.significant(seen.riseK(), 2) + " K")));
        boolean trusted = laid.get().by().trusted();
        double sigmaMm = Math.hypot(LAID_MM, SPOT_OVER_BOUND * SPOT_PX * pitch / Math.max(1, seen.standsOut()));
        boolean sure = film.named().suspects().stream()
                .findFirst()
                .map(s -> s.probability() >= SURE)
                .orElse(false);
        return new WarmStop(place.what(), seen.riseK(), onSeconds, sigmaMm, trusted, sure)
                .ending(plan.given().wantedMm());
    }

    // ---- the movie ----------------------------------------------------------------------------

    void row(long nanos, double volts, double amps, boolean on) {
        film.row(new SupplyLog.Row(bundleS.applyAsDouble(nanos), volts, amps, on));
    }

    /** Takes a movie from now on. */
    void film(Rung rung) {
        warm = Optional.empty();
        film.forget();
        if (eye.filter(Eye::there).flatMap(Eye::view).isEmpty()) {
            return;
        }
        between();
        LiveMovie movie = movie(keeper.freeName(plan.job().row().id()));
        Injection injection =
                LiveKeeper.injection(rail(), hot(), back(), rung.setVolts(), rung.limitAmps(), leadOhms());
        eye.orElseThrow().film(movie);
        film.begin(movie, injection, rung.surety() >= WORTH_A_MOVIE);
    }

    /** No more current flows while it is taken. @param forS how much longer it is */
    void cooling(double forS) {
        film.cooling(forS);
    }

    /** The movie is over: the rest is kept, and looked into once more. */
    void cut() {
        eye.ifPresent(Eye::cut);
        film.cut();
    }

    @Override
    public void close() {
        film.close();
    }
}
