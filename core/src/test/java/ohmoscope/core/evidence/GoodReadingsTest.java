package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.junit.jupiter.api.Test;

class GoodReadingsTest {
    private static final Board BOARD = PowerFixtures.board();

    @Test
    void aProvenJobTeachesTheLastOfEachNetAndModeWithItsPointAndLead() {
        List<Good> good = GoodReadings.after(
                BOARD,
                Typed.entries(
                        BOARD,
                        "VMAIN d .002",
                        "replaced C3",
                        "VMAIN d .41",
                        "C3 VMAIN d .42 red",
                        "EN3 d .61 black",
                        "V3 v 3.3 charger"),
                2);
        assertThat(good)
                .containsExactlyInAnyOrder(
                        new Good("VMAIN", ReadMode.DIODE, 0.42, true, Optional.of("C3"), Optional.empty()),
                        new Good("EN3", ReadMode.DIODE, 0.61, false, Optional.empty(), Optional.empty()));
    }

    @Test
    void theOtherWayRoundIsAnotherJunction() {
        Good red = new Good("EN3", ReadMode.DIODE, 0.6);
        Good black = new Good("EN3", ReadMode.DIODE, 1.4, false, Optional.empty(), Optional.empty());
        assertThat(range(GoodReadings.onto(BOARD, List.of(red, black))))
                .hasValueSatisfying(e ->
                        assertThat(e.diodeVolts().orElseThrow().contains(1.4)).isFalse());
        assertThat(range(GoodReadings.onto(BOARD, List.of(black))).flatMap(Expectation::diodeVolts))
                .isEmpty();
    }

    @Test
    void measuredOnesReplaceThoseOfAClassAndNoBoardsOwn() {
        List<Good> good = List.of(new Good("VMAIN", ReadMode.DIODE, 0.7));
        assertThat(GoodReadings.onto(BOARD, good)).isEqualTo(BOARD);
        assertThat(GoodReadings.onto(BOARD, good, true)
                        .net("VMAIN")
                        .flatMap(Net::expect)
                        .flatMap(Expectation::diodeVolts)
                        .orElseThrow()
                        .contains(0.7))
                .isTrue();
    }

    private static Optional<Expectation> range(Board board) {
        return board.net("EN3").flatMap(Net::expect);
    }
}
