package ohmoscope.bench.standin;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.LongSupplier;
import ohmoscope.bench.truth.PoweredBoard;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.Twin;
import ohmoscope.sim.LiveScene;

/**
 * The board on the bench: the supply's leads on one net and ground, the meter's wherever its probe is put. One for all
 * instruments, and safe for their threads. What goes wrong by itself goes on with the clock.
 */
public final class StandInBoard {
    private static final double NOISE_SHARE = 0.002;
    private static final double OVER_RANGE_OHMS = 40e6;
    private static final double OVER_RANGE_DIODE_VOLTS = 2.9;
    private static final double METER_NOISE_VOLTS = 1e-4;
    private static final double HICCUP_S = 0.33;
    private static final double BURNS_IN_S = 1;
    private static final double RUNS_AWAY_S = 1.5;
    private static final double BARELY_OHMS = 1e7;
    private static final String ACROSS = "across ";
    /** Two tips of unlike metal. */
    private static final double TIPS_VOLTS = 3e-5;
    /** Solder and the part's own tolerance: what a closed part has more than the board says. */
    private static final double SEATED = 1.12;

    private static final double CLOSED_OHMS = 0.015;

    private final Board board;
    private final Twin twin;
    private final String ground;
    private final Map<String, Double> shorts;
    private final double leadOhms;
    private final Mishaps mishaps;
    private final Optional<LiveScene> scene;
    private final LongSupplier clock;
    private final long bornNanos;
    private final Random random;
    private final PoweredBoard powered;
    private final Set<String> open;
    private Optional<Plugged> plugged = Optional.empty();
    private BoardState state = BoardState.WHOLE;
    private String net;
    private String probed;
    private Optional<String> probedPart = Optional.empty();
    /** The part between whose ends the meter's tips are. */
    private Optional<String> across = Optional.empty();

    private Setting setting = new Setting(0, 1e-3, false);
    private Twin.Injected flowing = new Twin.Injected(0, 0);
    private long sinceNanos;
    private double flowedS;
    private double onS;
    private double roastedS;
    private boolean slipped;

    /** What the supply's terminals are driven with. */
    private record Setting(double volts, double limitAmps, boolean on) {}

    /** A charger that is in. */
    private record Plugged(PoweredBoard.Drawn drawn, long sinceNanos) {}

    /**
     * @param net where the leads are
     * @param shorts ohms to ground by part reference
     * @param open parts that do not conduct
     * @param leadOhms both supply leads, above 0
     * @param scene the same board as a camera sees it
     * @param clock nanoseconds
     * @throws InvalidMember where the board does not have the net, or a part that is shorted is on no power net
     */
    public StandInBoard(
            Board board,
            String net,
            Map<String, Double> shorts,
            Set<String> open,
            double leadOhms,
            Mishaps mishaps,
            Optional<LiveScene> scene,
            LongSupplier clock,
            long seed) {
        if (board.net(net).map(n -> n.kind() == NetKind.GROUND).orElse(true)) {
            throw new InvalidMember("net", "must be a net of the board that is not ground, was " + net);
        }
        shorts.keySet().forEach(ref -> railOf(board, ref));
        open.forEach(ref -> {
            if (board.part(ref).isEmpty()) {
                throw new InvalidMember("fault", "names " + ref + ", which this board does not have");
            }
        });
        this.open = new TreeSet<>(open);
        this.powered = new PoweredBoard(board, shorts, open, seed);
        this.board = board;
        this.twin = new Twin(board);
        this.net = net;
        this.probed = net;
        this.ground = new BoardIndex(board).ground();
        this.shorts = new TreeMap<>(shorts);
        this.leadOhms = leadOhms;
        this.mishaps = mishaps;
        this.scene = scene;
        scene.ifPresent(s -> s.contact(mishaps.share(Mishaps.Kind.CONTACT_OHMS)));
        this.clock = clock;
        this.random = new Random(seed);
        this.bornNanos = clock.getAsLong();
        this.sinceNanos = bornNanos;
    }

    /** A board where nothing goes wrong by itself, and that no camera looks at. */
    public StandInBoard(Board board, String net, Map<String, Double> shorts, double leadOhms, long seed) {
        this(board, net, shorts, Set.of(), leadOhms, Mishaps.NONE, Optional.empty(), System::nanoTime, seed);
    }

    /** The power net that a part is on. @throws InvalidMember where it is not on the board, or on none */
    public static String railOf(Board board, String ref) {
        var part = board.part(ref)
                .orElseThrow(() -> new InvalidMember("fault", "names " + ref + ", which this board does not have"));
        return part.pins().stream()
                .map(p -> p.net())
                .filter(n -> board.net(n).map(x -> x.kind() == NetKind.POWER).orElse(false))
                .findFirst()
                .orElseThrow(() -> new InvalidMember("fault", "names " + ref + ", which is on no power net"));
    }

    private List<Fault> faults() {
        List<Fault> faults = new ArrayList<>();
        shorts.forEach((ref, ohms) -> faults.add(new Fault.Bridge(ref, railOf(board, ref), ground, ohms)));
        open.forEach(ref -> faults.add(new Fault.Open(ref)));
        return faults;
    }

    /** Seconds since the board was laid on the bench. */
    synchronized double nowS() {
        return (clock.getAsLong() - bornNanos) / 1e9;
    }

    /** Drives the terminals. @return volts and amperes at them now */
    synchronized Twin.Injected drive(double volts, double limitAmps, boolean on) {
        goOn();
        Setting now = new Setting(volts, limitAmps, on);
        if (!now.equals(setting)) {
            if (!on) {
                slipped = false;
                onS = 0;
            }
            setting = now;
            flow();
        }
        return flowing;
    }

    /** Lets the clock's time pass over what goes wrong by itself. */
    synchronized void goOn() {
        long now = clock.getAsLong();
        double passed = (now - sinceNanos) / 1e9;
        sinceNanos = now;
        if (!setting.on() || passed <= 0) {
            return;
        }
        onS += passed;
        flowedS += flowing.amps() > 0 ? passed : 0;
        double slipsAfterS = mishaps.of(Mishaps.Kind.SLIPS_AFTER_S).orElse(Double.POSITIVE_INFINITY);
        if (flowedS > slipsAfterS) {
            flowedS = 0;
            slipped = true;
        }
        burn(passed);
        flow();
    }

    private void burn(double passed) {
        OptionalDouble burnsAtW = mishaps.of(Mishaps.Kind.BURNS_AT_W);
        if (burnsAtW.isEmpty() || shorts.isEmpty()) {
            return;
        }
        String hardest = shorts.entrySet().stream()
                .min(Map.Entry.comparingByValue())
                .orElseThrow()
                .getKey();
        double watts = flowing.amps() * flowing.amps() * shorts.get(hardest);
        roastedS = watts >= burnsAtW.getAsDouble() ? roastedS + passed : 0;
        if (roastedS > BURNS_IN_S) {
            shorts.put(hardest, BARELY_OHMS);
            powered.remove(hardest);
            replug();
            scene.ifPresent(s -> s.without(Set.of(hardest)));
        }
    }

    synchronized Twin.Injected flowing() {
        goOn();
        return flowing;
    }

    private void flow() {
        OptionalDouble everyS = mishaps.of(Mishaps.Kind.HICCUPS_EVERY_S);
        boolean hiccup = everyS.isPresent() && onS > HICCUP_S && onS % everyS.getAsDouble() < HICCUP_S;
        double over = onS > RUNS_AWAY_S ? 1 + mishaps.share(Mishaps.Kind.RUNS_AWAY_BY_SHARE) : 1;
        double volts = over * setting.volts() * (1 - mishaps.share(Mishaps.Kind.SAGS_BY_SHARE));
        double contact = mishaps.share(Mishaps.Kind.CONTACT_OHMS) + onS * mishaps.share(Mishaps.Kind.CREEPS_OHMS_PER_S);
        Twin.Injected before = flowing;
        if (!setting.on() || volts <= 0 || hiccup) {
            flowing = new Twin.Injected(0, 0);
        } else if (slipped) {
            flowing = new Twin.Injected(volts, 0);
        } else {
            flowing = twin.inject(net, volts, over * setting.limitAmps(), leadOhms + contact, state, faults());
        }
        if (flowing.amps() != before.amps()) {
            double amps = flowing.amps();
            scene.ifPresent(s -> s.flows(amps, nowS()));
        }
    }

    /**
     * Where the hot lead is set: a part's pad on a net.
     *
     * @return whether there is such a pad
     */
    synchronized boolean lead(String ref, String at) {
        boolean there = board.part(ref).filter(p -> p.touches(at)).isPresent()
                && board.net(at).filter(n -> n.kind() != NetKind.GROUND).isPresent();
        if (there) {
            goOn();
            net = at;
            slipped = false;
            scene.ifPresent(s -> s.feedAt(ref, at));
            flow();
        }
        return there;
    }

    /**
     * Where the meter's probe is put: a net, a part's pad that is not ground, {@code across} a part, or nothing, which lifts
     * it.
     *
     * @return whether there is such a place; where there is none it is in the air
     */
    synchronized boolean probe(String place) {
        across = Optional.of(place)
                .filter(p -> p.startsWith(ACROSS))
                .map(p -> p.substring(ACROSS.length()))
                .filter(ref -> board.part(ref).isPresent());
        if (across.isPresent()) {
            probed = "";
            probedPart = Optional.empty();
            return true;
        }
        // Of a part with several nets, the one that is fed.
        Optional<String> at = board.net(place).isPresent()
                ? Optional.of(place)
                : board.part(place)
                        .flatMap(part -> part.pins().stream()
                                .map(p -> p.net())
                                .filter(n -> !n.equals(ground))
                                .max(Comparator.comparing(n -> n.equals(net))));
        probed = at.orElse("");
        probedPart = at.isPresent() && board.part(place).isPresent() ? Optional.of(place) : Optional.empty();
        return at.isPresent() || place.isEmpty();
    }

    /** A part is taken off, and its fault with it. @return whether the board has it */
    synchronized boolean remove(String ref) {
        if (board.part(ref).isEmpty()) {
            return false;
        }
        state = state.without(ref);
        shorts.remove(ref);
        open.remove(ref);
        powered.remove(ref);
        replug();
        scene.ifPresent(s -> s.without(Set.of(ref)));
        flow();
        return true;
    }

    /** A good part is put in its place. @return whether the board has such a place */
    synchronized boolean fit(String ref) {
        if (board.part(ref).isEmpty()) {
            return false;
        }
        state = state.with(ref, true);
        shorts.remove(ref);
        open.remove(ref);
        powered.renew(ref);
        replug();
        flow();
        return true;
    }

    /** The charger goes in, or out. @return whether there is a port for it */
    synchronized boolean charger(boolean in) {
        if (!in) {
            plugged = Optional.empty();
            powered.unplug();
            return true;
        }
        return plugged.isPresent() || replugged();
    }

    private boolean replugged() {
        plugged = powered.plug().map(d -> new Plugged(d, clock.getAsLong()));
        return plugged.isPresent();
    }

    /** What was done to the board shows at once, as if the charger had been put in again. */
    private void replug() {
        if (plugged.isPresent()) {
            replugged();
        }
    }

    /** What goes through the inline meter: the charger's current where one is in, else the supply's. */
    synchronized Twin.Injected inline() {
        if (plugged.isEmpty()) {
            return flowing();
        }
        Plugged p = plugged.get();
        ChargerTrace.At at = ChargerTrace.of(p.drawn(), (clock.getAsLong() - p.sinceNanos()) / 1e9);
        return new Twin.Injected(at.volts(), at.amps());
    }

    /** What a display shows of it. */
    synchronized double noisy(double value, double least) {
        return value + random.nextGaussian() * Math.max(least, NOISE_SHARE * Math.abs(value));
    }

    /**
     * Volts at the meter's probe: across a part's own terminals, or, with the probe on the net, at the board's end of the
     * supply's leads. A probe in the air shows nothing.
     */
    synchronized double volts() {
        goOn();
        if (plugged.isPresent() && !setting.on()) {
            return noisy(powered.volts(probed), METER_NOISE_VOLTS);
        }
        if (across.isPresent()) {
            return droppedAcross(across.get()) + TIPS_VOLTS + METER_NOISE_VOLTS / 2 * random.nextGaussian();
        }
        boolean fed = setting.on() && !slipped && probed.equals(net);
        if (!fed) {
            return METER_NOISE_VOLTS * random.nextGaussian();
        }
        double volts = Math.max(0, flowing.volts() - flowing.amps() * leadOhms);
        if (probedPart.isPresent() && scene.isPresent()) {
            double siemens = shorts.values().stream().mapToDouble(r -> 1 / r).sum();
            double drop = scene.get().dropOhms(probedPart.get(), ground);
            volts = siemens > 0 ? flowing.amps() * (1 / siemens + drop) : volts;
        }
        return volts + METER_NOISE_VOLTS * random.nextGaussian();
    }

    private double droppedAcross(String ref) {
        boolean through = scene.map(s -> s.goesThrough(ref)).orElse(false);
        double ohms = board.part(ref)
                .map(p -> SEATED * p.resistanceOhms().orElse(CLOSED_OHMS))
                .orElse(0.0);
        return through ? flowing.amps() * ohms : 0;
    }

    /** Unpowered; a board that is fed gives nonsense, as it does. Empty for over-range. */
    synchronized OptionalDouble read(Meter.Mode mode) {
        if (probed.isEmpty()) {
            return OptionalDouble.empty();
        }
        if (setting.on() || plugged.isPresent()) {
            return OptionalDouble.of(Math.abs(noisy(mode == Meter.Mode.OHMS ? 1e3 : 0.5, 0.2)));
        }
        boolean inOhms = mode == Meter.Mode.OHMS;
        double value = inOhms ? powered.ohms(probed) : powered.diodeVolts(probed);
        double most = inOhms ? OVER_RANGE_OHMS : OVER_RANGE_DIODE_VOLTS;
        return Double.isFinite(value) && value < most
                ? OptionalDouble.of(Math.max(0, noisy(value, inOhms ? 0.003 : 2e-4)))
                : OptionalDouble.empty();
    }
}
