package ohmoscope.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;

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
