package ohmoscope.core.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.job.Outcome.Stage;
import ohmoscope.core.prove.Proof;
import org.junit.jupiter.api.Test;

class OutcomeTest {
    private static final Board BOARD = PowerFixtures.board();

    /** @param minutes when each line was written down */
    private static Outcome of(List<String> lines, int... minutes) {
        List<Observation> entries = Typed.entries(BOARD, lines.toArray(String[]::new));
        List<Instant> at = Arrays.stream(minutes)
                .mapToObj(m -> Instant.parse("2031-05-24T10:00:00Z").plus(Duration.ofMinutes(m)))
                .toList();
        return Outcome.of(
                Proof.of(BOARD, "VMAIN", entries),
                new Advisor(BOARD).advise(Optional.of("VMAIN"), "", entries).mending(),
                entries,
                at);
    }

    @Test
    void aShortThatIsGoneIsProvenWithWhatWasTakenOffForNothingAndWhereTheTimeWent() {
        Outcome outcome = of(
                List.of(
                        "VMAIN d .002",
                        "inj VMAIN 1V 2A .3V 2A",
                        "warm C3 4K",
                        "removed C2",
                        "VMAIN d .002",
                        "removed C3",
                        "VMAIN d .42"),
                0,
                4,
                6,
                12,
                14,
                20,
                21);
        assertThat(outcome.proven()).isTrue();
        assertThat(outcome.repair().orElseThrow().target()).isEqualTo("C3");
        assertThat(outcome.innocent()).isEqualTo(1);
        assertThat(outcome.firstHeat()).hasValue(4);
        assertThat(outcome.worked())
                .containsEntry(Stage.INJECTING, Duration.ofMinutes(6))
                .containsEntry(Stage.REWORKING, Duration.ofMinutes(12))
                .containsEntry(Stage.PROVING, Duration.ofMinutes(3))
                .doesNotContainKey(Stage.MEASURING);
    }

    @Test
    void aLongPauseIsNoWork() {
        Outcome outcome = of(List.of("VMAIN d .002", "C3 d .002", "VCORE d .3"), 0, 3, 300);
        assertThat(outcome.worked()).containsOnlyKeys(Stage.MEASURING);
        assertThat(outcome.worked().get(Stage.MEASURING)).isEqualTo(Duration.ofMinutes(3));
        assertThat(outcome.proven()).isFalse();
        assertThat(outcome.firstHeat()).isEmpty();
    }

    @Test
    void whatWasWrittenDownInOneGoTellsNothingOfTimes() {
        List<String> lines = List.of("VMAIN d .002", "removed C3 heat", "VMAIN d .45");
        assertThat(of(lines, 0, 0, 9).worked()).isEmpty();
        assertThat(of(lines, 0, 2, 9).worked()).containsOnlyKeys(Stage.REWORKING, Stage.PROVING);
    }

    @Test
    void everyEntryHasItsTime() {
        assertThatThrownBy(() -> Outcome.of(
                        Proof.of(BOARD, "VMAIN", List.of()), Optional.empty(), List.of(), List.of(Instant.EPOCH)))
                .hasMessageContaining("as many times as entries");
    }
}
