package ohmoscope.trials.hunt;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.bench.truth.Hidden;
import ohmoscope.bench.truth.Hidden.Broken;
import ohmoscope.bench.truth.Hidden.Defect;
import ohmoscope.bench.truth.TrueBoard;
import ohmoscope.bench.truth.TrueBoard.Fed;
import ohmoscope.bench.truth.TrueBoard.Running;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Storey;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.evidence.Observation;
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

/**
 * Does what a step says on a bench with a meter's errors, contacts, looks that miss and a camera that has a noise floor,
 * and writes down what it shows. He takes nobody's word for the fault and knows nothing of it.
 */
final class Technician {
    /** A number that is copied wrong, or a probe that slipped. */
    private static final double MISREAD = 0.02;

    private static final double SEEN_BY_CAMERA_WATTS = 0.012;
    private static final double SEEN_FROM_BEHIND_WATTS = 0.08;
    private static final double LOOK_MISSES = 0.2;
    private static final double WARMEST_IS_A_NEIGHBOUR = 0.05;
    private static final double NEIGHBOUR_MM = 3;
    private static final double OVER_RANGE_DIODE = 2.2;
    private static final double OVER_RANGE_OHMS = 40e6;

    private final BoardIndex board;
    private final PowerTree tree;
    private final Hidden hidden;
    private final TrueBoard bench;
    private final Random random;
    private final double leadOhms;
    private final List<Observation> entries = new ArrayList<>();
    private Optional<Inject> feeding = Optional.empty();
    private static final double REPLACING_MINUTES = 15;
    private static final double FITTING_MINUTES = 10;
    private static final double SEPARATING_MINUTES = 20;
    private static final double JOINING_MINUTES = 20;

    private double minutes;
    private OptionalDouble minutesToAct = OptionalDouble.empty();
    private int wrongRemovals;
    private int overstress;
    private boolean powered;

    Technician(BoardIndex board, Hidden hidden, Random random) {
        this.board = board;
        this.tree = PowerTree.of(board);
        this.hidden = hidden;
        this.bench = new TrueBoard(board, hidden, random);
        this.random = random;
        this.leadOhms = 0.03 + 0.09 * random.nextDouble();
        receive();
    }

    /** Every job comes with a word on how the device behaves, and the battery is taken off first. */
    private void receive() {
        entries.add(new Run(seq(), RunFinding.DEAD, Optional.empty()));
        change(ChangeAction.DISCONNECTED, Change.BATTERY, false);
        bench.battery(false);
    }

    private int seq() {
        return entries.size() + 1;
    }

    List<Observation> entries() {
        return List.copyOf(entries);
    }

    double minutes() {
        return minutes;
    }

    /** Until the first part was heated. */
    OptionalDouble minutesToAct() {
        return minutesToAct;
    }

    int wrongRemovals() {
        return wrongRemovals;
    }

    int overstress() {
        return overstress;
    }

    boolean well() {
        return bench.well();
    }

    TrueBoard bench() {
        return bench;
    }

    /** @return false where the step cannot be done as it is written */
    boolean does(Step step) {
        String target = step.target().orElse("");
        return switch (step.action()) {
            case LOOK -> look(target);
            case READ -> read(step, target);
            case INJECT ->
                inject(target, step.setVolts().orElse(1), step.limitAmps().orElse(2));
            case IMAGE, FLIP -> image();
            case REMOVE -> remove(target);
            case REPLACE -> replace(target);
            case FIT -> fit(target);
            case DISCONNECT -> disconnect(target);
            case SEPARATE -> separate(target);
            case CHECK_FITTED -> connect(target);
            case POWER -> power();
            case COOL -> spend(3);
            case LEAVE_OFF, PROVE, COMPARE_GOOD_BOARD, STOP -> spend(1);
        };
    }

    private boolean spend(double more) {
        minutes += more;
        return true;
    }

    private boolean look(String target) {
        if (board.part(target).isEmpty() || !bench.onBench(target)) {
            return false;
        }
        LookFinding found = LookFinding.CLEAN;
        Part part = board.part(target).get();
        boolean guilty = bench.wrong(target);
        if (guilty && random.nextDouble() > LOOK_MISSES) {
            boolean shows = random.nextDouble()
                    < switch (part.kind()) {
                        case CONNECTOR -> 0.8;
                        case FUSE, RESISTOR -> 0.4;
                        case CAPACITOR -> 0.35;
                        default -> 0.25;
                    };
            if (shows) {
                boolean touching =
                        hidden.defects().stream().anyMatch(d -> d.ref().equals(target) && !(d instanceof Broken));
                found = part.kind() == PartKind.CONNECTOR
                        ? touching ? LookFinding.PINS_TOUCHING : LookFinding.PIN_BENT
                        : random.nextBoolean() ? LookFinding.BURNT : LookFinding.CRACKED;
            }
        }
        entries.add(new Look(seq(), target, found));
        return spend(0.5);
    }

    private boolean read(Step step, String target) {
        boolean across = step.probe().map(Step.Probe::across).orElse(false)
                || board.net(target).isEmpty() && board.part(target).isPresent();
        Optional<PowerSource> from = step.probe().flatMap(Step.Probe::power);
        Optional<ReadMode> mode = step.probe().flatMap(Step.Probe::mode);
        if (across) {
            return across(target, mode.orElse(ReadMode.OHMS));
        }
        if (board.net(target).isEmpty() || board.isGround(target)) {
            return false;
        }
        if (from.isPresent() || mode.filter(m -> m == ReadMode.VOLTS).isPresent()) {
            return volts(target);
        }
        Optional<Expectation> expect = board.net(target).flatMap(Net::expect);
        ReadMode usual = expect.filter(e -> e.diodeVolts().isEmpty() && e.ohms().isPresent())
                        .isPresent()
                ? ReadMode.OHMS
                : ReadMode.DIODE;
        reading(mode.orElse(usual), target, board.ground(), Optional.empty());
        return spend(1);
    }

    private boolean across(String ref, ReadMode mode) {
        Optional<Part> part = board.part(ref);
        List<String> nets = part.stream()
                .flatMap(p -> p.pins().stream())
                .map(Pin::net)
                .distinct()
                .toList();
        if (nets.size() < 2 || !bench.has(ref)) {
            return false;
        }
        reading(mode == ReadMode.VOLTS ? ReadMode.OHMS : mode, nets.get(0), nets.get(1), Optional.of(ref));
        return spend(1);
    }

    private void reading(ReadMode mode, String net, String to, Optional<String> across) {
        boolean diode = mode == ReadMode.DIODE;
        double contact = random.nextDouble() < 0.9 ? 0.02 + 0.1 * random.nextDouble() : 0.5 * random.nextDouble();
        double shown = diode
                ? diode(net, to, across.isPresent()) * (1 + 0.01 * random.nextGaussian())
                        + contact * 1e-3
                        + 0.001 * random.nextGaussian()
                : bench.ohms(net, to) * (1 + 0.015 * random.nextGaussian()) + contact + 0.05 * random.nextDouble();
        if (random.nextDouble() < MISREAD) {
            shown *= Math.exp(1.2 * random.nextGaussian());
        }
        boolean over = shown > (diode ? OVER_RANGE_DIODE : OVER_RANGE_OHMS);
        double rounded = diode ? Math.round(Math.max(0, shown) * 1000) / 1000.0 : three(Math.max(0, shown));
        entries.add(new Read(
                seq(),
                mode,
                across.isPresent() ? Optional.empty() : Optional.of(net),
                Optional.empty(),
                Optional.empty(),
                across,
                Optional.empty(),
                over ? OptionalDouble.empty() : OptionalDouble.of(rounded),
                Optional.empty(),
                Optional.empty()));
    }

    /** Across a part the leads are turned until it conducts. */
    private double diode(String net, String to, boolean turned) {
        double volts = bench.diode(net, to);
        return turned ? Math.min(volts, bench.diode(to, net)) : volts;
    }

    private static double three(double value) {
        double unit = Math.pow(10, Math.floor(Math.log10(Math.max(value, 0.01))) - 2);
        return Math.round(value / unit) * unit;
    }

    private boolean volts(String net) {
        Optional<String> port = port();
        if (port.isEmpty()) {
            return false;
        }
        Running running = bench.power(port.get(), true);
        harm(running);
        double shown = running.volts().getOrDefault(net, 0.0) * (1 + 0.005 * random.nextGaussian())
                + 0.02 * Math.abs(random.nextGaussian());
        entries.add(new Read(
                seq(),
                ReadMode.VOLTS,
                Optional.of(net),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(Math.round(shown * 100) / 100.0),
                Optional.empty(),
                Optional.of(PowerSource.CHARGER)));
        minutes += powered ? 1 : 2;
        powered = true;
        return true;
    }

    private Optional<String> port() {
        return tree.inputs().stream().map(Part::ref).filter(bench::has).findFirst();
    }

    /** A source held into a short cooks what lies on the way. */
    private void harm(Running running) {
        if (running.collapsed() && powered) {
            overstress++;
        }
    }

    private boolean power() {
        Optional<String> port = port();
        if (port.isEmpty()) {
            return false;
        }
        rejoin();
        Running running = bench.power(port.get(), true);
        harm(running);
        double volts = running.portVolts() * (1 + 0.003 * random.nextGaussian());
        Optional<TraceShape> shape = running.collapsed()
                ? Optional.of(TraceShape.COLLAPSE)
                : running.hiccup() ? Optional.of(TraceShape.PULSING) : Optional.of(TraceShape.FLAT);
        entries.add(new Power(
                seq(),
                PowerSource.CHARGER,
                port,
                Optional.empty(),
                Optional.empty(),
                Optional.of(bench.battery() ? Observation.BatteryState.IN : Observation.BatteryState.OUT),
                OptionalDouble.of(Math.round(volts * 100) / 100.0),
                OptionalDouble.of(Math.round(running.amps() * 1000) / 1000.0),
                DeviceState.ON,
                shape,
                Optional.empty()));
        powered = true;
        sees(running.boots());
        return spend(2);
    }

    /** Who powers a device sees whether it starts, and writes it down where something was mended since he last did. */
    private void sees(boolean starts) {
        boolean news = entries.stream()
                .filter(o ->
                        o instanceof Run || o instanceof Change c && c.action().usuallyHot())
                .reduce((a, b) -> b)
                .map(o -> o instanceof Change)
                .orElse(true);
        if (news) {
            entries.add(new Run(seq(), starts ? RunFinding.BOOTS : RunFinding.DEAD, Optional.empty()));
        }
    }

    private boolean inject(String net, double setVolts, double limitAmps) {
        if (board.net(net).isEmpty() || board.isGround(net)) {
            return false;
        }
        double nominal = board.net(net).get().nominalVolts().orElse(1.2);
        if (bench.battery() || setVolts > 1.1 * Math.max(1.0, nominal)) {
            overstress++;
        }
        Fed fed = bench.inject(net, setVolts, limitAmps, leadOhms);
        Inject entry = new Inject(
                seq(),
                net,
                Optional.empty(),
                OptionalDouble.of(setVolts),
                OptionalDouble.of(limitAmps),
                OptionalDouble.of(Math.round((fed.volts() + 0.002 * random.nextGaussian()) * 1000) / 1000.0),
                OptionalDouble.of(Math.max(
                        0, Math.round((fed.amps() + 0.002 * random.nextGaussian()) * 1000) / 1000.0)),
                random.nextBoolean() ? OptionalDouble.of(Math.round(leadOhms * 1000) / 1000.0) : OptionalDouble.empty(),
                Optional.empty(),
                Optional.of(PowerSource.BENCH));
        entries.add(entry);
        feeding = Optional.of(entry);
        return spend(4);
    }

    private boolean image() {
        if (feeding.isEmpty()) {
            return false;
        }
        Inject last = feeding.get();
        Fed fed = bench.inject(
                last.net(), last.setVolts().getAsDouble(), last.limitAmps().getAsDouble(), leadOhms);
        Optional<Map.Entry<String, Double>> hottest =
                fed.faultWatts().entrySet().stream().max(Map.Entry.comparingByValue());
        double watts = hottest.map(Map.Entry::getValue).orElse(0.0);
        Optional<Part> part = hottest.flatMap(h -> board.part(h.getKey()));
        boolean seen = part.isPresent() && watts > SEEN_BY_CAMERA_WATTS;
        if (!seen) {
            entries.add(new Warm(
                    seq(),
                    Optional.empty(),
                    OptionalDouble.empty(),
                    OptionalDouble.empty(),
                    Optional.empty(),
                    Optional.of(WarmthMeans.CAMERA),
                    OptionalDouble.empty(),
                    OptionalDouble.empty(),
                    true));
            return spend(3);
        }
        Part warmest = part.get();
        if (random.nextDouble() < WARMEST_IS_A_NEIGHBOUR) {
            warmest = neighbour(warmest).orElse(warmest);
        }
        boolean broad = watts < SEEN_FROM_BEHIND_WATTS && random.nextDouble() < 0.1;
        entries.add(new Warm(
                seq(),
                broad ? Optional.empty() : Optional.of(warmest.ref()),
                broad ? OptionalDouble.of(part.get().xMm() + random.nextGaussian()) : OptionalDouble.empty(),
                broad ? OptionalDouble.of(part.get().yMm() + random.nextGaussian()) : OptionalDouble.empty(),
                Optional.of(warmest.side()),
                Optional.of(WarmthMeans.CAMERA),
                OptionalDouble.of(Math.round(watts * 350) / 10.0),
                OptionalDouble.of(broad ? 8 : 2.5),
                false));
        return spend(3);
    }

    private Optional<Part> neighbour(Part part) {
        return board.parts().stream()
                .filter(p -> !p.ref().equals(part.ref()) && p.side() == part.side() && bench.has(p.ref()))
                .filter(p -> distance(p, part) < NEIGHBOUR_MM)
                .min(Comparator.comparingDouble(p -> distance(p, part)));
    }

    private static double distance(Part a, Part b) {
        return Math.hypot(a.xMm() - b.xMm(), a.yMm() - b.yMm());
    }

    private void change(ChangeAction action, String target, boolean heat) {
        entries.add(new Change(seq(), action, target, heat));
        powered = false;
        feeding = Optional.empty();
    }

    private boolean remove(String target) {
        if (board.part(target).isEmpty() || !bench.onBench(target)) {
            return false;
        }
        count(target);
        bench.remove(target);
        change(ChangeAction.REMOVED, target, true);
        return spend(8);
    }

    /** What is off already is not taken off again: the new one is fitted. */
    private boolean replace(String target) {
        if (board.part(target).isEmpty()) {
            return false;
        }
        boolean there = bench.onBench(target);
        if (there) {
            count(target);
        }
        bench.renew(target);
        change(ChangeAction.REPLACED, target, true);
        return spend(there ? REPLACING_MINUTES : FITTING_MINUTES);
    }

    private void count(String target) {
        if (minutesToAct.isEmpty()) {
            minutesToAct = OptionalDouble.of(minutes);
        }
        if (!hidden.guilty(target)) {
            wrongRemovals++;
        }
    }

    private boolean fit(String target) {
        if (bench.onBench(target)) {
            return connect(target);
        }
        if (hidden.guilty(target)) {
            bench.renew(target);
        } else {
            bench.fitBack(target);
        }
        change(ChangeAction.FITTED, target, true);
        return spend(FITTING_MINUTES);
    }

    /** Lifts one half of a two-storey board off its pins. */
    private boolean separate(String target) {
        if (bench.away().isPresent()) {
            return false;
        }
        bench.part(Optional.of(target.endsWith("lower") ? Storey.LOWER : Storey.UPPER));
        change(ChangeAction.SEPARATED, target, false);
        return spend(SEPARATING_MINUTES);
    }

    /** The halves go together before the board can run. */
    private void rejoin() {
        bench.away().ifPresent(half -> {
            bench.part(Optional.empty());
            change(ChangeAction.CONNECTED, Change.half(half), false);
            spend(JOINING_MINUTES);
        });
    }

    private boolean disconnect(String target) {
        if (target.equals(Change.BATTERY) || tree.isBattery(target)) {
            bench.battery(false);
        } else if (board.part(target).isPresent()) {
            bench.unplug(target);
        } else {
            return false;
        }
        change(ChangeAction.DISCONNECTED, target, false);
        return spend(0.5);
    }

    private boolean connect(String target) {
        if (target.startsWith(Change.STACK)) {
            rejoin();
            return true;
        }
        if (target.equals(Change.BATTERY) || tree.isBattery(target)) {
            bench.battery(true);
        } else if (board.part(target).isPresent()) {
            bench.plug(target);
        } else {
            return false;
        }
        change(ChangeAction.CONNECTED, target, false);
        return spend(0.5);
    }

    /** Puts the device together and starts it, as one does before it is handed back. */
    void tries() {
        rejoin();
        List.copyOf(bench.unplugged()).forEach(this::connect);
        entries.add(new Run(seq(), bench.well() ? RunFinding.BOOTS : RunFinding.DEAD, Optional.empty()));
        minutes += 3;
    }

    /** The defects' parts, for those who count. */
    List<String> culprits() {
        return hidden.defects().stream().map(Defect::ref).distinct().toList();
    }
}
