package ohmoscope.core.instrument;

import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/** A thermal camera that sends frames as they come. */
public interface ThermalCamera extends AutoCloseable {
    /** Nobody's camera has more pixels than these in a row or column. */
    int MOST_SIDE = 2048;

    /** The least that is a picture. */
    int LEAST_SIDE = 8;

    /**
     * A frame.
     *
     * @param counts row-major, not to be changed
     * @param stampS the camera's own clock, seconds; empty where it has none
     * @param atNanos when it had come, on the bench's one clock
     * @param lost how many the camera had sent and nobody got since the one before, as far as it numbers them
     */
    record Frame(int width, int height, char[] counts, OptionalDouble stampS, long atNanos, int lost) {
        public Frame {
            Check.within("width", width, LEAST_SIDE, MOST_SIDE);
            Check.within("height", height, LEAST_SIDE, MOST_SIDE);
            if (counts.length != width * height) {
                throw new InvalidMember("counts", "must be one a pixel, are " + counts.length);
            }
        }
    }

    /** What a count is in kelvin, as the camera says: kelvin = count × {@code kelvinPerCount} + {@code kelvinAtZero}. */
    record Scale(double kelvinPerCount, double kelvinAtZero) {
        public Scale {
            Check.positive("kelvin_per_count", kelvinPerCount);
            Check.within("kelvin_at_zero", kelvinAtZero, -1000, 2000);
        }
    }

    /** What the camera says of its counts; the one that was entered where it says nothing. */
    Scale scale();

    /**
     * Waits for the next frame. It connects when it is first asked, and anew after it was lost: whoever asks hears of the
     * loss once.
     *
     * @throws InstrumentException LOST where it has gone, SLOW where none came in time, GARBLED where what came is none
     */
    Frame next() throws InstrumentException;

    @Override
    void close();
}
