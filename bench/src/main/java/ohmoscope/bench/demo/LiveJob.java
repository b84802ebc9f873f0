package ohmoscope.bench.demo;

import java.util.Map;
import java.util.Set;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.sim.BenchSetup;

/** The job whose board lies on the stand-in bench: nothing is injected yet, and all of it can be done live. */
public final class LiveJob {
    public static final String NUMBER = "K-0435";
    public static final String RAIL = "VLOG";
    private static final String FAULTY = "C22";
    /** Where the page proposes to set the hot lead. */
    private static final String FEED = "J2";

    private static final double FAULT_OHMS = 0.11;
    private static final double LEAD_OHMS = 0.055;
    private static final int SEED = 435;

    private LiveJob() {}

    private static Board board() {
        return Rails.BECK.of(DemoBoards.beck());
    }

    static DemoJobs.Demo demo() {
        return EvidenceJobs.told(
                NUMBER,
                "Gauge silent since the thunderstorm",
                "2026-11-25T11:20:00Z",
                LiveJob::board,
                (board, entries) -> RailInQuestion.stated(RAIL),
                Map.of(),
                """
                unplugged battery
                VLOG d .004 red
                """);
    }

    /** What lies on the bench, its leads on the rail already. */
    public static StandInBench.Laid laid() {
        Board board = board();
        return new StandInBench.Laid(
                board,
                RAIL,
                FEED,
                Map.of(FAULTY, FAULT_OHMS),
                Set.of(),
                LEAD_OHMS,
                Side.TOP,
                new BenchSetup.Camera(160, 120, 9, 0, 0.07, 0.3, 1, 0.03, 0.3),
                SEED);
    }
}
