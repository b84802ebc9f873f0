package ohmoscope.core.parts;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;

/** What often goes with a part that is broken. The shares are a bench's experience, not a measurement. */
public final class Companions {
    /** A crushed port that touched takes the chip on its data lines with it. */
    private static final double CHIP_BEHIND_TOUCHING_PORT = 0.4;

    private static final double CHIP_BEHIND_PORT = 0.12;
    /** A switch that failed short has seen more than it stands, and its clamp before it. */
    private static final double CLAMP_WITH_SWITCH = 0.1;
    /** A fuse does not blow by itself. */
    private static final double BEHIND_A_FUSE = 0.5;

    private Companions() {}

    /**
     * How likely others are broken too.
     *
     * @param touched whether pins of a port were seen to touch or to be burnt
     * @return by reference, without the part itself
     */
    public static Map<String, Double> of(Board board, Part broken, boolean touched) {
        Map<String, Double> with = new LinkedHashMap<>();
        if (broken.kind() == PartKind.CONNECTOR) {
            double share = touched ? CHIP_BEHIND_TOUCHING_PORT : CHIP_BEHIND_PORT;
            beside(board, broken, NetKind.SIGNAL, Role.PORT_CONTROLLER, share, with);
            beside(board, broken, NetKind.SIGNAL, Role.CHARGER, share, with);
        } else if (board.role(broken) == Role.PASS) {
            beside(board, broken, NetKind.POWER, Role.CLAMP, CLAMP_WITH_SWITCH, with);
        } else if (broken.kind() == PartKind.FUSE) {
            beside(board, broken, NetKind.POWER, Role.CLAMP, BEHIND_A_FUSE / 2, with);
            beside(board, broken, NetKind.POWER, Role.PASS, BEHIND_A_FUSE / 2, with);
        }
        with.remove(broken.ref());
        return with;
    }

    private static void beside(
            Board board, Part broken, NetKind kind, Role role, double share, Map<String, Double> with) {
        Set<String> nets = broken.pins().stream()
                .map(Pin::net)
                .filter(n -> board.net(n).filter(net -> net.kind() == kind).isPresent())
                .collect(Collectors.toSet());
        board.parts().stream()
                .filter(p -> board.role(p) == role && nets.stream().anyMatch(p::touches))
                .forEach(p -> with.merge(p.ref(), share, Math::max));
    }
}
