package ohmoscope.bench.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.circuit.Meter;
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
        StandInBoard board = board(Mishaps.slip(2));
        assertThat(board.drive(0.3, 5, true).amps()).isGreaterThan(1);
        pass(2.1);
        assertThat(board.drive(0.3, 5, true).amps()).isZero();
        assertThat(board.volts()).isCloseTo(0, within(0.01));
        board.drive(0.3, 5, false);
        assertThat(board.drive(0.3, 5, true).amps()).isGreaterThan(1);
    }

    @Test
    void tooMuchHeatBurnsItOpenForGood() {
        StandInBoard board = board(Mishaps.burn(0.3));
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
        StandInBoard sags =
                board(new Mishaps(OptionalDouble.empty(), OptionalDouble.empty(), 0.5, OptionalDouble.empty()));
        assertThat(sags.drive(0.3, 5, true).volts()).isCloseTo(0.15, within(0.01));
        StandInBoard drops =
                board(new Mishaps(OptionalDouble.empty(), OptionalDouble.empty(), 0, OptionalDouble.of(1)));
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
}
