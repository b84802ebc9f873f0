package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation;
import org.junit.jupiter.api.Test;

class ChainTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Chain of(String ref, boolean open, String said, String... lines) {
        List<Observation> entries = Typed.entries(BOARD, lines);
        return Chain.of(BOARD, BOARD.part(ref).orElseThrow(), "VMAIN", open, Cause.of(said, entries), entries);
    }

    @Test
    void aShortedRailLeavesDarkWhatItFeeds() {
        Chain chain = of("C3", false, "wet in the rain", "dead", "charger J1 5V 1.9A", "look C3 corroded");
        assertThat(chain.cause()).contains(Cause.Kind.LIQUID);
        assertThat(chain.shorts()).isTrue();
        assertThat(chain.down()).containsExactly("VMAIN");
        assertThat(chain.dark()).contains("V3", "VCORE").doesNotContain("VMAIN", "VIN");
        assertThat(chain.drew().orElseThrow().amps()).hasValue(1.9);
        assertThat(chain.showed()).isPresent();
    }

    @Test
    void anOpenFuseLeavesDarkWhatStandsBehindIt() {
        Chain chain = of("F1", true, "");
        assertThat(chain.shorts()).isFalse();
        assertThat(chain.down()).containsExactly("VIN");
        assertThat(chain.dark()).startsWith("VMAIN");
        assertThat(chain.cause()).as("nothing was said or seen").isEmpty();
        assertThat(chain.drew()).isEmpty();
    }

    @Test
    void aPartOnAnotherRailPullsItsOwnDown() {
        assertThat(of("C5", false, "").down()).containsExactly("V3");
    }
}
