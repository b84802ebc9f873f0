package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.PowerTree;

/** What was guessed of a board, put right by hand. The board itself never changes: each edit is another. */
public final class Edits {
    private Edits() {}

    /**
     * Parts of another kind or role.
     *
     * @param kind empty to leave it
     * @param role empty to leave it
     * @throws InvalidMember naming a reference that the board does not have
     */
    public static Board parts(Board board, List<String> refs, Optional<PartKind> kind, Optional<Role> role) {
        Set<String> wanted = new HashSet<>(refs);
        for (String ref : refs) {
            if (board.part(ref).isEmpty()) {
                throw new InvalidMember("refs", "names " + ref + ", which this board does not have");
            }
        }
        return board.withParts(board.parts().stream()
                .map(p -> wanted.contains(p.ref())
                        ? PartEdit.of(p)
                                .kind(kind.orElse(p.kind()))
                                .role(role.or(p::statedRole))
                                .done()
                        : p)
                .toList());
    }

    /**
     * A part, from now on a regulator unless it is a charger, that makes a rail out of another; what it was said to make of that name before is replaced.
     *
     * @throws InvalidMember where the board has not the part or a net, the part is not fed by it, or both nets are one
     */
    public static Board making(Board board, String ref, Supply supply) {
        Part part = part(board, ref);
        for (String net : Stream.concat(Stream.of(supply.in(), supply.out()), supply.enable().stream())
                .toList()) {
            if (board.net(net).isEmpty()) {
                throw new InvalidMember("net", "is " + net + ", which this board does not have");
            }
        }
        if (!part.touches(supply.in())) {
            throw new InvalidMember("in", "is " + supply.in() + ", on which " + ref + " has no pin");
        }
        if (supply.in().equals(supply.out())) {
            throw new InvalidMember("out", "must be another net than the one it is made from");
        }
        List<Supply> supplies = new ArrayList<>(part.supplies());
        supplies.removeIf(s -> s.out().equals(supply.out()));
        supplies.add(supply);
        Role role = board.role(part);
        boolean converts = role == Role.REGULATOR || role == Role.CHARGER;
        return with(
                board,
                PartEdit.of(part)
                        .supplies(supplies)
                        .role(converts ? part.statedRole() : Optional.of(Role.REGULATOR))
                        .done());
    }

    /** A part that does not make this rail after all. @throws InvalidMember when nobody said that it did */
    public static Board notMaking(Board board, String ref, String out) {
        Part part = part(board, ref);
        List<Supply> rest =
                part.supplies().stream().filter(s -> !s.out().equals(out)).toList();
        if (rest.size() == part.supplies().size()) {
            throw new InvalidMember("out", "is " + out + ", which " + ref + " does not make");
        }
        return with(board, PartEdit.of(part).supplies(rest).done());
    }

    /** What a good device draws at a port. @throws InvalidMember when the board has no such part */
    public static Board drawing(Board board, String ref, PortExpectation expects) {
        return with(
                board,
                PartEdit.of(part(board, ref)).expects(Optional.of(expects)).done());
    }

    /**
     * What devices of a class draw, at this board's ports: its inputs get the class's input, its battery the class's
     * battery. Volts that the board's own port is known to carry stay.
     *
     * @param like the board of the class
     * @throws InvalidMember where no port of the board can be told
     */
    public static Board drawingAs(Board board, Board like) {
        PowerTree own = PowerTree.of(board);
        PowerTree usual = PowerTree.of(like);
        if (own.inputs().isEmpty() && own.battery().isEmpty()) {
            throw new InvalidMember("board", "has no connector that power could come in by");
        }
        Board drawing = board;
        for (Part port : own.inputs()) {
            drawing = drawingAs(drawing, port, usual.inputs().stream().findFirst());
        }
        return drawingAs(drawing, own.battery(), usual.battery());
    }

    private static Board drawingAs(Board board, Optional<Part> port, Optional<Part> like) {
        return port.isPresent() ? drawingAs(board, port.get(), like) : board;
    }

    private static Board drawingAs(Board board, Part port, Optional<Part> like) {
        Optional<PortExpectation> usual = like.flatMap(Part::expects);
        return usual.isEmpty()
                ? board
                : drawing(
                        board,
                        port.ref(),
                        new PortExpectation(
                                port.expects()
                                        .flatMap(PortExpectation::volts)
                                        .or(() -> usual.get().volts()),
                                usual.get().standbyAmps(),
                                usual.get().runAmps(),
                                usual.get().chargeAmps(),
                                port.expects()
                                        .map(PortExpectation::reversible)
                                        .orElse(usual.get().reversible())));
    }

    private static Part part(Board board, String ref) {
        return board.part(ref)
                .orElseThrow(() -> new InvalidMember("part", "is " + ref + ", which this board does not have"));
    }

    private static Board with(Board board, Part edited) {
        return board.withParts(board.parts().stream()
                .map(p -> p.ref().equals(edited.ref()) ? edited : p)
                .toList());
    }

    /**
     * A net of another kind or voltage.
     *
     * @param nominalVolts empty where it carries none, or nobody knows
     */
    public static Board net(Board board, String name, NetKind kind, OptionalDouble nominalVolts) {
        if (board.net(name).isEmpty()) {
            throw new InvalidMember("net", "is " + name + ", which this board does not have");
        }
        return board.withNets(board.nets().stream()
                .map(n -> n.name().equals(name) ? new Net(name, kind, nominalVolts, n.expect()) : n)
                .toList());
    }
}
