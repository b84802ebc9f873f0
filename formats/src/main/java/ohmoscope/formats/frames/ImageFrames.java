package ohmoscope.formats.frames;

import java.awt.image.BufferedImage;
import java.awt.image.DataBuffer;
import java.awt.image.Raster;
import java.io.IOException;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import ohmoscope.formats.BundleException;

/** TIFF with one page or many, PNG, and whatever else the platform's image readers know. */
final class ImageFrames {
    /** Weights of red, green and blue in brightness (ITU-R BT.601). */
    private static final float[] BRIGHTNESS = {0.299f, 0.587f, 0.114f};

    private ImageFrames() {}

    static FrameStack stack(List<FrameFile> files) throws IOException {
        int count = 0;
        int width = 0;
        int height = 0;
        Depth depth = Depth.EIGHT_BIT;
        String format = "";
        for (int i = 0; i < files.size(); i++) {
            FrameFile file = files.get(i);
            try (Opened opened = Opened.of(file)) {
                if (i == 0) {
                    width = opened.width(0);
                    height = opened.height(0);
                    FrameStack.requireSize(file.name(), width, height);
                    depth = depth(opened.page(0));
                    format = opened.reader.getFormatName().toUpperCase(java.util.Locale.ROOT);
                }
                for (int p = 0; p < opened.pages; p++) {
                    if (opened.width(p) != width || opened.height(p) != height) {
                        throw new BundleException(
                                file.name(),
                                "page " + (p + 1),
                                "is " + opened.width(p) + "×" + opened.height(p) + " pixels, the first is " + width
                                        + "×" + height);
                    }
                }
                count += opened.pages;
            }
        }
        int w = width;
        int h = height;
        return new FrameStack(format, w, h, count, depth, () -> new Cursor(files, w, h), Optional.empty());
    }

    private static Depth depth(Raster raster) {
        return switch (raster.getDataBuffer().getDataType()) {
            case DataBuffer.TYPE_FLOAT, DataBuffer.TYPE_DOUBLE -> Depth.FLOAT;
            case DataBuffer.TYPE_USHORT, DataBuffer.TYPE_SHORT, DataBuffer.TYPE_INT ->
                raster.getNumBands() == 1 ? Depth.SIXTEEN_BIT : Depth.EIGHT_BIT;
            default -> Depth.EIGHT_BIT;
        };
    }

    /** A file with its reader. */
    private static final class Opened implements AutoCloseable {
        private final FrameFile file;
        private final ImageInputStream in;
        private final ImageReader reader;
        private final int pages;

        private Opened(FrameFile file, ImageInputStream in, ImageReader reader, OptionalInt knownPages)
                throws IOException {
            this.file = file;
            this.in = in;
            this.reader = reader;
            pages = knownPages.isPresent() ? knownPages.getAsInt() : counted();
        }

        static Opened of(FrameFile file) throws IOException {
            // Counted by its directories alone: the platform's reader follows a chain that bites its own tail for ever.
            OptionalInt tiffPages = TiffPages.count(file);
            ImageInputStream in = new TimedInput(file.path().toFile(), file.name());
            Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                in.close();
                throw new BundleException(
                        file.name(),
                        "",
                        "is not a picture or array that is read here: use TIFF, 16-bit PNG or PGM, .npy, .npz or CSV");
            }
            ImageReader reader = readers.next();
            // Texts that a picture carries are not wanted, and may unpack to anything.
            reader.setInput(in, false, true);
            try {
                return new Opened(file, in, reader, tiffPages);
            } catch (IOException broken) {
                reader.dispose();
                in.close();
                throw broken;
            }
        }

        private int counted() throws IOException {
            return from(0, () -> reader.getNumImages(true));
        }

        int width(int page) throws IOException {
            return from(page, () -> reader.getWidth(page));
        }

        int height(int page) throws IOException {
            return from(page, () -> reader.getHeight(page));
        }

        /** A damaged file makes the platform's readers fail in many ways, all of which mean the same. */
        private <T> T from(int page, Reading<T> reading) throws IOException {
            try {
                return reading.get();
            } catch (BundleException known) {
                throw known;
            } catch (IOException | RuntimeException | OutOfMemoryError broken) {
                throw broken(page + 1);
            }
        }

        /** Something asked of a reader. */
        private interface Reading<T> {
            T get() throws IOException;
        }

        Raster page(int index) throws IOException {
            return from(index, () -> {
                BufferedImage image = reader.read(index);
                boolean palette = image.getColorModel() instanceof java.awt.image.IndexColorModel;
                return palette ? rgb(image) : image.getRaster();
            });
        }

        private static Raster rgb(BufferedImage image) {
            BufferedImage colours =
                    new BufferedImage(image.getWidth(), image.getHeight(), BufferedImage.TYPE_3BYTE_BGR);
            colours.createGraphics().drawImage(image, 0, 0, null);
            return colours.getRaster();
        }

        private BundleException broken(int page) {
            return new BundleException(file.name(), "page " + page, "cannot be read as a picture: export it again");
        }

        @Override
        public void close() throws IOException {
            reader.dispose();
            in.close();
        }
    }

    private static final class Cursor implements FloatFrames.Cursor {
        private final List<FrameFile> files;
        private final int width;
        private final int height;
        private int file;
        private int page;
        private @org.jspecify.annotations.Nullable Opened opened;

        Cursor(List<FrameFile> files, int width, int height) {
            this.files = files;
            this.width = width;
            this.height = height;
        }

        @Override
        public boolean next(float[] values) throws IOException {
            while (file < files.size()) {
                Opened open = opened;
                if (open == null) {
                    open = Opened.of(files.get(file));
                    opened = open;
                    page = 0;
                }
                if (page < open.pages) {
                    samples(open.page(page++), values);
                    return true;
                }
                open.close();
                opened = null;
                file++;
            }
            return false;
        }

        private void samples(Raster raster, float[] values) {
            int bands = Math.min(3, raster.getNumBands());
            float[] row = new float[width];
            for (int y = 0; y < height; y++) {
                for (int band = 0; band < bands; band++) {
                    raster.getSamples(0, y, width, 1, band, row);
                    for (int x = 0; x < width; x++) {
                        float value = bands < 3 ? (band == 0 ? row[x] : 0) : BRIGHTNESS[band] * row[x];
                        values[y * width + x] = band == 0 ? value : values[y * width + x] + value;
                    }
                }
            }
        }

        @Override
        public void close() throws IOException {
            if (opened != null) {
                opened.close();
            }
        }
    }
}
