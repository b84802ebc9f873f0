package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.GateDrive.State;
import org.junit.jupiter.api.Test;

/** BG hangs on VMAIN over R1 (200k) and on the drain of Q3 over R2 (33k). */
class GateDriveTest {
    private final BoardIndex board = new BoardIndex(PowerFixtures.board());

    private GateDrive at(double gateVolts) {
        return GateDrive.of(board, Map.of("VMAIN", 12.0, "BG", gateVolts)).stream()
                .filter(d -> d.net().equals("BG"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void nobodyPulls() {
        GateDrive idle = at(11.8);
        assertThat(idle.state()).isEqualTo(State.IDLE);
        assertThat(idle.idleVolts()).isEqualTo(12);
        assertThat(idle.suspect()).isEmpty();
        assertThat(idle.gates()).extracting(Part::ref).containsExactly("Q2");
    }

    @Test
    void theFetIsOn() {
        // 12 V over 200k and 33k.
        GateDrive on = at(12 * 33.0 / 233);
        assertThat(on.state()).isEqualTo(State.DRIVEN_LOW);
        assertThat(on.suspect()).map(Part::ref).contains("Q3");
    }

    @Test
    void theFetLeaks() {
        // A leak of 47k in series with 33k.
        GateDrive leak = at(12 * 80.0 / 280);
        assertThat(leak.state()).isEqualTo(State.PULLED);
        assertThat(leak.suspect()).map(Part::ref).contains("Q3");
        assertThat(leak.leakOhms().orElseThrow()).isCloseTo(47_000, within(100.0));
    }

    @Test
    void aLineWithoutResistorsIsNotJudged() {
        assertThat(GateDrive.of(board, Map.of("AG", 3.0, "VMAIN", 12.0))).isEmpty();
    }
}
