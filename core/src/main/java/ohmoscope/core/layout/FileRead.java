package ohmoscope.core.layout;

/**
 * How one of a board's files was read against the one that is believed first.
 *
 * @param parts how many it has
 * @param placed how many of them have a place
 * @param first whether it is the one that is believed first
 * @param common how many parts have a place in both
 * @param scale millimetres a unit of it
 * @param mirrored whether x runs the other way for parts on the bottom
 * @param down whether y runs down
 * @param xMm where its origin lies, and {@code yMm}
 * @param agree share of the common parts that stand where they should
 * @param used whether its places are used
 */
public record FileRead(
        String file,
        int parts,
        int placed,
        boolean first,
        int common,
        double scale,
        boolean mirrored,
        boolean down,
        double xMm,
        double yMm,
        double agree,
        boolean used) {}
