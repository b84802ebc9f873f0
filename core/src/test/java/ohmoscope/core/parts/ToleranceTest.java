package ohmoscope.core.parts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.Tolerance.Why;
import org.junit.jupiter.api.Test;

class ToleranceTest {
    private static final Board PLAIN = PowerFixtures.board();

    private static Optional<Why> why(Part part, Part... others) {
        List<Net> nets = Stream.concat(
                        PLAIN.nets().stream(),
                        Stream.of("S_A", "S_B")
                                .map(n -> new Net(n, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty())))
                .toList();
        List<Part> parts = Stream.concat(Stream.of(part), Stream.of(others)).toList();
        BoardIndex board = new BoardIndex(new Board(
                PLAIN.name(),
                PLAIN.revision(),
                PLAIN.outline(),
                PLAIN.thicknessMm(),
                PLAIN.copperLayers(),
                PLAIN.copperUm(),
                nets,
                parts,
                List.of(),
                List.of()));
        return Tolerance.of(board, part).map(Tolerance::why);
    }

    private static Part resistor(String ref, String a, String b) {
        return Fixtures.twoPin(ref, PartKind.RESISTOR, 5, 5, a, b);
    }

    @Test
    void aCapacitorSteadiesARailOrSetsATime() {
        assertThat(why(Fixtures.twoPin("C1", PartKind.CAPACITOR, 5, 5, "VMAIN", "GND")))
                .hasValue(Why.STEADIES);
        assertThat(why(Fixtures.twoPin("C1", PartKind.CAPACITOR, 5, 5, "S_A", "GND")))
                .hasValue(Why.TIMES);
    }

    @Test
    void aResistorDividesOnlyWithAnother() {
        Part upper = resistor("R1", "VMAIN", "S_A");
        Part lower = resistor("R2", "S_A", "GND");
        assertThat(why(upper)).hasValue(Why.PULLS);
        assertThat(why(upper, lower)).hasValue(Why.DIVIDES);
        assertThat(why(lower, upper)).hasValue(Why.DIVIDES);
        assertThat(why(upper, resistor("R2", "S_B", "GND"))).hasValue(Why.PULLS);
    }

    @Test
    void acrossAShuntCurrentIsMeasured() {
        Part shunt = Fixtures.withOhms(resistor("R1", "VMAIN", "VBUS"), 0.01);
        assertThat(why(shunt)).hasValue(Why.MEASURES);
    }

    @Test
    void ofOthersNothingIsSaid() {
        assertThat(why(Fixtures.twoPin("L1", PartKind.INDUCTOR, 5, 5, "VMAIN", "VBUS")))
                .isEmpty();
        assertThat(why(resistor("R1", "S_A", "S_B"))).isEmpty();
    }
}
