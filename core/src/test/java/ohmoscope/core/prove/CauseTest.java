package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CauseTest {
    @Test
    void whereNothingIsKnownAgeLeadsAndAllSumToOne() {
        List<Cause> causes = Cause.of("does not charge", List.of());
        assertThat(causes.get(0).kind()).isEqualTo(Cause.Kind.AGE);
        assertThat(causes)
                .hasSize(Cause.Kind.values().length)
                .allSatisfy(c -> assertThat(c.signs()).isEmpty());
        assertThat(causes.stream().mapToDouble(Cause::probability).sum()).isCloseTo(1, within(1e-12));
    }

    @ParameterizedTest
    @CsvSource({
        "stopped after a spill of coffee,LIQUID",
        "dropped and then nothing,FORCE",
        "sparks at the jack with another cable,SUPPLY",
        "another shop had it and replaced the port,EARLIER_WORK",
        "a wallet of coins,AGE"
    })
    void whatWasSaidSpeaksForIt(String account, Cause.Kind kind) {
        assertThat(Cause.of(account, List.of()).get(0).kind()).isEqualTo(kind);
    }

    @Test
    void whatWasSeenOutweighsWhatWasSaid() {
        List<Cause> causes = Cause.of(
                "fell off the bench",
                List.of(new Look(1, "J1", LookFinding.WET_MARK), new Look(2, "C3", LookFinding.CORRODED)));
        assertThat(causes.get(0).kind()).isEqualTo(Cause.Kind.LIQUID);
        assertThat(causes.get(0).signs()).containsExactly(Cause.Sign.SEEN_LIQUID);
        assertThat(causes.get(0).probability()).isBetween(0.4, 0.9);
        assertThat(causes.get(0).probability())
                .isGreaterThan(Cause.of("fell", List.of()).get(0).probability() / 2);
    }
}
