package ohmoscope.core.rework;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;

/**
 * Whether a bypass capacitor may stay off once it is out.
 *
 * @param rail that it stands on
 * @param others capacitors left on that rail
 * @param share of the rail's capacitance that goes with it; empty where values are not known
 * @param regulator whose own input or output capacitor it seems to be: the only one beside it
 */
public record LeaveOff(String rail, int others, OptionalDouble share, Optional<String> regulator, Verdict verdict) {
    /** What to do. */
    public enum Verdict {
        MAY_STAY_OFF,
        REPLACE
    }

    /** Of a bank of so many the rest does the work. */
    private static final int FEW = 3;

    private static final double MOST_SHARE = 0.3;
    /** A regulator's own capacitors stand this close. */
    private static final double OWN_MM = 5;

    /** @return empty for what is no capacitor between a rail and ground */
    public static Optional<LeaveOff> of(Board board, Part part, Collection<String> gone) {
        Optional<String> rail = rail(board, part);
        if (part.kind() != PartKind.CAPACITOR || rail.isEmpty()) {
            return Optional.empty();
        }
        List<Part> others = board.partsOn(rail.get())
                .filter(p -> p.kind() == PartKind.CAPACITOR && !p.ref().equals(part.ref()))
                .filter(p -> !gone.contains(p.ref()) && rail(board, p).isPresent())
                .toList();
        OptionalDouble share = share(part, others);
        Optional<String> regulator = regulator(board, part, rail.get(), others);
        boolean stays = others.size() >= FEW && regulator.isEmpty() && share.orElse(0) <= MOST_SHARE;
        return Optional.of(new LeaveOff(
                rail.get(), others.size(), share, regulator, stays ? Verdict.MAY_STAY_OFF : Verdict.REPLACE));
    }

    private static Optional<String> rail(Board board, Part part) {
        boolean grounded = part.pins().stream().anyMatch(p -> board.isGround(p.net()));
        return part.pins().stream()
                .map(Pin::net)
                .filter(n ->
                        board.net(n).filter(net -> net.kind() == NetKind.POWER).isPresent())
                .findFirst()
                .filter(n -> grounded && part.pins().size() == 2);
    }

    private static OptionalDouble share(Part part, List<Part> others) {
        OptionalDouble own = PartValue.farads(part.value());
        double rest = 0;
        for (Part other : others) {
            OptionalDouble farads = PartValue.farads(other.value());
            if (farads.isEmpty()) {
                return OptionalDouble.empty();
            }
            rest += farads.getAsDouble();
        }
        double left = rest;
        return own.isEmpty() ? own : OptionalDouble.of(own.getAsDouble() / (own.getAsDouble() + left));
    }

    private static Optional<String> regulator(Board board, Part part, String rail, List<Part> others) {
        return board.partsOn(rail)
                .filter(p -> p.supplies().stream().anyMatch(s -> s.out().equals(rail) || s.in().equals(rail)))
                .filter(p -> p.besideMm(part.xMm(), part.yMm()) <= OWN_MM)
                .filter(p -> others.stream().noneMatch(o -> p.besideMm(o.xMm(), o.yMm()) <= OWN_MM))
                .map(Part::ref)
                .findFirst();
    }
}
