package ohmoscope.core.locate.posterior;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Role;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.locate.LocateInput;

/** The parts that could short a rail, with a prior from kind, nets and what other evidence says of them. */
public final class Candidates {
    private static final double BRIDGES_GROUND = 1.0;
    /** A part that leads elsewhere shorts its rail only with a second fault. */
    private static final double LEADS_ELSEWHERE = 0.08;
    /** The feed's side of a series part, when the rail behind it is the one complained of. */
    private static final double UPSTREAM = 0.15;

    private Candidates() {}

    /** On the rail in question and what feeds it. */
    public static List<Candidate> on(LocateInput input) {
        return on(input.board(), input.fedRail(), input.observations(), input.leaning());
    }

    public static List<Candidate> on(
            Board board, Rail rail, List<Observation> observations, Map<String, Double> leaning) {
        Set<String> path = Set.copyOf(rail.path().stream().map(Part::ref).toList());
        List<Candidate> candidates = new ArrayList<>();
        for (Part part : board.parts()) {
            double weight = place(board, rail, part) * kind(board, part);
            if (weight > 0 && board.placed(part) && !path.contains(part.ref()) && !gone(part, observations)) {
                candidates.add(new Candidate(part, weight * leaning.getOrDefault(part.ref(), 1.0)));
            }
        }
        return candidates;
    }

    private static double place(Board board, Rail rail, Part part) {
        boolean onRail = rail.carries(part);
        boolean upstream = rail.pathNets().stream().anyMatch(part::touches);
        if (!onRail && !upstream) {
            return 0;
        }
        boolean ground = part.pins().stream().map(Pin::net).anyMatch(board::isGround);
        return (onRail ? 1 : UPSTREAM) * (ground ? BRIDGES_GROUND : LEADS_ELSEWHERE);
    }

    private static double kind(Board board, Part part) {
        if (part.kind() == PartKind.SHIELD
                || part.kind() == PartKind.OTHER && part.pins().size() < 2) {
            return 0;
        }
        Role role = board.role(part);
        return switch (part.kind()) {
            case CAPACITOR -> 1;
            case IC -> role == Role.LOAD || role == Role.REGULATOR || role == Role.CHARGER ? 1.6 : 1.2;
            case TVS, DIODE, MOSFET, TRANSISTOR -> 1;
            case CONNECTOR -> 0.3;
            case RESISTOR, INDUCTOR, FERRITE, FUSE, CRYSTAL, SWITCH -> 0.05;
            default -> 0.2;
        };
    }

    /** Off the board when the power went in. What was done after the last injection the frames have not seen. */
    private static boolean gone(Part part, List<Observation> observations) {
        int seen = observations.size();
        for (int i = 0; i < observations.size(); i++) {
            seen = observations.get(i) instanceof Inject ? i : seen;
        }
        boolean gone = false;
        for (Observation observation : observations.subList(0, seen)) {
            if (observation instanceof Change change && change.target().equals(part.ref())) {
                gone = change.action() == ChangeAction.REMOVED || change.action() == ChangeAction.DISCONNECTED;
            }
        }
        return gone;
    }
}
