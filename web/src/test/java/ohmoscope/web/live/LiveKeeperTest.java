package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.evidence.SupplyLog.Row;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.web.LiveBoard;
import ohmoscope.web.Server;
import ohmoscope.web.analysis.JobFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is kept of a movie while it comes, and what is left of it when the application ends in the middle. */
@ExtendWith(Server.class)
class LiveKeeperTest {
    private static final int W = 16;
    private static final int H = 12;

    private static LiveMovie movie(String name, int frames) {
        LiveMovie movie = new LiveMovie(
                name,
                Side.TOP,
                W,
                H,
                new ThermalCamera.Scale(0.01, 0),
                List.of(
                        new RegistrationPair(0, 0, 0, 50),
                        new RegistrationPair(15, 0, 74, 50),
                        new RegistrationPair(15, 11, 74, 0),
                        new RegistrationPair(0, 11, 0, 0)));
        for (int f = 0; f < frames; f++) {
            movie.add(frame(f), 0.1 * f);
        }
        return movie;
    }

    private static char[] frame(int number) {
        char[] counts = new char[W * H];
        java.util.Arrays.fill(counts, (char) (29_500 + number));
        return counts;
    }

    @Test
    void aMovieThatWasBrokenOffIsACaptureAfterTheNextStart(Server.Running server) throws Exception {
        LiveBoard.job(server, "B-1");
        LiveKeeper keeper = server.bean(LiveKeeper.class);
        JobFile.Stored job = keeper.job("B-1");
        LiveMovie movie = movie(keeper.freeName(job.row().id()), 10);
        long row = keeper.begin(
                job,
                LiveKeeper.injection("VLOG", Optional.empty(), Optional.empty(), 0.4, 1, 0.05),
                movie.capture(),
                "bench");
        for (int f = 10; f < 25; f++) {
            movie.add(frame(f), 0.1 * f);
        }
        keeper.more(
                row,
                10,
                W,
                movie.from(10),
                List.of(new Row(0.9, 0, 0, false), new Row(1, 0.16, 1, true), new Row(2.4, 0.16, 1, true)));
        assertThat(keeper.job("B-1").bundle().captures()).as("none yet").isEmpty();
        assertThat(keeper.freeName(job.row().id())).as("but its name is taken").isEqualTo("live-2");
        keeper.takeUp();
        JobFile.Stored after = keeper.job("B-1");
        assertThat(after.bundle().captures()).hasSize(1);
        assertThat(after.bundle().captures().get(0).spec().frameCount()).isEqualTo(25);
        assertThat(after.supplyLog().onSpans()).hasSize(1);
        assertThat(LiveKeeper.startS(after)).as("the next session is later").isGreaterThan(2.4);
        try (var frames = after.bundle().captures().get(0).frames().open()) {
            char[] counts = new char[W * H];
            List<Integer> first = new ArrayList<>();
            while (frames.next(counts)) {
                first.add((int) counts[0]);
            }
            assertThat(first).hasSize(25).startsWith(29_500).endsWith(29_524);
        }
    }

    @Test
    void logsAreJoinedInTime() {
        SupplyLog before = new SupplyLog(List.of(new Row(1, 0, 0, false), new Row(5, 1, 1, true)));
        assertThat(LiveKeeper.joined(before, List.of(new Row(3, 2, 2, true), new Row(65, 0.3, 1, true)))
                        .rows())
                .extracting(Row::tS)
                .containsExactly(1.0, 5.0, 65.0);
    }
}
