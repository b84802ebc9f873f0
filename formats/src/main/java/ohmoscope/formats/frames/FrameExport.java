package ohmoscope.formats.frames;

import java.awt.image.BandedSampleModel;
import java.awt.image.BufferedImage;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferFloat;
import java.awt.image.Raster;
import java.awt.image.WritableRaster;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;

/** Frames and pictures for other programs: TIFF, PNG, CSV. */
public final class FrameExport {
    private static final double WHITE_SHARE = 0.999;

    private FrameExport() {}

    /** All frames as a TIFF of 32-bit floating point pages, kelvin. */
    public static void tiff(CaptureSpec spec, FrameSource frames, OutputStream out) throws IOException {
        char[] counts = new char[spec.pixels()];
        float[] kelvin = new float[spec.pixels()];
        try (FrameSource.Cursor cursor = frames.open()) {
            pages(out, writer -> {
                while (cursor.next(counts)) {
                    for (int i = 0; i < counts.length; i++) {
                        kelvin[i] = (float) spec.kelvin(counts[i]);
                    }
                    writer.writeToSequence(page(kelvin, spec.width(), spec.height()), null);
                }
            });
        }
    }

    /** One picture as a 32-bit floating point TIFF. */
    public static void tiff(float[] picture, int width, int height, OutputStream out) throws IOException {
        pages(out, writer -> writer.writeToSequence(page(picture, width, height), null));
    }

    @FunctionalInterface
    private interface Pages {
        void to(ImageWriter writer) throws IOException;
    }

    private static void pages(OutputStream out, Pages pages) throws IOException {
        ImageWriter writer = ImageIO.getImageWritersByFormatName("tiff").next();
        try (ImageOutputStream image = ImageIO.createImageOutputStream(out)) {
            writer.setOutput(image);
            writer.prepareWriteSequence(null);
            pages.to(writer);
            writer.endWriteSequence();
        } finally {
            writer.dispose();
        }
    }

    private static IIOImage page(float[] values, int width, int height) {
        WritableRaster raster = Raster.createWritableRaster(
                new BandedSampleModel(DataBuffer.TYPE_FLOAT, width, height, 1),
                new DataBufferFloat(values.clone(), values.length),
                null);
        ComponentColorModel grey = new ComponentColorModel(
                java.awt.color.ColorSpace.getInstance(java.awt.color.ColorSpace.CS_GRAY),
                false,
                false,
                java.awt.Transparency.OPAQUE,
                DataBuffer.TYPE_FLOAT);
        return new IIOImage(new BufferedImage(grey, raster, false, null), null, null);
    }

    /** One picture in 16 bits of grey, from its smallest to its (all but) largest value. */
    public static void png(float[] picture, int width, int height, OutputStream out) throws IOException {
        float[] sorted = picture.clone();
        java.util.Arrays.sort(sorted);
        float black = sorted[0];
        float white = Math.max(black + 1e-6f, sorted[(int) (WHITE_SHARE * (sorted.length - 1))]);
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_USHORT_GRAY);
        for (int i = 0; i < picture.length; i++) {
            float share = Math.max(0, Math.min(1, (picture[i] - black) / (white - black)));
            image.getRaster().setSample(i % width, i / width, 0, Math.round(65_535 * share));
        }
        ImageIO.write(image, "png", out);
    }

    /** One picture as a matrix of kelvin, a row a line. */
    public static void csv(float[] picture, int width, OutputStream out) {
        PrintWriter writer = new PrintWriter(out, false, StandardCharsets.US_ASCII);
        for (int i = 0; i < picture.length; i++) {
            writer.print(String.format(Locale.ROOT, "%.4f", picture[i]));
            writer.print((i + 1) % width == 0 ? "\n" : ",");
        }
        writer.flush();
    }
}
