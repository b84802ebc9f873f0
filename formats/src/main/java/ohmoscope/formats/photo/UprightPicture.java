package ohmoscope.formats.photo;

import com.drew.imaging.ImageMetadataReader;
import com.drew.imaging.ImageProcessingException;
import com.drew.metadata.MetadataException;
import com.drew.metadata.exif.ExifIFD0Directory;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.AffineTransform;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Iterator;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageInputStream;
import ohmoscope.formats.BundleException;

/**
 * A photograph as it was held: turned as its camera noted (EXIF), no larger than is of use, and without what a camera
 * writes beside the picture, such as where it was taken.
 */
public final class UprightPicture {
    /** More pixels than this across show no more of a board. */
    private static final int MOST_PX = 3600;
    /** A file may claim any size; nothing larger is opened. */
    private static final long MOST_PIXELS = 120_000_000L;

    private static final float QUALITY = 0.9f;

    private UprightPicture() {}

    /**
     * @param name the file's, for what is said of it
     * @throws BundleException where it is no picture that can be read
     */
    public static BufferedImage read(byte[] bytes, String name) throws IOException {
        try (ImageInputStream in = ImageIO.createImageInputStream(new ByteArrayInputStream(bytes))) {
            Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                throw new BundleException(name, "", "is no JPEG or PNG picture");
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                long w = reader.getWidth(0);
                long h = reader.getHeight(0);
                if (w * h > MOST_PIXELS) {
                    throw new BundleException(
                            name, "", "has " + w + " × " + h + " pixels; at most 120 million are taken");
                }
                ImageReadParam param = reader.getDefaultReadParam();
                int every = (int) Math.max(1, Math.max(w, h) / (2L * MOST_PX));
                param.setSourceSubsampling(every, every, 0, 0);
                return upright(reader.read(0, param), orientation(bytes));
            } finally {
                reader.dispose();
            }
        } catch (BundleException known) {
            throw known;
        } catch (IOException | RuntimeException broken) {
            throw new BundleException(name, "", "cannot be read as a picture: it is cut off or damaged");
        }
    }

    /** As the camera noted it, 1 to 8; 1 where it did not. */
    private static int orientation(byte[] bytes) {
        try {
            ExifIFD0Directory exif = ImageMetadataReader.readMetadata(new ByteArrayInputStream(bytes))
                    .getFirstDirectoryOfType(ExifIFD0Directory.class);
            return exif != null && exif.containsTag(ExifIFD0Directory.TAG_ORIENTATION)
                    ? exif.getInt(ExifIFD0Directory.TAG_ORIENTATION)
                    : 1;
        } catch (ImageProcessingException | MetadataException | IOException none) {
            return 1;
        }
    }

    private static BufferedImage upright(BufferedImage read, int orientation) {
        double by = Math.min(1, (double) MOST_PX / Math.max(read.getWidth(), read.getHeight()));
        boolean turned = orientation >= 5;
        int w = Math.max(1, (int) Math.round(by * (turned ? read.getHeight() : read.getWidth())));
        int h = Math.max(1, (int) Math.round(by * (turned ? read.getWidth() : read.getHeight())));
        BufferedImage picture = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = picture.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        g.setColor(Color.WHITE);
        g.fillRect(0, 0, w, h);
        g.transform(turn(orientation, w, h));
        g.scale(by, by);
        g.drawImage(read, 0, 0, null);
        g.dispose();
        return picture;
    }

    /** From the picture as stored to the picture as held; the eight cases of the EXIF standard. */
    private static AffineTransform turn(int orientation, int w, int h) {
        return switch (orientation) {
            case 2 -> new AffineTransform(-1, 0, 0, 1, w, 0);
            case 3 -> new AffineTransform(-1, 0, 0, -1, w, h);
            case 4 -> new AffineTransform(1, 0, 0, -1, 0, h);
            case 5 -> new AffineTransform(0, 1, 1, 0, 0, 0);
            case 6 -> new AffineTransform(0, 1, -1, 0, w, 0);
            case 7 -> new AffineTransform(0, -1, -1, 0, w, h);
            case 8 -> new AffineTransform(0, -1, 1, 0, 0, h);
            default -> new AffineTransform();
        };
    }

    /** As a JPEG file without anything beside the picture. */
    public static byte[] jpeg(BufferedImage picture) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageWriter writer = ImageIO.getImageWritersByFormatName("jpeg").next();
        try (var stream = ImageIO.createImageOutputStream(out)) {
            ImageWriteParam param = writer.getDefaultWriteParam();
            param.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
            param.setCompressionQuality(QUALITY);
            writer.setOutput(stream);
            writer.write(null, new IIOImage(picture, null, null), param);
        } finally {
            writer.dispose();
        }
        return out.toByteArray();
    }
}
