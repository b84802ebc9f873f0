package ohmoscope.formats.frames;

import java.io.Closeable;
import java.io.IOException;

/** Frames in whatever unit the file has, read one after another and as often as needed; never all at once. */
@FunctionalInterface
public interface FloatFrames {
    Cursor open() throws IOException;

    /** Reads frames in order. Not for several threads. */
    interface Cursor extends Closeable {
        /**
         * Reads the next frame.
         *
         * @param values width × height values, row-major, each cell overwritten
         * @return false when there is no further frame
         */
        boolean next(float[] values) throws IOException;
    }
}
