package ohmoscope.bench.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.Meter;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.LiveScene;
import org.junit.jupiter.api.Test;

class StandInBoardTest {
    private static final Board BOARD = DemoBoards.beck();
    private static final String FAULTY = "C68";
    private static final String RAIL = StandInBoard.railOf(BOARD, FAULTY);
    private final AtomicLong clock = new AtomicLong();

    private StandInBoard board(Mishaps mishaps) {
        return new StandInBoard(
                BOARD, RAIL, Map.of(FAULTY, 0.1), Set.of(), 0.05, mishaps, Optional.empty(), clock::get, 1);
    }

    private void pass(double seconds) {
        clock.addAndGet((long) (seconds * 1e9));
    }

    @Test
    void theShortAndTheLeadsTakeTheCurrent() {
        assertThat(board(Mishaps.NONE).drive(0.3, 5, true).amps()).isCloseTo(2, within(0.1));
    }

    @Test
    void aLeadSlipsAndIsPutBackWhenTheOutputIsOff() {
        StandInBoard board = board(Mishaps.NONE.with(Mishaps.Kind.SLIPS_AFTER_S, 2));
        assertThat(board.drive(0.3, 5, true).amps()).isGreaterThan(1);
        pass(2.1);
        assertThat(board.drive(0.3, 5, true).amps()).isZero();
        assertThat(board.volts()).isCloseTo(0, within(0.01));
        board.drive(0.3, 5, false);
        assertThat(board.drive(0.3, 5, true).amps()).isGreaterThan(1);
    }

    @Test
    void tooMuchHeatBurnsItOpenForGood() {
        StandInBoard board = board(Mishaps.NONE.with(Mishaps.Kind.BURNS_AT_W, 0.3));
        board.drive(0.3, 5, true);
        pass(0.7);
        assertThat(board.drive(0.3, 5, true).amps()).isGreaterThan(1);
        pass(0.7);
        assertThat(board.drive(0.3, 5, true).amps()).isLessThan(0.1);
        board.drive(0, 1, false);
        assertThat(board.read(Meter.Mode.OHMS).orElse(1e9)).isGreaterThan(50);
    }

    @Test
    void anOutputThatSagsOrDropsOutDoesSo() {
        StandInBoard sags = board(Mishaps.NONE.with(Mishaps.Kind.SAGS_BY_SHARE, 0.5));
        assertThat(sags.drive(0.3, 5, true).volts()).isCloseTo(0.15, within(0.01));
        StandInBoard drops = board(Mishaps.NONE.with(Mishaps.Kind.HICCUPS_EVERY_S, 1));
        drops.drive(0.3, 5, true);
        pass(0.5);
        assertThat(drops.drive(0.3, 5, true).amps()).isGreaterThan(1);
        pass(0.6);
        assertThat(drops.drive(0.3, 5, true).amps()).isZero();
        pass(0.4);
        assertThat(drops.drive(0.3, 5, true).amps()).isGreaterThan(1);
    }

    @Test
    void handsTakeThePartOffAndTheProbeSaysSo() {
        StandInBoard board = board(Mishaps.NONE);
        assertThat(board.read(Meter.Mode.OHMS).getAsDouble()).isLessThan(0.2);
        assertThat(board.remove(FAULTY)).isTrue();
        assertThat(board.read(Meter.Mode.OHMS).orElse(1e9)).isGreaterThan(50);
        assertThat(board.remove("C9999")).isFalse();
        assertThat(board.probe("nowhere")).isFalse();
        assertThat(board.probe(FAULTY)).isTrue();
        assertThat(board.fit(FAULTY)).isTrue();
        assertThatThrownBy(() -> new StandInBoard(BOARD, "nowhere", Map.of(), 0.05, 1))
                .isInstanceOf(InvalidMember.class);
        assertThatThrownBy(() -> new StandInBoard(BOARD, RAIL, Map.of("C9999", 1.0), 0.05, 1))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("C9999");
    }

    private StandInBoard dead(Map<String, Double> shorts, Set<String> open) {
        return new StandInBoard(BOARD, RAIL, shorts, open, 0.05, Mishaps.NONE, Optional.empty(), clock::get, 1);
    }

    @Test
    void aChargerWakesABoardThatIsWell() {
        StandInBoard board = dead(Map.of(), Set.of());
        assertThat(board.charger(true)).isTrue();
        pass(3);
        assertThat(board.inline().volts()).isGreaterThan(4.5);
        assertThat(board.inline().amps()).isGreaterThan(0.001);
        board.probe(RAIL);
        assertThat(board.volts()).isGreaterThan(1);
        board.charger(false);
        assertThat(board.volts()).isLessThan(0.01);
    }

    @Test
    void behindAnOpenFuseNothingStandsUntilItIsRenewed() {
        StandInBoard board = dead(Map.of(), Set.of("F1"));
        board.charger(true);
        board.probe(RAIL);
        assertThat(board.volts()).isLessThan(0.05);
        board.fit("F1");
        assertThat(board.volts()).isGreaterThan(1);
    }

    @Test
    void aShortMakesTheChargerPulseOrGiveUp() {
        StandInBoard board = dead(Map.of(FAULTY, 0.05), Set.of());
        board.charger(true);
        double most = 0;
        for (int i = 0; i < 100; i++) {
            pass(0.05);
            most = Math.max(most, board.inline().amps());
        }
        assertThat(most).isGreaterThan(0.3);
        assertThatThrownBy(() -> dead(Map.of(), Set.of("C9999"))).hasMessageContaining("C9999");
    }

    @Test
    void aSupplyThatRunsAwayGivesMoreThanItsLimit() {
        StandInBoard board = board(Mishaps.NONE.with(Mishaps.Kind.RUNS_AWAY_BY_SHARE, 0.2));
        assertThat(board.drive(3, 2, true).amps()).isCloseTo(2, within(0.01));
        pass(2);
        assertThat(board.drive(3, 2, true).amps()).isCloseTo(2.4, within(0.01));
    }

    @Test
    void aContactGetsWorseWithTime() {
        StandInBoard board = board(Mishaps.NONE.with(Mishaps.Kind.CREEPS_OHMS_PER_S, 0.05));
        double first = board.drive(0.3, 5, true).amps();
        pass(3);
        assertThat(board.drive(0.3, 5, true).amps()).isLessThan(0.6 * first);
    }

    /** A fuse between two rails drops what flows through it, and nothing when the lead is on the fault's own side. */
    @Test
    void theLeadMovesAndTheMeterReadsAcrossAPart() {
        Board board = DemoBoards.beck();
        Part fuse = board.part("F1").orElseThrow();
        String near = fuse.pins().get(0).net();
        String far = fuse.pins().get(1).net();
        String faulty = board.partsOn(near)
                .filter(p -> p.kind() == PartKind.CAPACITOR)
                .findFirst()
                .orElseThrow()
                .ref();
        Map<String, Double> shorts = Map.of(faulty, 0.1);
        LiveScene scene = new LiveScene(
                board,
                shorts,
                "F1",
                far,
                near,
                new BenchSetup.View(Side.TOP, Optional.empty()),
                LiveJob.laid().camera(),
                0.05,
                3);
        StandInBoard on =
                new StandInBoard(board, far, shorts, Set.of(), 0.05, Mishaps.NONE, Optional.of(scene), clock::get, 3);
        assertThat(on.probe("across F1")).isTrue();
        double amps = on.drive(0.5, 2, true).amps();
        assertThat(amps).isGreaterThan(1.5);
        assertThat(on.volts())
                .isCloseTo(
                        amps * fuse.resistanceOhms().orElseThrow(),
                        within(0.3 * amps * fuse.resistanceOhms().orElseThrow()));
        assertThat(on.lead(faulty, near)).isTrue();
        assertThat(on.volts()).isCloseTo(0, within(5e-4));
        assertThat(on.lead("F1", "GND")).isFalse();
        assertThat(on.lead("nobody", far)).isFalse();
    }
}
