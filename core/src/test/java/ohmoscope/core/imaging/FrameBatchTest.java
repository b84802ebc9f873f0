package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class FrameBatchTest {
    private static final int W = 8;
    private static final int H = 8;

    private static FrameSource frames(int count) {
        return Fixtures.frames(IntStream.range(0, count)
                .mapToObj(f -> {
                    char[] frame = new char[W * H];
                    Arrays.fill(frame, (char) (100 + f));
                    return frame;
                })
                .toList());
    }

    private static List<List<Integer>> read(int spoken, int held, int size) throws IOException {
        CaptureSpec spec = Fixtures.capture(W, H, spoken, Fixtures.corners(40, 30, 0.15));
        FrameBatch batch = new FrameBatch(spec, size);
        List<List<Integer>> batches = new ArrayList<>();
        try (FrameSource.Cursor cursor = frames(held).open()) {
            while (batch.read(cursor, spec.frameCount())) {
                batches.add(batch.places()
                        .mapToObj(i -> {
                            assertThat(batch.counts(i)).containsOnly((char) (100 + batch.frame(i)));
                            if (batch.frame(i) > 0) {
                                assertThat(batch.before(i)).containsOnly((char) (99 + batch.frame(i)));
                            }
                            return batch.frame(i);
                        })
                        .toList());
            }
        }
        return batches;
    }

    @Test
    void framesComeInStretchesAndEachKnowsTheOneBefore() throws IOException {
        assertThat(read(7, 7, 3)).containsExactly(List.of(0, 1, 2), List.of(3, 4, 5), List.of(6));
    }

    @Test
    void aWholeNumberOfStretchesEndsWithoutAnEmptyOne() throws IOException {
        assertThat(read(6, 6, 3)).containsExactly(List.of(0, 1, 2), List.of(3, 4, 5));
    }

    @Test
    void noMoreThanTheCaptureSpeaksOf() throws IOException {
        assertThat(read(4, 9, 3)).containsExactly(List.of(0, 1, 2), List.of(3));
    }

    @Test
    void aShortStreamEndsEarly() throws IOException {
        assertThat(read(9, 4, 3)).containsExactly(List.of(0, 1, 2), List.of(3));
        assertThat(read(9, 0, 3)).isEmpty();
    }

    @Test
    void everyPlaceHasRoomOfItsOwnAndKeepsIt() {
        FrameBatch batch = new FrameBatch(Fixtures.capture(W, H, 4, Fixtures.corners(40, 30, 0.15)), 2);
        List<float[]> rooms = List.of(batch.kelvin(0), batch.kelvin(1), batch.still(0), batch.still(1));
        for (int i = 0; i < rooms.size(); i++) {
            Arrays.fill(rooms.get(i), i + 1);
        }
        assertThat(batch.kelvin(0)).hasSize(W * H).containsOnly(1);
        assertThat(batch.kelvin(1)).containsOnly(2);
        assertThat(batch.still(0)).containsOnly(3);
        assertThat(batch.still(1)).hasSize(W * H).containsOnly(4);
    }
}
