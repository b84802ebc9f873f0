package ohmoscope.core.rework;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class HeatedBoardTest {
    private final Board board = PowerFixtures.board();
    private final SlabParameters slab = SlabParameters.expected(board);

    private static Heating.Air air(Part part, double nozzleMm, double airC) {
        return new Heating.Air(part.side(), part.xMm(), part.yMm(), new Jet(nozzleMm, 30, airC, 1));
    }

    private Part part(String ref) {
        return board.part(ref).orElseThrow();
    }

    private HeatedBoard.Run blown(String ref, Set<String> screened, double preheatK) {
        return new HeatedBoard(board, part(ref), slab, Set.of()).heated(air(part(ref), 5, 380), screened, 23, preheatK);
    }

    /** What came in is in the board, or has gone to the room. */
    @ParameterizedTest
    @ValueSource(strings = {"C3", "U4", "J1"})
    void noHeatIsLostOrMade(String ref) {
        HeatedBoard.Run run = blown(ref, Set.of(), 0);
        double lost = 0;
        for (int i = 0; i < 400; i++) {
            double before = run.lossWatts();
            run.advance(0.05);
            lost += 0.05 * (before + run.lossWatts()) / 2;
            if (i == 250) {
                run.off();
            }
        }
        assertThat(run.joules()).isGreaterThan(20);
        assertThat(run.storedJoules() + lost).isCloseTo(run.joules(), within(0.01 * run.joules()));
    }

    /** A scrap of board under a nozzle much wider than it: one exponential, towards the air. */
    @Test
    void aScrapUnderAWideNozzleFollowsOneExponential() {
        Part only =
                Part.of("R1", PartKind.RESISTOR, Side.TOP, 2.5, 2.5, 0.2, 0.2, List.of(new Pin("1", "GND", 2.5, 2.5)));
        Board scrap = new Board(
                "scrap",
                "A",
                Fixtures.rectangle(5, 5),
                0.4,
                2,
                35,
                List.of(Fixtures.ground()),
                List.of(only),
                List.of(),
                List.of());
        SlabParameters thin = SlabParameters.expected(scrap);
        Heating.Air wide = air(only, 40, 223);
        HeatedBoard.Run run = new HeatedBoard(scrap, only, thin, Set.of()).heated(wide, Set.of(), 23, 0);
        double gain = wide.jet().middle();
        double all = gain + 2 * 14e-6;
        double risesTo = 200 * gain / all;
        for (double t : new double[] {2, 5, 10}) {
            run.advance(t - run.seconds());
            double told = risesTo * (1 - Math.exp(-all * t / thin.jouleMm2PerK()));
            assertThat(run.coolestK("R1")).isCloseTo(told, within(0.05 * told));
        }
    }

    @Test
    void risesAreInProportionToTheAirs() {
        HeatedBoard heated = new HeatedBoard(board, part("C3"), slab, Set.of());
        HeatedBoard.Run mild = heated.heated(air(part("C3"), 5, 223), Set.of(), 23, 0);
        HeatedBoard.Run hot = heated.heated(air(part("C3"), 5, 423), Set.of(), 23, 0);
        mild.advance(9);
        hot.advance(9);
        assertThat(hot.coolestK("C3")).isCloseTo(2 * mild.coolestK("C3"), within(0.1));
    }

    @Test
    void aScreenKeepsItsPartCoolerAndThePreheaterAllOfThemWarmer() {
        HeatedBoard.Run plain = blown("C3", Set.of(), 0);
        HeatedBoard.Run screened = blown("C3", Set.of("C4"), 0);
        HeatedBoard.Run warmed = blown("C3", Set.of(), 80);
        for (HeatedBoard.Run run : List.of(plain, screened, warmed)) {
            run.advance(12);
        }
        assertThat(screened.hottestK("C4")).isLessThan(0.96 * plain.hottestK("C4"));
        assertThat(screened.coolestK("C3")).isGreaterThan(0.9 * plain.coolestK("C3"));
        assertThat(warmed.coolestK("C3")).isGreaterThan(plain.coolestK("C3") + 15);
        assertThat(warmed.coolestK("C4")).isGreaterThan(plain.coolestK("C4") + 15);
    }

    @Test
    void theOtherFaceIsBehindAndCooler() {
        Part below = Part.of(
                "C9",
                PartKind.CAPACITOR,
                Side.BOTTOM,
                part("C3").xMm(),
                part("C3").yMm(),
                1,
                0.5,
                part("C3").pins());
        Board both = board.withParts(
                Stream.concat(board.parts().stream(), Stream.of(below)).toList());
        HeatedBoard.Run run =
                new HeatedBoard(both, part("C3"), slab, Set.of()).heated(air(part("C3"), 5, 380), Set.of(), 23, 0);
        run.advance(2);
        assertThat(run.jointK("C9")).isBetween(0.2 * run.jointK("C3"), 0.95 * run.jointK("C3"));
        assertThat(OptionalDouble.of(run.hottestK("nobody"))).hasValue(0);
    }
}
