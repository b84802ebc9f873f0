package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
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

/**
 * The twin's answers, each worked out once. Faults that the question cannot see are left out before asking, and faults
 * that are the same to the circuit count as one, so that hundreds of hypotheses need few solves.
 */
final class Predictor {
    /** Where a bridge is does not matter to the circuit once it is known to be there. */
    static final String SOMEWHERE = "";

    /** Behind so much a fault changes the readings of other lines by less than a meter's last digits. */
    private static final double FAR_OHMS = 1_000;

    private final BoardIndex board;
    private final Twin twin;
    private final PoweredTwin powered;
    private final Map<BoardState, Integer> states = new HashMap<>();
    private final Map<Object, Band> bands = new HashMap<>();
    private final Map<Between, Probed> probed = new HashMap<>();
    private final Map<String, Optional<Branch>> branches = new HashMap<>();
    private final Map<Between, Set<String>> trunks = new HashMap<>();
    private Optional<Map<String, String>> pulledUp = Optional.empty();
    private final Map<Alike, String> firstAlike = new HashMap<>();
    private final Map<Object, Injected> injections = new HashMap<>();
    private final Map<Object, Powered> poweredStates = new HashMap<>();
    private final List<Map<String, Set<String>>> islands = new ArrayList<>();
    /** The same state is asked about again and again; its sets need not be hashed each time. */
    private BoardState lastState = BoardState.WHOLE;

    private int lastId = -1;

    private record Asked(Object what, int state, List<Fault> faults) {}

    private record Between(String net, String to, int state) {}

    private record Alike(Likeness like, String net, String to, int state, boolean asFitted) {}

    private record Feeding(List<Input> inputs, Map<String, Double> known) {}

    private record Injection(String net, double volts, double amps, double leadOhms) {}

    Predictor(BoardIndex board, Twin twin) {
        this.board = board;
        this.twin = twin;
        this.powered = new PoweredTwin(twin);
    }

    Band read(Meter meter, BoardState state, List<Fault> faults) {
        List<Fault> seen = unpowered(meter.net(), meter.to(), state, faults);
        return bands.computeIfAbsent(
                new Asked(meter, id(state), seen),
                k -> probed(meter, state).read(meter.mode(), meter.redOnReference(), seen));
    }

    private Probed probed(Meter meter, BoardState state) {
        return probed.computeIfAbsent(
                new Between(meter.net(), meter.to(), id(state)), k -> twin.between(meter.net(), meter.to(), state));
    }

    Injected inject(String net, double volts, double amps, double leadOhms, BoardState state, List<Fault> faults) {
        List<Fault> seen = unpowered(net, net, state, faults);
        Asked asked = new Asked(new Injection(net, volts, amps, leadOhms), id(state), seen);
        return injections.computeIfAbsent(asked, k -> twin.inject(net, volts, amps, leadOhms, state, seen));
    }

    Powered power(List<Input> inputs, Map<String, Double> known, BoardState state, List<Fault> faults) {
        List<Fault> seen = faults.stream()
                .filter(f -> present(f, state))
                .map(Predictor::coarse)
                .toList();
        Asked asked = new Asked(new Feeding(inputs, known), id(state), seen);
        return poweredStates.computeIfAbsent(asked, k -> powered.solve(inputs, state, seen, known));
    }

    /** The nets that power can get to. */
    Set<String> reach(List<Input> inputs, BoardState state) {
        return powered.reach(inputs, state);
    }

    /** Under power a few milliohms more or less of a dead short change nothing. */
    private static Fault coarse(Fault fault) {
        if (!(fault instanceof Bridge b)) {
            return fault;
        }
        double ohms = b.ohms() < 1.5 ? 0.1 : b.ohms() < 20 ? 8 : b.ohms() < 700 ? 200 : b.ohms();
        return new Bridge(SOMEWHERE, b.netA(), b.netB(), ohms);
    }

    private List<Fault> unpowered(String net, String to, BoardState state, List<Fault> faults) {
        List<Fault> seen = new ArrayList<>();
        for (Fault fault : faults) {
            if (!present(fault, state) || fault instanceof Dead || fault instanceof Inactive) {
                continue;
            }
            if (fault instanceof Bridge b) {
                if (near(net, to, b.netA(), state) || near(net, to, b.netB(), state)) {
                    seen.add(new Bridge(SOMEWHERE, b.netA(), b.netB(), b.ohms()));
                }
            } else if (fault instanceof Open open && conducts(open)) {
                boolean near = shows(open).stream().anyMatch(n -> near(net, to, n, state));
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

    private boolean near(String net, String to, String other, BoardState state) {
        return !board.isGround(other) && (sees(net, other, state) || sees(to, other, state));
    }

    private boolean sees(String net, String other, BoardState state) {
        Optional<String> rail = Optional.ofNullable(pulledUp().get(net));
        return rail.map(r -> other.equals(net) || trunk(r, state).contains(other))
                .orElseGet(() -> island(net, state).contains(other));
    }

    /** The nets that conduct to this one in a state; empty for ground. */
    Set<String> island(String net, BoardState state) {
        return islands.get(id(state)).computeIfAbsent(net, k -> twin.island(net, state));
    }

    /**
     * The nets where a fault can change a reading of this one: all that conduct to it, but for a line behind a pull-up
     * none of the other lines behind theirs.
     */
    Set<String> sees(String net, BoardState state) {
        Optional<String> rail = Optional.ofNullable(pulledUp().get(net));
        if (rail.isEmpty()) {
            return island(net, state);
        }
        Set<String> seen = new HashSet<>(trunk(rail.get(), state));
        seen.add(net);
        return seen;
    }

    /** A rail's island without the lines that it pulls up. */
    private Set<String> trunk(String rail, BoardState state) {
        return trunks.computeIfAbsent(
                new Between(rail, "", id(state)),
                k -> island(rail, state).stream()
                        .filter(n -> !pulledUp().containsKey(n))
                        .collect(Collectors.toSet()));
    }

    /** The rail of each line that a pull-up alone joins to anything. */
    private Map<String, String> pulledUp() {
        if (pulledUp.isEmpty()) {
            Map<String, String> rails = new HashMap<>();
            board.parts()
                    .forEach(part -> branch(part.ref())
                            .filter(b -> b.ohms() >= FAR_OHMS)
                            .ifPresent(b -> rails.put(b.far(), b.like().near())));
            pulledUp = Optional.of(rails);
        }
        return pulledUp.get();
    }

    /** Where a fault of a part shows: behind a pull-up at its line, and at what sees that. */
    List<String> shows(Open open) {
        Optional<Branch> branch = branch(open.target());
        if (branch.isPresent() && branch.get().ohms() >= FAR_OHMS) {
            return List.of(branch.get().far());
        }
        return board.part(open.target()).stream()
                .flatMap(p -> p.pins().stream())
                .map(Pin::net)
                .toList();
    }

    private Optional<Branch> branch(String ref) {
        return branches.computeIfAbsent(ref, twin::branch);
    }

    /** A fault goes with its part. */
    static boolean present(Fault fault, BoardState state, BoardIndex board) {
        Optional<Part> part = board.part(fault.target());
        return part.map(p -> fault.in(p, state)).orElse(true);
    }

    private boolean present(Fault fault, BoardState state) {
        return present(fault, state, board);
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
