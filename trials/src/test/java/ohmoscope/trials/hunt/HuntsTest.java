package ohmoscope.trials.hunt;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.stream.LongStream;
import ohmoscope.bench.truth.Hidden;
import ohmoscope.bench.truth.Hidden.Broken;
import ohmoscope.bench.truth.Hidden.Kind;
import ohmoscope.bench.truth.Hidden.Path;
import ohmoscope.bench.truth.Hidden.Silent;
import ohmoscope.bench.truth.TrueBoard;
import ohmoscope.bench.truth.TrueBoard.Running;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.trials.hunt.Hunts.End;
import ohmoscope.trials.hunt.Hunts.Player;
import ohmoscope.trials.hunt.Hunts.Told;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class HuntsTest {
    private static final Hidden NOTHING = new Hidden(Kind.SHORTED_CAPACITOR, List.of());

    private static TrueBoard bench(BoardIndex board, Hidden hidden) {
        TrueBoard bench = new TrueBoard(board, hidden, new Random(3));
        bench.battery(false);
        return bench;
    }

    private static String port(BoardIndex board) {
        return PowerTree.of(board).inputs().get(0).ref();
    }

    private static Part firstOf(BoardIndex board, PartKind kind) {
        return board.parts().stream().filter(p -> p.kind() == kind).findFirst().orElseThrow();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void aDrawnBoardStartsWhenNothingIsWrong(long seed) {
        BoardIndex board = new BoardIndex(RandomBoard.draw(seed));

        Running running = bench(board, NOTHING).power(port(board), true);

        assertThat(running.boots()).isTrue();
        assertThat(running.collapsed()).isFalse();
        assertThat(running.volts().get(PowerTree.of(board).mainRail())).isGreaterThan(2.5);
    }

    /** What only a chip's own regulator makes is there while the chip works. */
    @Test
    void aChipThatWorksMakesItsOwnRail() {
        BoardIndex board = new BoardIndex(PowerFixtures.withInnerRegulator());
        Hidden dead = new Hidden(Kind.DEAD_REGULATOR, List.of(new Silent("U3")));

        assertThat(bench(board, NOTHING).power("J1", true).volts().get("VL")).isCloseTo(1.5, within(0.1));
        assertThat(bench(board, dead).power("J1", true).volts().get("VL")).isLessThan(0.1);
    }

    @Test
    void noTwoDrawnBoardsAreAlikeAndTheSameSeedDrawsTheSame() {
        Board one = RandomBoard.draw(11);

        assertThat(RandomBoard.draw(11)).isEqualTo(one);
        assertThat(RandomBoard.draw(12).nets()).isNotEqualTo(one.nets());
    }

    /** What a good board shows lies within what its data say, but for what its sides of a junction share. */
    @Test
    void aGoodBoardReadsAsItsDataSay() {
        BoardIndex board = new BoardIndex(RandomBoard.draw(4));
        TrueBoard bench = bench(board, NOTHING);
        for (Net net : board.nets()) {
            if (net.kind() == NetKind.POWER
                    && net.expect().flatMap(e -> e.ohms()).isPresent()) {
                double low = net.expect().get().ohms().get().low();
                assertThat(bench.ohms(net.name(), board.ground()))
                        .as(net.name())
                        .isGreaterThan(0.3 * low);
            }
        }
    }

    @Test
    void aShortReadsAndHeatsWhereItIs() {
        BoardIndex board = new BoardIndex(RandomBoard.draw(5));
        Part cap = firstOf(board, PartKind.CAPACITOR);
        String rail = board.powerNets(cap).get(0);
        TrueBoard bench = bench(
                board, new Hidden(Kind.SHORTED_CAPACITOR, List.of(new Path(cap.ref(), rail, board.ground(), 0.2))));

        assertThat(bench.ohms(rail, board.ground())).isCloseTo(0.2, within(0.01));
        assertThat(bench.diode(rail, board.ground())).isLessThan(0.001);
        assertThat(bench.inject(rail, 1, 2, 0.05).faultWatts())
                .hasEntrySatisfying(cap.ref(), watts -> assertThat(watts).isCloseTo(0.2 * 4, within(0.001)));
        bench.remove(cap.ref());
        assertThat(bench.ohms(rail, board.ground())).isGreaterThan(1);
    }

    @Test
    void whatIsMissingMustBePutBackAndWhatIsUnpluggedToo() {
        BoardIndex board = new BoardIndex(RandomBoard.draw(6));
        Part chip = board.parts().stream()
                .filter(p -> !p.supplies().isEmpty())
                .findFirst()
                .orElseThrow();
        TrueBoard bench = bench(board, new Hidden(Kind.DEAD_REGULATOR, List.of(new Silent(chip.ref()))));

        assertThat(bench.well()).isFalse();
        assertThat(bench.power(port(board), true).boots()).isFalse();
        bench.remove(chip.ref());
        assertThat(bench.well()).as("its place is empty").isFalse();
        bench.renew(chip.ref());
        assertThat(bench.well()).isTrue();
        assertThat(bench.power(port(board), true).boots()).isTrue();
        bench.unplug(port(board));
        assertThat(bench.well()).isFalse();
    }

    @Test
    void aPortWithoutContactTakesNothing() {
        BoardIndex board = new BoardIndex(RandomBoard.draw(7));
        TrueBoard bench = bench(board, new Hidden(Kind.DAMAGED_PORT, List.of(new Broken(port(board)))));

        assertThat(bench.power(port(board), true).amps()).isZero();
    }

    @ParameterizedTest
    @EnumSource(Kind.class)
    void everyKindOfFaultFindsABoardThatCanHaveIt(Kind kind) {
        boolean found = LongStream.range(1, 30)
                .mapToObj(seed -> Hidden.draw(kind, new BoardIndex(RandomBoard.draw(seed)), new Random(seed)))
                .anyMatch(Optional::isPresent);

        assertThat(found).isTrue();
    }

    private static Step step(Action action, String target) {
        return new Step(
                action,
                Optional.of(target),
                OptionalDouble.of(0.5),
                OptionalDouble.of(2),
                Reason.LIKELY_FAULT,
                List.of());
    }

    @Test
    void theTechnicianWritesDownWhatTheBenchShowsAndIsCountedForWhatHeTakesOff() {
        BoardIndex board = new BoardIndex(RandomBoard.draw(8));
        Part cap = firstOf(board, PartKind.CAPACITOR);
        String rail = board.powerNets(cap).get(0);
        String innocent = board.parts().stream()
                .filter(p -> p.kind() == PartKind.CAPACITOR && !p.ref().equals(cap.ref()))
                .findFirst()
                .orElseThrow()
                .ref();
        Technician technician = new Technician(
                board,
                new Hidden(Kind.SHORTED_CAPACITOR, List.of(new Path(cap.ref(), rail, board.ground(), 0.1))),
                new Random(2));

        assertThat(technician.does(step(Action.READ, rail))).isTrue();
        assertThat(technician.does(step(Action.INJECT, rail))).isTrue();
        assertThat(technician.does(step(Action.IMAGE, rail))).isTrue();
        assertThat(technician.does(step(Action.READ, "nowhere"))).isFalse();
        assertThat(technician.entries())
                .hasSize(5)
                .anyMatch(Read.class::isInstance)
                .anyMatch(Warm.class::isInstance);
        technician.does(step(Action.REMOVE, innocent));
        technician.does(step(Action.REMOVE, cap.ref()));

        assertThat(technician.wrongRemovals()).isEqualTo(1);
        assertThat(technician.overstress()).isZero();
        assertThat(technician.minutes()).isEqualTo(1 + 4 + 3 + 8 + 8);
    }

    /** Floors under the measured shares; the figures are in docs/evaluation.md. */
    @Test
    void theAdviceLeadsOnToTheEnd() {
        Hunts hunts = new Hunts(List.of());
        List<Told> told = LongStream.range(200, 218)
                .mapToObj(seed -> hunts.play(seed, Player.ADVICE))
                .toList();

        assertThat(told).noneMatch(t -> t.end() == End.FALSE_PROOF).allMatch(t -> t.overstress() == 0);
        assertThat(told.stream().filter(t -> t.end() == End.SOLVED).count()).isGreaterThanOrEqualTo(16);
        assertThat(told.stream().mapToInt(Told::wrongRemovals).sum()).isLessThanOrEqualTo(3);
    }

    @Test
    void theSameSeedPlaysTheSameHunt() {
        Hunts hunts = new Hunts(List.of());

        assertThat(hunts.play(21, Player.ADVICE)).isEqualTo(hunts.play(21, Player.ADVICE));
        assertThat(hunts.play(21, Player.CHECKLIST).steps()).isNotEmpty();
        assertThat(hunts.play(21, Player.LIKELIEST_FIRST).wrongRemovals()).isNotNegative();
    }

    @Test
    void boardsThatCannotStartAreRefused() {
        Board drawn = RandomBoard.draw(1);
        Board deaf = drawn.withParts(drawn.parts().stream()
                .filter(p -> p.supplies().isEmpty() || p.ref().isEmpty())
                .toList());
        assertThat(new Hunts(List.of(drawn))).isNotNull();
        assertThatThrownBy(() -> new Hunts(List.of(deaf))).hasMessageContaining("none of the 1 boards starts");
    }
}
