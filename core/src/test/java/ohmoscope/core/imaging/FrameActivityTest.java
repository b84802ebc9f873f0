package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class FrameActivityTest {
    /** More pixels than one core takes at a time. */
    private static final int W = 150;

    private static final int H = 120;
    private static final double NOISE = 4;
    private final Random random = new Random(2);

    private char[] frame() {
        char[] frame = new char[W * H];
        for (int i = 0; i < frame.length; i++) {
            frame[i] = (char) Math.round(20_000 + NOISE * random.nextGaussian());
        }
        return frame;
    }

    private List<char[]> frames(int count) {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < count; f++) {
            frames.add(frame());
        }
        return frames;
    }

    private static int[] dead(List<char[]> frames, double noise) {
        FrameActivity activity = new FrameActivity(W, H);
        List<FrameActivity.Pair> pairs = new ArrayList<>();
        for (int f = 1; f < frames.size(); f++) {
            pairs.add(new FrameActivity.Pair(frames.get(f - 1), frames.get(f)));
        }
        activity.add(pairs.subList(0, pairs.size() / 2));
        activity.add(pairs.subList(pairs.size() / 2, pairs.size()));
        return activity.dead(noise);
    }

    @Test
    void aQuietPictureHasNoDeadPixels() {
        assertThat(dead(frames(30), NOISE)).isEmpty();
    }

    @Test
    void onesThatStandStillAndOnesThatBlinkAreFound() {
        List<char[]> frames = frames(30);
        int[] still = {5 * W + 7, 60 * W + 140, 119 * W + 149};
        int blinking = 80 * W + 33;
        for (int f = 0; f < frames.size(); f++) {
            for (int p : still) {
                frames.get(f)[p] = 21_000;
            }
            frames.get(f)[blinking] = (char) (20_000 + (f % 2) * 400);
        }
        assertThat(dead(frames, NOISE)).containsExactly(still[0], still[1], blinking, still[2]);
    }

    @Test
    void anEdgeThatMovesAsAWholeIsAlive() {
        List<char[]> frames = frames(30);
        for (int f = 0; f < frames.size(); f++) {
            for (int y = 0; y < H; y++) {
                frames.get(f)[y * W + 70] += (char) ((f % 2) * 300);
                frames.get(f)[y * W + 71] += (char) ((f % 2) * 300);
            }
        }
        assertThat(dead(frames, NOISE)).isEmpty();
    }

    @Test
    void withoutNoiseStandingStillSaysNothing() {
        List<char[]> frames = new ArrayList<>();
        char[] same = frame();
        for (int f = 0; f < 30; f++) {
            frames.add(same.clone());
        }
        assertThat(dead(frames, 0.2)).isEmpty();
    }

    @Test
    void aFewFramesAreTooFew() {
        List<char[]> frames = frames(15);
        for (char[] frame : frames) {
            frame[999] = 21_000;
        }
        assertThat(dead(frames, NOISE)).isEmpty();
    }

    @Test
    void whenSoManySeemDeadItIsThePictureThatIsOdd() {
        List<char[]> frames = frames(30);
        for (char[] frame : frames) {
            for (int p = 0; p < W * H / 20; p++) {
                frame[p] = 21_000;
            }
        }
        assertThat(dead(frames, NOISE)).isEmpty();
    }
}
