package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.PoweredTwin;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.circuit.PoweredTwin.Powered;
import ohmoscope.core.circuit.Probed;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.circuit.Twin.Branch;
import ohmoscope.core.circuit.Twin.Injected;
import ohmoscope.core.circuit.Twin.Likeness;
import ohmoscope.core.diagnose.Feeding.Fed;
import ohmoscope.core.reading.Says;

/**
 * The twin's answers, each worked out once. Faults that the question cannot see are left out before asking, and faults
 * that are the same to the circuit count as one, so that hundreds of hypotheses need few solves.
 */
final class Predictor {
    /** Where a bridge is does not matter to the circuit once it is known to be there. */
    static final String SOMEWHERE = "";

    /** Nets whose volts are worked out in all: some seconds' worth. A board of 250 parts and 60 entries needs a fiftieth. */
    private static final long MOST_NETS = 5_000_000;

    /** How often switches and converters are set before a powered board settles, as a rule. */
    private static final int POWERED_ROUNDS = 4;

    private final BoardIndex board;
    private final Twin twin;
    private final PoweredTwin powered;
    private final Map<BoardState, Integer> states = new HashMap<>();
    private final Map<Object, Band> bands = new HashMap<>();
    private final Map<Between, Probed> probed = new HashMap<>();
    private final Map<String, Optional<Branch>> branches = new HashMap<>();
    private final Map<Alike, String> firstAlike = new HashMap<>();
    private final Map<Object, Injected> injections = new HashMap<>();
    private final Map<Object, Powered> poweredStates = new HashMap<>();
    private final Map<Reached, Set<String>> reaches = new HashMap<>();
    private final List<Map<String, Set<String>>> islands = new ArrayList<>();
    /** The same state is asked about again and again; its sets need not be hashed each time. */
    private BoardState lastState = BoardState.WHOLE;

    private int lastId = -1;
    private final Set<String> half = new HashSet<>();
    private final long mostNets;
    private long spentNets;

    private record Asked(Object what, int state, List<Fault> faults) {}

    private record Between(String net, String to, Meter.Mode mode, int state) {}

    private record Alike(Likeness like, String net, String to, int state, boolean asFitted) {}

    private record Reached(List<Input> inputs, int state) {}

    private record Feeding(List<Input> inputs, Map<String, Double> known) {}

    private record Injection(String net, double volts, double amps, double leadOhms) {}

    Predictor(BoardIndex board, Twin twin) {
        this(board, twin, MOST_NETS);
    }

    /** @param mostNets whose volts may be worked out in all */
    Predictor(BoardIndex board, Twin twin, long mostNets) {
        this.mostNets = mostNets;
        this.board = board;
        this.twin = twin;
        this.powered = new PoweredTwin(twin);
    }

    /** Where a net was measured to stand at part of its volts, a fault's own ohms decide, not their order. */
    Predictor standingHalf(Stream<Sign> signs) {
        signs.filter(s -> s.says() == Says.HALF).map(Sign::net).forEach(half::add);
        return this;
    }

    Band read(Meter meter, BoardState state, List<Fault> faults) {
        List<Fault> seen = unpowered(meter.net(), meter.to(), meter.mode(), state, faults);
        return bands.computeIfAbsent(new Asked(meter, id(state), seen), k -> {
            Probed probed = probed(meter.net(), meter.to(), meter.mode(), state);
            spend(probed.nets().size());
            return probed.read(meter.redOnReference(), seen);
        });
    }

    private Probed probed(String net, String to, Meter.Mode mode, BoardState state) {
        return probed.computeIfAbsent(new Between(net, to, mode, id(state)), k -> twin.between(net, to, mode, state));
    }

    Injected inject(String net, double volts, double amps, double leadOhms, BoardState state, List<Fault> faults) {
        List<Fault> seen = unpowered(net, board.ground(), Meter.Mode.OHMS, state, faults);
        Asked asked = new Asked(new Injection(net, volts, amps, leadOhms), id(state), seen);
        return injections.computeIfAbsent(
                asked, k -> probed(net, board.ground(), Meter.Mode.OHMS, state).inject(volts, amps, leadOhms, seen));
    }

    Powered power(List<Input> inputs, Map<String, Double> known, BoardState state, List<Fault> faults) {
        List<Fault> seen = noticedUnderPower(faults, reach(inputs, state), state);
        Asked asked = new Asked(new Feeding(inputs, known), id(state), seen);
        return poweredStates.computeIfAbsent(asked, k -> {
            spend(POWERED_ROUNDS * powered.reachedNets(inputs, state));
            return powered.solve(inputs, state, seen, known);
        });
    }

    /** What comes in with these faults: nothing through a port that makes no contact. */
    List<Input> through(Fed fed, BoardState state, List<Fault> faults) {
        for (Fault fault : faults) {
            if (fault instanceof Open && fault.target().equals(fed.port()) && present(fault, state)) {
                return List.of();
            }
        }
        return fed.inputs();
    }

    /** @throws ArithmeticException when a page would wait too long */
    private void spend(int nets) {
        spentNets += nets;
        if (spentNets > mostNets) {
            throw new ArithmeticException("so many nets are joined that to weigh every fault against every entry "
                    + "would take minutes; fewer entries about the same nets can be judged");
        }
    }

    /** Without the bridges that power gets to neither by itself nor over another of them. */
    private List<Fault> noticedUnderPower(List<Fault> faults, Set<String> reach, BoardState state) {
        List<Fault> seen = new ArrayList<>();
        List<Bridge> apart = new ArrayList<>();
        for (Fault fault : faults) {
            if (present(fault, state)) {
                if (fault instanceof Bridge b && !touches(reach, b)) {
                    apart.add(b);
                } else {
                    seen.add(coarse(fault));
                }
            }
        }
        boolean over = !apart.isEmpty() && seen.stream().anyMatch(Bridge.class::isInstance);
        if (over) {
            apart.forEach(b -> seen.add(coarse(b)));
        }
        return seen;
    }

    private boolean touches(Set<String> nets, Bridge bridge) {
        return !board.isGround(bridge.netA()) && nets.contains(bridge.netA())
                || !board.isGround(bridge.netB()) && nets.contains(bridge.netB());
    }

    /** The nets that power can get to. */
    Set<String> reach(List<Input> inputs, BoardState state) {
        return reaches.computeIfAbsent(new Reached(inputs, id(state)), k -> powered.reach(inputs, state));
    }

    /** Under power a few milliohms more or less of a dead short change nothing. */
    private Fault coarse(Fault fault) {
        if (!(fault instanceof Bridge b)) {
            return fault;
        }
        if (half.contains(b.netA()) || half.contains(b.netB())) {
            return new Bridge(SOMEWHERE, b.netA(), b.netB(), b.ohms());
        }
        double ohms = b.ohms() < 1.5 ? 0.1 : b.ohms() < 20 ? 8 : b.ohms() < 700 ? 200 : b.ohms();
        return new Bridge(SOMEWHERE, b.netA(), b.netB(), ohms);
    }

    private List<Fault> unpowered(String net, String to, Meter.Mode mode, BoardState state, List<Fault> faults) {
        List<Fault> seen = new ArrayList<>();
        for (Fault fault : faults) {
            if (!present(fault, state)) {
                continue;
            }
            if (fault instanceof Bridge b) {
                Set<String> nets = probed(net, to, mode, state).nets();
                if (nets.contains(b.netA()) || nets.contains(b.netB())) {
                    seen.add(new Bridge(SOMEWHERE, b.netA(), b.netB(), b.ohms()));
                }
            } else if (fault instanceof Open open && conducts(open)) {
                boolean near = board.part(open.target()).stream()
                        .flatMap(p -> p.pins().stream())
                        .anyMatch(pin -> twin.cluster(net).contains(pin.net())
                                || twin.cluster(to).contains(pin.net()));
                if (near) {
                    seen.add(faults.size() > 1 ? open : alike(open, net, to, state));
                }
            }
        }
        return seen;
    }

    /** Whether the part would conduct if it were well. */
    boolean conducts(Open open) {
        return twin.conducts(open.target());
    }

    /** One of a hundred pull-ups of a rail stands for all, but for a meter on its own line. */
    private Open alike(Open open, String net, String to, BoardState state) {
        Optional<Branch> branch = branch(open.target());
        if (branch.isEmpty()
                || branch.get().far().equals(net)
                || branch.get().far().equals(to)) {
            return open;
        }
        // The one that stands for them must not be on the meter's line either.
        Alike key = new Alike(branch.get().like(), net, to, id(state), open.asFitted());
        String first = firstAlike.computeIfAbsent(key, k -> open.target());
        return new Open(first, open.ohms(), open.asFitted());
    }

    /** Whether a net enables something and nothing on the board says what its level is. */
    boolean untold(String net) {
        return twin.untold(net);
    }

    /** The nets that conduct to this one in a state; empty for ground. */
    Set<String> island(String net, BoardState state) {
        return islands.get(id(state)).computeIfAbsent(net, k -> twin.island(net, state));
    }

    /** The nets where a bridge can change what a meter shows. */
    Set<String> bridged(Meter meter, BoardState state) {
        return probed(meter.net(), meter.to(), meter.mode(), state).nets();
    }

    /** The nets where an open part can: nearer, as it only takes away. */
    Set<String> opened(Meter meter) {
        Set<String> nets = new HashSet<>(twin.cluster(meter.net()));
        nets.addAll(twin.cluster(meter.to()));
        return nets;
    }

    private Optional<Branch> branch(String ref) {
        return branches.computeIfAbsent(ref, twin::branch);
    }

    /** A fault goes with its part. */
    boolean present(Fault fault, BoardState state) {
        Optional<Part> part = board.part(fault.target());
        return part.map(p -> fault.in(p, state)).orElse(true);
    }

    private int id(BoardState state) {
        if (state != lastState || lastId < 0) {
            lastId = states.computeIfAbsent(state, k -> {
                islands.add(new HashMap<>());
                return states.size();
            });
            lastState = state;
        }
        return lastId;
    }
}
