package ohmoscope.formats.photo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.Lens;
import ohmoscope.core.photomap.MapStep;
import ohmoscope.core.photomap.PointPx;
import ohmoscope.core.photomap.Squared;
import ohmoscope.formats.BundleException;
import org.junit.jupiter.api.Test;

class PhotoFilesTest {
    private static final MapStep.Put PUT = new MapStep.Put(
            Side.BOTTOM, "C3", PartKind.CAPACITOR, "0603", new PointMm(3, 4), 1.6, 0.8, 90, "VSYS", "GND");

    @Test
    void everyStepComesBackAsItWasWritten() {
        Squared squared = new Squared(
                new Lens(900, 700, 0.02),
                List.of(new PointPx(1, 2), new PointPx(800, 3), new PointPx(801, 600), new PointPx(0, 601)),
                80,
                60,
                new Squared.Nudge(0.1, 0.2, 0.3));
        for (MapStep step : List.of(
                new MapStep.Square(Side.TOP, 12, squared),
                new MapStep.Align(
                        List.of(new PointMm(1, 1), new PointMm(9, 9)), List.of(new PointMm(1, 2), new PointMm(9, 8))),
                PUT,
                new MapStep.Row(PUT, new PointMm(9, 4), 4),
                new MapStep.Paint("VSYS", List.of(new MapStep.Touch("C3", new PointMm(3, 4.4)))),
                new MapStep.OfNet("VSYS", NetKind.POWER, OptionalDouble.of(12)),
                new MapStep.OfNet("GND", NetKind.GROUND, OptionalDouble.empty()),
                new MapStep.Say("C3", "C4", Optional.of(PartKind.TVS), Optional.empty(), 90),
                new MapStep.Take("C3"))) {
            assertEquals(step, MapStepJson.read(MapStepJson.write(step)));
        }
    }

    @Test
    void aStepThatIsNoneSaysWhat() {
        for (String bad : List.of(
                "", "[]", "{}", "{\"step\":\"fly\"}", "{\"step\":\"take\"}", "{\"step\":\"take\",\"ref\":null}")) {
            assertThrows(InvalidMember.class, () -> MapStepJson.read(bad), bad);
        }
        String tooWide = MapStepJson.write(PUT).replace("1.6", "1600");
        assertEquals(
                "w_mm",
                assertThrows(InvalidMember.class, () -> MapStepJson.read(tooWide))
                        .member());
    }

    /** A JPEG whose camera was held upright: what is stored lies on its side. */
    private static byte[] turned(int orientation) throws IOException {
        BufferedImage picture = new BufferedImage(80, 40, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < 40; y++) {
            for (int x = 0; x < 80; x++) {
                picture.setRGB(x, y, (x < 40 ? Color.RED : Color.BLUE).getRGB());
            }
        }
        byte[] jpeg = UprightPicture.jpeg(picture);
        byte[] exif = {
            (byte) 0xff,
            (byte) 0xe1,
            0,
            34,
            'E',
            'x',
            'i',
            'f',
            0,
            0,
            'M',
            'M',
            0,
            42,
            0,
            0,
            0,
            8,
            0,
            1,
            1,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            (byte) orientation,
            0,
            0,
            0,
            0,
            0,
            0
        };
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(jpeg, 0, 2);
        out.write(exif);
        out.write(jpeg, 2, jpeg.length - 2);
        return out.toByteArray();
    }

    @Test
    void aPhotographIsTurnedAsItsCameraNoted() throws IOException {
        BufferedImage plain = UprightPicture.read(turned(1), "a.jpg");
        assertEquals(80, plain.getWidth());
        BufferedImage right = UprightPicture.read(turned(6), "a.jpg");
        assertEquals(40, right.getWidth());
        assertEquals(80, right.getHeight());
        // Turned to the right: what was left is up.
        assertTrue(new Color(right.getRGB(20, 5)).getRed() > 200);
        assertTrue(new Color(right.getRGB(20, 75)).getBlue() > 200);
        BufferedImage half = UprightPicture.read(turned(3), "a.jpg");
        assertTrue(new Color(half.getRGB(5, 20)).getBlue() > 200);
    }

    @Test
    void damagedPicturesAreRefusedByName() throws IOException {
        byte[] good = turned(1);
        Random random = new Random(5);
        for (int i = 0; i < 60; i++) {
            byte[] bad = Arrays.copyOf(good, 3 + random.nextInt(good.length - 3));
            bad[random.nextInt(bad.length)] = (byte) random.nextInt();
            try {
                UprightPicture.read(bad, "held.jpg");
            } catch (BundleException refused) {
                assertTrue(refused.getMessage().contains("held.jpg"), refused.getMessage());
            }
        }
        assertThrows(BundleException.class, () -> UprightPicture.read(new byte[] {1, 2, 3}, "x.png"));
    }
}
