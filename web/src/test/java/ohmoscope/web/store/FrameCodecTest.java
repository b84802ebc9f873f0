package ohmoscope.web.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class FrameCodecTest {
    @Property(tries = 100)
    void framesGoThereAndBack(
            @ForAll @IntRange(min = 1, max = 40) int width,
            @ForAll @IntRange(min = 1, max = 30) int height,
            @ForAll long seed) {
        Random random = new Random(seed);
        char[] counts = new char[width * height];
        for (int i = 0; i < counts.length; i++) {
            counts[i] = (char) random.nextInt(65536);
        }
        char[] back = new char[counts.length];
        FrameCodec.unpack(FrameCodec.packed(counts, width), width, back);
        assertThat(back).isEqualTo(counts);
    }

    @Test
    void measuredFramesHalve() {
        Random random = new Random(1);
        char[] counts = new char[160 * 120];
        for (int i = 0; i < counts.length; i++) {
            counts[i] = (char) (29_500 + (i % 160) / 4 + 7 * random.nextGaussian());
        }
        assertThat(FrameCodec.packed(counts, 160).length).isLessThan(counts.length * 2 * 45 / 100);
    }

    @Test
    void aFrameOfAnotherSizeIsRefused() {
        byte[] packed = FrameCodec.packed(new char[100], 10);
        assertThatThrownBy(() -> FrameCodec.unpack(packed, 10, new char[200])).isInstanceOf(RuntimeException.class);
    }
}
