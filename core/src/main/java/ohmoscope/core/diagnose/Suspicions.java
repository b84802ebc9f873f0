package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/**
 * Every fault a board may come in with, with how often each is met: by kind of part, by place (first behind the port),
 * by what its voltage leaves in hand. The frequencies are the trade's, as ratios to one bypass capacitor.
 */
final class Suspicions {
    /** A shorted capacitor is mostly milliohms; ohms and more are rare. */
    private static final double[] CAPACITOR_OHMS = {0.006, 0.02, 0.07, 0.25, 0.9, 3, 11, 45};

    private static final double[] CAPACITOR_WEIGHTS = {0.12, 0.24, 0.22, 0.16, 0.11, 0.07, 0.05, 0.03};
    /** The same ladder, so that the circuit is solved once for both; a shorted chip is mostly ohms. */
    private static final double[] CHIP_OHMS = CAPACITOR_OHMS;

    private static final double[] CHIP_WEIGHTS = {0.01, 0.06, 0.14, 0.22, 0.24, 0.17, 0.1, 0.06};
    private static final double[] LEAK_OHMS = {150, 600, 2_500};
    private static final double[] GATE_LEAK_OHMS = ladder(30, 100_000, 5);
    private static final double[] FET_LEAK_OHMS = ladder(700, 400_000, 24);

    private static final double CAPACITOR = 1;
    private static final double SIGNAL_CAPACITOR = 0.25;
    private static final double CHIP_SUPPLY = 0.9;
    private static final double CHIP_OTHER_RAIL = 0.35;
    private static final double CHIP_SIGNAL = 0.05;
    /** A chip that takes several of its nets down together. */
    private static final double CHIP_SEVERAL = 0.3;

    /** One new chip in some is no better than the old one, or not well soldered. */
    private static final double AS_FITTED = 0.12;

    private static final double CLAMP = 0.8;
    private static final double SWITCH_SHORT = 0.4;
    private static final double SWITCH_OPEN = 0.35;
    private static final double SMALL_FET_LEAK = 0.6;
    private static final double SWITCH_LEAK = 0.12;
    /** A gate that was punched through leaks to its source or drain. */
    private static final double GATE_LEAK = 0.3;

    private static final double FUSE_OPEN = 1.2;
    private static final double SMALL_RESISTOR_OPEN = 1.2;
    private static final double RESISTOR_OPEN = 0.4;
    private static final double COIL_OPEN = 0.08;
    private static final double PORT = 2.5;
    private static final double PERIPHERAL = 0.2;
    private static final double BATTERY = 0.5;
    private static final double NO_ENABLE = 0.35;
    private static final double CONTROLLER = 0.7;
    private static final double LOAD_DEAD = 0.12;
    private static final double NONE = 0.5;
    private static final double UNPLUGGED = 0.5;
    private static final double PAIRED = 0.05;
    /** Parts on the port's own nets take what comes in. */
    private static final double BEHIND_PORT = 1.4;
    /** A capacitor rated for less than this many times its rail's voltage is near its end. */
    private static final double RATING_IN_HAND = 1.3;

    private static final double NEAR_ITS_RATING = 1.4;
    private static final double LEAKS = 0.15;
    /** A series resistor up to this is small enough to be a supply's own fuse. */
    private static final double SMALL_RESISTOR_OHMS = 200;

    private final BoardIndex board;
    private final PowerTree tree;
    private final List<Suspicion> all = new ArrayList<>();
    private final Set<String> portNets = new LinkedHashSet<>();

    private Suspicions(BoardIndex board, PowerTree tree) {
        this.board = board;
        this.tree = tree;
        tree.inputs().forEach(p -> portNets.addAll(board.powerNets(p)));
    }

    static List<Suspicion> of(BoardIndex board, PowerTree tree) {
        Suspicions suspicions = new Suspicions(board, tree);
        board.parts().forEach(suspicions::part);
        suspicions.enables();
        suspicions.all.add(Suspicion.unseen(Code.NONE, "", NONE));
        return suspicions.all;
    }

    /**
     * A dead chip bridges several of its own lines at once: one suspicion for each chip on which at least two nets meet that
     * read low, with all of them.
     */
    static List<Suspicion> chipsWithLines(BoardIndex board, Set<String> low) {
        List<Suspicion> chips = new ArrayList<>();
        if (low.size() < 2 || !board.isGround(board.ground())) {
            return chips;
        }
        for (Part part : board.parts()) {
            if (part.kind() != PartKind.IC) {
                continue;
            }
            List<String> lines = part.pins().stream()
                    .map(Pin::net)
                    .distinct()
                    .filter(low::contains)
                    .filter(n -> !board.isGround(n))
                    .toList();
            if (lines.size() < 2) {
                continue;
            }
            List<Variant> variants = new ArrayList<>();
            for (int i = 0; i < CHIP_OHMS.length; i++) {
                double ohms = CHIP_OHMS[i];
                List<Fault> all = lines.stream()
                        .map(n -> (Fault) new Bridge(part.ref(), n, board.ground(), ohms))
                        .toList();
                variants.add(new Variant(all, CHIP_WEIGHTS[i]));
            }
            chips.add(new Suspicion(Code.SHORT, part.ref(), CHIP_SEVERAL, variants));
        }
        return chips;
    }

    /**
     * A part that was put in: a dud, joints that do not hold, solder between its pins.
     *
     * @param down nets that read low at some time: the part that was there before may have shorted those of its own
     */
    static List<Suspicion> asFitted(BoardIndex board, PowerTree tree, Part part, Set<String> down) {
        List<Fault> before = new ArrayList<>();
        part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> down.contains(n) && !board.isGround(n) && board.isGround(board.ground()))
                .forEach(n -> {
                    for (double ohms : CHIP_OHMS) {
                        before.add(new Bridge(part.ref(), n, board.ground(), ohms));
                    }
                });
        return asFitted(board, tree, part).stream()
                .map(s -> new Suspicion(s.code(), s.target(), s.prior(), beside(s.variants(), before)))
                .toList();
    }

    /** Each form by itself, and after each fault of the part that was there before. */
    private static List<Variant> beside(List<Variant> fitted, List<Fault> before) {
        List<Variant> all = new ArrayList<>();
        for (Variant variant : fitted) {
            double share = variant.weight() / (before.size() + 1);
            all.add(new Variant(variant.faults(), share));
            for (Fault fault : before) {
                List<Fault> both = new ArrayList<>(variant.faults());
                both.add(fault);
                all.add(new Variant(both, share));
            }
        }
        return all;
    }

    private static List<Suspicion> asFitted(BoardIndex board, PowerTree tree, Part part) {
        List<Suspicion> all = new ArrayList<>();
        List<String> nets = part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> !board.isGround(n))
                .toList();
        boolean port = tree.isInput(part.ref());
        if (board.isGround(board.ground())) {
            List<Variant> bridges = new ArrayList<>();
            for (String net : nets) {
                for (int i = 0; i < CHIP_OHMS.length; i++) {
                    bridges.add(new Variant(
                            List.of(new Bridge(part.ref(), net, board.ground(), CHIP_OHMS[i], true)),
                            CHIP_WEIGHTS[i] / nets.size()));
                }
            }
            if (!bridges.isEmpty()) {
                all.add(new Suspicion(port ? Code.DAMAGED_PORT : Code.SHORT, part.ref(), AS_FITTED, bridges));
            }
        }
        switch (part.kind()) {
            case IC ->
                all.add(new Suspicion(
                        Code.DEAD_CONTROLLER,
                        part.ref(),
                        AS_FITTED,
                        List.of(new Variant(List.of(new Dead(part.ref(), true)), 1))));
            case CAPACITOR -> {}
            default ->
                all.add(new Suspicion(
                        port ? Code.DAMAGED_PORT : Code.OPEN,
                        part.ref(),
                        AS_FITTED,
                        List.of(new Variant(List.of(new Open(part.ref(), Open.NOTHING_OHMS, true)), 1))));
        }
        return all;
    }

    /** A place that somebody found empty. */
    static Suspicion notFitted(String ref) {
        Variant empty = new Variant(List.of(new Open(ref)), 1);
        return new Suspicion(Code.NOT_FITTED, ref, UNPLUGGED, List.of(empty));
    }

    private void part(Part part) {
        switch (part.kind()) {
            case CAPACITOR -> capacitor(part);
            case RESISTOR -> resistor(part);
            case FUSE -> open(part, FUSE_OPEN, false);
            case INDUCTOR, FERRITE -> open(part, COIL_OPEN, false);
            case DIODE, TVS -> diode(part);
            case MOSFET, TRANSISTOR -> transistor(part);
            case IC -> chip(part);
            case CONNECTOR -> connector(part);
            default -> {}
        }
        if (part.pairedWith().isPresent()) {
            all.add(Suspicion.unseen(Code.PAIRED_PART, part.ref(), PAIRED));
        }
    }

    private void capacitor(Part part) {
        Optional<String[]> pair = twoNets(part);
        if (pair.isEmpty()) {
            return;
        }
        String live = pair.get()[0];
        boolean power = kind(live) == NetKind.POWER;
        double prior = power ? CAPACITOR : SIGNAL_CAPACITOR;
        if (portNets.contains(live)) {
            prior *= BEHIND_PORT;
        }
        double nominal =
                board.net(live).flatMap(n -> optional(n.nominalVolts())).orElse(0.0);
        if (part.voltsRated().isPresent() && part.voltsRated().getAsDouble() < RATING_IN_HAND * nominal) {
            prior *= NEAR_ITS_RATING;
        }
        bridge(Code.SHORT, part, live, pair.get()[1], prior, CAPACITOR_OHMS, CAPACITOR_WEIGHTS);
        bridge(Code.LEAKY, part, live, pair.get()[1], prior * LEAKS, LEAK_OHMS, even(LEAK_OHMS.length));
    }

    private void resistor(Part part) {
        boolean series = board.role(part) == Role.SERIES;
        double ohms = part.resistanceOhms().orElse(PartValue.ohms(part.value()).orElse(1e6));
        open(part, series && ohms < SMALL_RESISTOR_OHMS ? SMALL_RESISTOR_OPEN : RESISTOR_OPEN, true);
    }

    /** An open part, or for a resistor also one that has risen. */
    private void open(Part part, double prior, boolean rises) {
        double weightOpen = rises ? 0.8 : 1;
        List<Variant> variants = new ArrayList<>();
        variants.add(new Variant(List.of(new Open(part.ref())), weightOpen));
        if (rises) {
            double[] risen = {300, 2_000, 15_000, 200_000};
            for (double ohms : risen) {
                variants.add(new Variant(List.of(new Open(part.ref(), ohms)), 0.2 / risen.length));
            }
        }
        boolean behindPort = part.pins().stream().anyMatch(p -> portNets.contains(p.net()));
        all.add(new Suspicion(Code.OPEN, part.ref(), prior * (behindPort ? BEHIND_PORT : 1), variants));
    }

    private void diode(Part part) {
        twoNets(part).ifPresent(pair -> {
            double prior = CLAMP * (portNets.contains(pair[0]) ? BEHIND_PORT : 1);
            bridge(Code.SHORT, part, pair[0], pair[1], prior, CAPACITOR_OHMS, CAPACITOR_WEIGHTS);
            if (!board.isGround(pair[1])) {
                open(part, COIL_OPEN, false);
            }
        });
    }

    private void transistor(Part part) {
        List<String> nets = part.pins().stream().map(Pin::net).distinct().toList();
        Optional<String> gate = part.gate()
                .map(g -> g.net())
                .or(() -> part.pins().stream()
                        .filter(p -> p.name().equalsIgnoreCase("G") || p.name().equalsIgnoreCase("B"))
                        .map(Pin::net)
                        .findFirst());
        List<String> channel = nets.stream()
                .filter(n -> gate.map(g -> !g.equals(n)).orElse(true))
                .toList();
        if (channel.size() < 2) {
            return;
        }
        String a = board.isGround(channel.get(0)) ? channel.get(1) : channel.get(0);
        String b = board.isGround(channel.get(0)) ? channel.get(0) : channel.get(1);
        boolean small = board.role(part) != Role.PASS;
        bridge(Code.SHORT, part, a, b, SWITCH_SHORT, CHIP_OHMS, CHIP_WEIGHTS);
        bridge(Code.LEAKY, part, a, b, small ? SMALL_FET_LEAK : SWITCH_LEAK, FET_LEAK_OHMS, even(FET_LEAK_OHMS.length));
        gate.filter(g -> board.net(g).orElseThrow().kind() == NetKind.SIGNAL).ifPresent(g -> {
            for (String end : List.of(a, b)) {
                if (!board.isGround(end) || small) {
                    bridge(
                            Code.LEAKY,
                            part,
                            g,
                            end,
                            small ? SMALL_FET_LEAK / 6 : GATE_LEAK / 2,
                            GATE_LEAK_OHMS,
                            even(GATE_LEAK_OHMS.length));
                }
            }
        });
        if (!small) {
            channel.stream()
                    .filter(n -> !board.isGround(n))
                    .findFirst()
                    .ifPresent(n -> ground().ifPresent(
                                    g -> bridge(Code.SHORT, part, n, g, SWITCH_SHORT / 2, CHIP_OHMS, CHIP_WEIGHTS)));
        }
        open(part, small ? RESISTOR_OPEN / 2 : SWITCH_OPEN, false);
    }

    private void chip(Part part) {
        Optional<String> ground = ground();
        List<String> rails = board.powerNets(part);
        for (String net : part.pins().stream().map(Pin::net).distinct().toList()) {
            if (board.isGround(net) || ground.isEmpty()) {
                continue;
            }
            boolean power = rails.contains(net);
            boolean made = part.supplies().stream().anyMatch(s -> s.out().equals(net));
            double prior = power ? made ? CHIP_OTHER_RAIL : CHIP_SUPPLY : CHIP_SIGNAL;
            bridge(Code.SHORT, part, net, ground.get(), prior, CHIP_OHMS, CHIP_WEIGHTS);
            if (power) {
                bridge(Code.LEAKY, part, net, ground.get(), prior * LEAKS, LEAK_OHMS, even(LEAK_OHMS.length));
            }
        }
        for (Supply supply : part.supplies()) {
            bridge(Code.SHORT, part, supply.in(), supply.out(), SWITCH_SHORT / 3, CHIP_OHMS, CHIP_WEIGHTS);
        }
        Role role = board.role(part);
        if (role == Role.PASS) {
            open(part, SWITCH_OPEN, false);
        } else {
            boolean controls = role == Role.REGULATOR || role == Role.CHARGER || role == Role.PORT_CONTROLLER;
            List<Variant> dead = List.of(new Variant(List.of(new Dead(part.ref())), 1));
            all.add(new Suspicion(Code.DEAD_CONTROLLER, part.ref(), controls ? CONTROLLER : LOAD_DEAD, dead));
        }
    }

    private void connector(Part part) {
        Optional<String> ground = ground();
        if (ground.isEmpty()) {
            return;
        }
        List<String> rails = board.powerNets(part);
        if (tree.isBattery(part.ref())) {
            all.add(Suspicion.unseen(Code.BATTERY, part.ref(), BATTERY));
        } else if (tree.isInput(part.ref())) {
            all.add(port(part, rails, ground.get()));
        } else {
            for (String rail : rails) {
                bridge(Code.SHORT, part, rail, ground.get(), PERIPHERAL, CHIP_OHMS, CHIP_WEIGHTS);
            }
            all.add(Suspicion.unseen(Code.NOT_FITTED, part.ref(), UNPLUGGED));
        }
    }

    /** A port may bridge its supply to ground, a line to ground or to the supply, or make no contact. */
    private Suspicion port(Part part, List<String> rails, String ground) {
        List<Variant> variants = new ArrayList<>();
        double[] ohms = {0.03, 0.3, 3};
        for (String rail : rails) {
            for (double r : ohms) {
                variants.add(new Variant(List.of(new Bridge(part.ref(), rail, ground, r)), 0.3 / rails.size() / 3));
            }
        }
        List<String> lines = part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> kind(n) == NetKind.SIGNAL)
                .toList();
        for (String line : lines) {
            for (double r : ohms) {
                variants.add(new Variant(List.of(new Bridge(part.ref(), line, ground, r)), 0.3 / lines.size() / 3));
            }
        }
        double left = 1 - variants.stream().mapToDouble(Variant::weight).sum();
        variants.add(new Variant(List.of(new Open(part.ref())), left * 0.5));
        variants.add(new Variant(List.of(), left * 0.5));
        return new Suspicion(Code.DAMAGED_PORT, part.ref(), PORT, variants);
    }

    private void enables() {
        Set<String> nets = new LinkedHashSet<>();
        board.parts().forEach(p -> p.supplies().forEach(s -> s.enable().ifPresent(nets::add)));
        nets.stream()
                .filter(n -> kind(n) == NetKind.SIGNAL)
                .forEach(n -> all.add(new Suspicion(
                        Code.NO_ENABLE, n, NO_ENABLE, List.of(new Variant(List.of(new Inactive(n)), 1)))));
    }

    private void bridge(Code code, Part part, String a, String b, double prior, double[] ohms, double[] weights) {
        List<Variant> variants = new ArrayList<>();
        for (int i = 0; i < ohms.length; i++) {
            List<Fault> faults = List.of(new Bridge(part.ref(), a, b, ohms[i]));
            variants.add(new Variant(faults, weights[i]));
        }
        all.add(new Suspicion(code, part.ref(), prior, variants));
    }

    /** A two-net part's nets, the one that is not ground first. */
    private Optional<String[]> twoNets(Part part) {
        List<String> nets = part.pins().stream().map(Pin::net).distinct().toList();
        if (nets.size() != 2 || board.isGround(nets.get(0)) && board.isGround(nets.get(1))) {
            return Optional.empty();
        }
        boolean firstIsGround = board.isGround(nets.get(0));
        return Optional.of(new String[] {nets.get(firstIsGround ? 1 : 0), nets.get(firstIsGround ? 0 : 1)});
    }

    private Optional<String> ground() {
        return Optional.of(board.ground()).filter(board::isGround);
    }

    private NetKind kind(String net) {
        return board.net(net).orElseThrow().kind();
    }

    private static Optional<Double> optional(OptionalDouble value) {
        return value.isPresent() ? Optional.of(value.getAsDouble()) : Optional.empty();
    }

    private static double[] even(int count) {
        double[] weights = new double[count];
        Arrays.fill(weights, 1.0 / count);
        return weights;
    }

    private static double[] ladder(double low, double high, int count) {
        double[] rungs = new double[count];
        for (int i = 0; i < count; i++) {
            rungs[i] = low * Math.pow(high / low, i / (count - 1.0));
        }
        return rungs;
    }
}
