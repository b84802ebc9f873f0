package ohmoscope.web.kit;

/**
 * A rail in a drawn power tree.
 *
 * @param state ok, look, bad or plain
 * @param stateWord what the shape means
 */
public record RailBox(
        String net, int x, int y, String nominal, String volts, String unpowered, String state, String stateWord) {}
