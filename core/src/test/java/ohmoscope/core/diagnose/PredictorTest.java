package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.Twin;
import org.junit.jupiter.api.Test;

class PredictorTest {
    private static final Meter METER = new Meter(Meter.Mode.OHMS, "VMAIN", "GND", true);

    private final BoardIndex board = new BoardIndex(PowerFixtures.board());
    private final Twin twin = new Twin(board);

    @Test
    void whatWasAskedBeforeCostsNothingAndTooMuchEndsWithTheReason() {
        Predictor predictor = new Predictor(board, twin, 100);
        for (int again = 0; again < 1000; again++) {
            assertThat(predictor.read(METER, BoardState.WHOLE, List.of()).low()).isPositive();
        }
        assertThatThrownBy(() -> {
                    for (int ohms = 1; ohms < 200; ohms++) {
                        predictor.read(METER, BoardState.WHOLE, List.of(new Bridge("C3", "VMAIN", "GND", ohms)));
                    }
                })
                .isInstanceOf(ArithmeticException.class)
                .hasMessageContaining("nets are joined");
    }

    @Test
    void aBridgeIsTheSameWhicheverPartHasIt() {
        Predictor predictor = new Predictor(board, twin, 100);
        Band first = predictor.read(METER, BoardState.WHOLE, List.of(new Bridge("C3", "VMAIN", "GND", 0.5)));
        for (String ref : List.of("C4", "C5", "U1", "U2", "R1", "F1")) {
            assertThat(predictor.read(METER, BoardState.WHOLE, List.of(new Bridge(ref, "VMAIN", "GND", 0.5))))
                    .isSameAs(first);
        }
    }
}
