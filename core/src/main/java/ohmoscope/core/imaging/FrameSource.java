package ohmoscope.core.imaging;

import java.io.Closeable;
import java.io.IOException;

/** The frames of one capture, read one after another and as often as needed; never all at once. */
public interface FrameSource {
    /** Opens the frames from the first on. */
    Cursor open() throws IOException;

    /** Reads frames in order. Not for several threads. */
    interface Cursor extends Closeable {
        /**
         * Reads the next frame.
         *
         * @param counts width × height values, row-major, each cell overwritten; unsigned 16 bits as the file has them
         * @return false when there is no further frame; {@code counts} is then untouched
         */
        boolean next(char[] counts) throws IOException;
    }
}
