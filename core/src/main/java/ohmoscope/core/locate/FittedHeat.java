package ohmoscope.core.locate;

import java.util.OptionalDouble;
import ohmoscope.core.board.Side;

/**
 * A source of heat as the fit left it.
 *
 * @param what the part, or {@code lead}, {@code return}, {@code copper}
 * @param suspect whether it is one of the suspects, of which only one is taken to be there
 * @param footprintMm2 σ² of its footprint
 * @param lagS between power in it and heat in the board
 * @param watts while the power is on
 * @param bodyK how far its own body looks above the board in the end, kelvin; below nothing for a shiny one; empty where
 *     no difference was seen
 */
public record FittedHeat(
        String what,
        boolean suspect,
        double xMm,
        double yMm,
        Side side,
        double footprintMm2,
        double lagS,
        double watts,
        OptionalDouble bodyK) {
    public FittedHeat {
        // Results stored by earlier versions have no such member.
        bodyK = bodyK == null ? OptionalDouble.empty() : bodyK;
    }
}
