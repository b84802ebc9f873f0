package ohmoscope.trials.hunt;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import ohmoscope.bench.truth.Hidden;
import ohmoscope.bench.truth.Hidden.Kind;
import ohmoscope.bench.truth.TrueBoard;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.formats.layout.GenericBoards;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Boards of a class of device work as such devices do. */
class GenericBoardsTest {
    static Stream<GenericBoards.Generic> all() throws IOException {
        return GenericBoards.all().stream();
    }

    @ParameterizedTest
    @MethodSource("all")
    void itStartsWhenNothingIsWrong(GenericBoards.Generic generic) {
        BoardIndex board = new BoardIndex(generic.board());
        TrueBoard bench = new TrueBoard(board, new Hidden(Kind.SHORTED_CAPACITOR, List.of()), new Random(1));
        bench.battery(false);
        PowerTree tree = PowerTree.of(board);
        assertThat(bench.power(tree.inputs().get(0).ref(), true).boots()).isTrue();
        assertThat(tree.battery()).map(Part::ref).isPresent();
        assertThat(tree.mainRail()).isIn("VSYS", "V5");
    }

    @ParameterizedTest
    @MethodSource("all")
    void partsStandApartAndOnTheBoard(GenericBoards.Generic generic) {
        Board board = generic.board();
        var inside = board.outline().inside();
        for (Part part : board.parts()) {
            assertThat(part.corners()).as(part.ref()).allMatch(c -> inside.test(c.xMm(), c.yMm()));
            assertThat(board.parts().stream()
                            .filter(p -> p != part && p.side() == part.side())
                            .filter(p -> p.covers(part.xMm(), part.yMm(), 0)))
                    .as(part.ref())
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource("all")
    void adviceOnNothingBeginsAtThePort(GenericBoards.Generic generic) {
        Advice advice = new Advisor(generic.board()).advise(Optional.empty(), "dead", List.of());
        assertThat(advice.next().get(0).target()).contains("J1");
        assertThat(advice.hypotheses()).isNotEmpty();
    }

    /** A floor below what is measured: shorted capacitors and dead regulators are found on all of them. */
    @Test
    void faultsAreFoundOnThem() throws IOException {
        Hunts hunts = new Hunts(all().map(GenericBoards.Generic::board).toList());
        long solved = Stream.iterate(41_000L, s -> s + 1)
                .limit(Kind.values().length)
                .map(s -> hunts.play(s, Hunts.Player.ADVICE))
                .filter(t -> t.end() == Hunts.End.SOLVED)
                .count();
        assertThat(solved).isGreaterThanOrEqualTo(Kind.values().length - 3L);
    }
}
