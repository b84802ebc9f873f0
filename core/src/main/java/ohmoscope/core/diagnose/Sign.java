package ohmoscope.core.diagnose;

import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;

/**
 * What one entry says about one net.
 *
 * @param value the reading, in the unit of its mode; infinite for over-range; ohms for an injection
 * @param seq the entry's number
 * @param epoch the circuit it was taken in
 * @param border whether the value stands so near a border that the next reading may say otherwise
 */
public record Sign(String net, Says says, double value, int seq, int epoch, Unit unit, boolean border) {
    public Sign(String net, Says says, double value, int seq, int epoch, Unit unit) {
        this(net, says, value, seq, epoch, unit, false);
    }

    Sign saying(Says other) {
        return new Sign(net, other, value, seq, epoch, unit, false);
    }
}
