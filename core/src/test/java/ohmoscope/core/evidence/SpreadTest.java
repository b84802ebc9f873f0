package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation.Read;
import org.junit.jupiter.api.Test;

class SpreadTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Optional<Spread> ofLast(String... lines) {
        List<Observation> entries = Typed.entries(BOARD, lines);
        return Spread.of(BOARD, (Read) entries.get(entries.size() - 1), entries);
    }

    @Test
    void theSamePointReadAgainKeepsItsSpread() {
        assertThat(ofLast("V3 ohm 2")).isEmpty();
        assertThat(ofLast("V3 ohm 2", "V3 ohm 2.4")).contains(new Spread(2, 2, 2.4));
        assertThat(ofLast("V3 ohm 2", "V3 ohm OL").orElseThrow().contact()).isTrue();
        assertThat(ofLast("V3 ohm 2", "V3 ohm 2.4").orElseThrow().contact()).isFalse();
        assertThat(ofLast("V3 ohm 2", "V3 d .2")).isEmpty();
    }

    /** Neither is a contact. */
    @Test
    void whatWasChangedOrDrivenBetweenIsAnotherBoard() {
        assertThat(ofLast("V3 ohm .2", "removed C5", "V3 ohm 900")).isEmpty();
        assertThat(ofLast("V3 ohm .2", "inj V3 1V 4A .3V 4A", "V3 ohm 900")).isEmpty();
    }
}
