package ohmoscope.formats.photo;

import java.awt.image.BufferedImage;

/** A picture's pixels, packed red, green, blue, row by row. */
public record Packed(int[] rgb, int width, int height) {
    public static Packed of(BufferedImage picture) {
        int w = picture.getWidth();
        int h = picture.getHeight();
        return new Packed(picture.getRGB(0, 0, w, h, null, 0, w), w, h);
    }

    /**
     * The colour at a place between pixels, mixed of the four around it.
     *
     * @param x pixels; 0 is the middle of the first column
     * @param beyond the colour where the picture ends
     */
    public int at(double x, double y, int beyond) {
        int x0 = (int) Math.floor(x);
        int y0 = (int) Math.floor(y);
        if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) {
            return beyond;
        }
        double fx = x - x0;
        double fy = y - y0;
        int i = y0 * width + x0;
        int mixed = 0;
        for (int shift = 16; shift >= 0; shift -= 8) {
            double top = (1 - fx) * (rgb[i] >> shift & 0xff) + fx * (rgb[i + 1] >> shift & 0xff);
            double low = (1 - fx) * (rgb[i + width] >> shift & 0xff) + fx * (rgb[i + width + 1] >> shift & 0xff);
            mixed |= (int) Math.round((1 - fy) * top + fy * low) << shift;
        }
        return mixed;
    }
}
