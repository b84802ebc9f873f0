package ohmoscope.core.parts;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;

/**
 * How near a new part's value must come to the old one's, by what it does.
 *
 * @param share of its value, above 0
 */
public record Tolerance(double share, Why why) {
    /** What it does. */
    public enum Why {
        /** A capacitor that holds a rail steady. */
        STEADIES,
        /** A capacitor on a signal: it sets a time or a slope. */
        TIMES,
        /** A resistor that current is measured across. */
        MEASURES,
        /** One of two that share a voltage out. */
        DIVIDES,
        /** A resistor that pulls a line to a rail or to ground. */
        PULLS
    }

    /** More than this a shunt drops only where it is no shunt, ohms. */
    private static final double MOST_SHUNT_OHMS = 1;

    /** @return empty where the value of such a part is not what matters, or the board does not tell */
    public static Optional<Tolerance> of(BoardIndex board, Part part) {
        if (part.kind() == PartKind.CAPACITOR) {
            boolean steadies = board.role(part) == Role.BYPASS;
            return Optional.of(steadies ? new Tolerance(0.2, Why.STEADIES) : new Tolerance(0.05, Why.TIMES));
        }
        if (part.kind() != PartKind.RESISTOR) {
            return Optional.empty();
        }
        if (board.role(part) == Role.SERIES && part.resistanceOhms().orElse(0) <= MOST_SHUNT_OHMS) {
            return Optional.of(new Tolerance(0.01, Why.MEASURES));
        }
        return signal(board, part)
                .map(line ->
                        divides(board, part, line) ? new Tolerance(0.01, Why.DIVIDES) : new Tolerance(0.05, Why.PULLS));
    }

    /** The line between a rail or ground and it. */
    private static Optional<String> signal(BoardIndex board, Part part) {
        List<String> lines = part.pins().stream()
                .map(Pin::net)
                .filter(n -> kind(board, n) == NetKind.SIGNAL)
                .toList();
        return lines.size() == 1 && part.pins().size() == 2 ? Optional.of(lines.get(0)) : Optional.empty();
    }

    /** Whether another resistor goes on from there to the other end. */
    private static boolean divides(BoardIndex board, Part part, String line) {
        boolean fromGround = part.pins().stream().anyMatch(p -> board.isGround(p.net()));
        return board.partsOn(line)
                .filter(p -> p.kind() == PartKind.RESISTOR && !p.ref().equals(part.ref()))
                .flatMap(p -> p.pins().stream())
                .anyMatch(p -> fromGround ? kind(board, p.net()) == NetKind.POWER : board.isGround(p.net()));
    }

    private static NetKind kind(BoardIndex board, String net) {
        return board.net(net).map(Net::kind).orElse(NetKind.SIGNAL);
    }
}
