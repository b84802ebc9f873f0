package ohmoscope.formats.frames;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.formats.BundleException;

/**
 * Frames from anywhere, of one size.
 *
 * @param format what the files were taken for, in a word or two
 * @param timesS one time a frame where a list of times came with them
 */
public record FrameStack(
        String format,
        int width,
        int height,
        int count,
        Depth depth,
        FloatFrames frames,
        Optional<List<Double>> timesS) {
    /** Files in one stack, at most. */
    public static final int MOST_FILES = 5_000;

    /**
     * Refuses a size before anything of it is decoded.
     *
     * @throws BundleException naming the file and what can be used
     */
    static void requireSize(String name, long width, long height) throws BundleException {
        if (Math.min(width, height) < LEAST_SIDE || Math.max(width, height) > MOST_SIDE) {
            throw new BundleException(
                    name,
                    "",
                    "has frames of " + width + "×" + height + " pixels; " + LEAST_SIDE + " to " + MOST_SIDE
                            + " a side can be used");
        }
    }

    private static final int LEAST_SIDE = 8;
    private static final int MOST_SIDE = 4096;
    static final int MOST_FRAMES = 100_000;

    public FrameStack {
        timesS = timesS.map(List::copyOf);
    }

    /**
     * Recognises the files and reads what is needed to know their size and number; frames are read later.
     *
     * @param files in any order; a CSV with a column {@code t_s} or {@code time} gives the times
     * @throws BundleException when they cannot be used, naming the file, the place in it and how to mend it
     */
    public static FrameStack read(List<FrameFile> files) throws IOException {
        if (files.isEmpty()) {
            throw new BundleException("frames", "", "are missing: choose one file or more");
        }
        if (files.size() > MOST_FILES) {
            throw new BundleException(
                    "frames", "", "are " + files.size() + " files; at most " + MOST_FILES + " can be one capture");
        }
        List<FrameFile> pictures = new ArrayList<>();
        Optional<List<Double>> times = Optional.empty();
        for (FrameFile file : files.stream().sorted(FrameFile.IN_ORDER).toList()) {
            if (Files.size(file.path()) == 0) {
                throw new BundleException(file.name(), "", "is empty: export it again");
            }
            Optional<List<Double>> read = TimesCsv.read(file);
            if (read.isPresent()) {
                times = read;
            } else {
                pictures.add(file);
            }
        }
        if (pictures.isEmpty()) {
            throw new BundleException(files.get(0).name(), "", "holds times only: add the frames");
        }
        return checked(stack(pictures), times, pictures.get(0).name());
    }

    private static FrameStack stack(List<FrameFile> files) throws IOException {
        FrameFile first = files.get(0);
        if (first.endsIn(".npy", ".npz")) {
            return NumpyFrames.stack(single(files));
        }
        if (first.endsIn(".csv", ".txt", ".tsv")) {
            return CsvFrames.stack(files);
        }
        if (first.endsIn(".pgm")) {
            return PgmSequence.stack(files);
        }
        return ImageFrames.stack(files);
    }

    private static FrameFile single(List<FrameFile> files) throws BundleException {
        if (files.size() > 1) {
            throw new BundleException(
                    files.get(1).name(),
                    "",
                    "stands beside " + files.get(0).name() + ": an array file is a whole stack");
        }
        return files.get(0);
    }

    private static FrameStack checked(FrameStack stack, Optional<List<Double>> times, String name)
            throws BundleException {
        requireSize(name, stack.width, stack.height);
        if (stack.count < 2 || stack.count > MOST_FRAMES) {
            throw new BundleException(
                    name,
                    "",
                    "makes " + stack.count
                            + " frame(s); at least two are needed, one before the power and one after it");
        }
        if (times.isPresent() && times.get().size() != stack.count) {
            throw new BundleException(
                    "times",
                    "",
                    "has " + times.get().size() + " rows for " + stack.count + " frames: one row a frame is needed");
        }
        return new FrameStack(
                stack.format,
                stack.width,
                stack.height,
                stack.count,
                stack.depth,
                stack.frames,
                times.or(() -> stack.timesS));
    }

    /** Two frames or a handful: before and after, without a course in time. */
    public boolean stillPictures() {
        return count < 8;
    }
}
