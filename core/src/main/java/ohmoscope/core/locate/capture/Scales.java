package ohmoscope.core.locate.capture;

import java.util.Arrays;
import java.util.List;

/**
 * One picture cut at several scales, at which structure that has nothing to do with the injection is sought.
 *
 * @param onBoard bare board: single pixels first, then ever larger squares
 * @param onBodies pixels on bodies
 */
public record Scales(List<Squares> onBoard, Squares onBodies) {
    /** Sides, camera pixels. */
    private static final int[] SIDES_PX = {1, 4, 10, 20};

    /** @param stride how many of the movie's pixels a pixel is, along each side */
    public static Scales of(Pixels pixels, int stride) {
        return new Scales(
                Arrays.stream(SIDES_PX)
                        .mapToObj(fine -> Squares.of(pixels, Math.max(1, fine / stride), false))
                        .toList(),
                Squares.of(pixels, 1, true));
    }

    /** Those in whose means the camera's noise has averaged out. */
    public List<Squares> coarse() {
        return onBoard.subList(1, onBoard.size());
    }
}
