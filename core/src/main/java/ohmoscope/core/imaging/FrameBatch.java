package ohmoscope.core.imaging;

import java.io.IOException;
import java.util.stream.IntStream;

/**
 * A few frames read one after another, to be worked on together, and room for the pictures made of them. The last one of
 * the batch before is kept. Memory: {@code size + 1} frames of counts and as many pictures as are asked for; nothing is
 * made anew from batch to batch.
 */
final class FrameBatch {
    private final char[][] frames;
    private final float[][] kelvin;
    private final float[][] still;
    private int first;
    private int held;

    /** @param size frames at a time, at least 1 */
    FrameBatch(CaptureSpec spec, int size) {
        frames = new char[size + 1][spec.pixels()];
        kelvin = new float[size][];
        still = new float[size][];
    }

    /** Takes a cursor that stands at the first frame to where reading ended. */
    void skipTo(FrameSource.Cursor cursor) throws IOException {
        char[] unwanted = new char[frames[0].length];
        for (int i = 0; i < first + held && cursor.next(unwanted); i++) {}
    }

    /**
     * @param most frames that the capture speaks of
     * @return false when none of them is left
     */
    boolean read(FrameSource.Cursor cursor, int most) throws IOException {
        if (held > 0) {
            char[] last = frames[held];
            frames[held] = frames[0];
            frames[0] = last;
        }
        first += held;
        held = 0;
        while (held + 1 < frames.length && first + held < most && cursor.next(frames[held + 1])) {
            held++;
        }
        return held > 0;
    }

    /** Places of the frames held, counted from 0. */
    IntStream places() {
        return IntStream.range(0, held);
    }

    /** Which of the capture's frames stands at a place. */
    int frame(int place) {
        return first + place;
    }

    char[] counts(int place) {
        return frames[place + 1];
    }

    /** Room for that frame in kelvin, with whatever was left in it. One thread a place. */
    float[] kelvin(int place) {
        return room(kelvin, place);
    }

    /** Room for that frame with its shift undone, likewise. */
    float[] still(int place) {
        return room(still, place);
    }

    private float[] room(float[][] pictures, int place) {
        if (pictures[place] == null) {
            pictures[place] = new float[frames[place].length];
        }
        return pictures[place];
    }

    /** The frame before, in this batch or the last; nothing sensible before the capture's first. */
    char[] before(int place) {
        return frames[place];
    }
}
