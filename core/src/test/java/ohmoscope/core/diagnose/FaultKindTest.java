package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.stream.Stream;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.evidence.Observation.LookFinding;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

class FaultKindTest {
    private static final BoardIndex BOARD = new BoardIndex(PowerFixtures.board());
    private static final Surroundings AROUND = Surroundings.of(BOARD, PowerTree.of(BOARD));

    private static Stream<FaultKind> kinds() {
        return FaultKind.ALL.stream();
    }

    private static List<Suspicion> on(Code code, String ref) {
        return FaultKind.of(code).of(AROUND, BOARD.part(ref).orElseThrow());
    }

    @ParameterizedTest
    @EnumSource(Code.class)
    void everyCodeHasItsKind(Code code) {
        assertThat(FaultKind.of(code).code).isEqualTo(code);
        assertThat(kinds().filter(k -> k.code == code)).hasSize(1);
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void formsOfASuspicionSumToOneAndAreTheKindsOwn(FaultKind kind) {
        Stream<Suspicion> ofParts = BOARD.parts().stream().flatMap(p -> kind.of(AROUND, p).stream());
        assertThat(Stream.concat(ofParts, kind.of(AROUND).stream()).toList()).allSatisfy(s -> {
            assertThat(s.code()).isEqualTo(kind.code);
            assertThat(s.prior()).isPositive();
            assertThat(s.variants().stream()
                            .mapToDouble(Suspicion.Variant::weight)
                            .sum())
                    .isCloseTo(1, within(0.01));
        });
    }

    @ParameterizedTest
    @CsvSource({
        "SHORT, C3, 1",
        "SHORT, Q1, 2",
        "SHORT, U1, 4",
        "SHORT, J3, 1",
        "SHORT, R1, 0",
        "LEAKY, C3, 1",
        "LEAKY, Q3, 3",
        "LEAKY, U4, 2",
        "OPEN, F1, 1",
        "OPEN, R1, 1",
        "OPEN, Q1, 1",
        "OPEN, C3, 0",
        "DEAD_CONTROLLER, U1, 1",
        "DEAD_CONTROLLER, C3, 0",
        "DAMAGED_PORT, J1, 1",
        "DAMAGED_PORT, J2, 0",
        "BATTERY, J2, 1",
        "BATTERY, J1, 0",
        "NOT_FITTED, J3, 1",
        "NOT_FITTED, J1, 0"
    })
    void aPartHasTheFaultsOfItsKind(Code code, String ref, int count) {
        assertThat(on(code, ref)).hasSize(count);
    }

    @Test
    void enablesBelongToNets() {
        assertThat(FaultKind.of(Code.NO_ENABLE).of(AROUND))
                .extracting(Suspicion::target)
                .containsExactlyInAnyOrder("EN3", "ENK");
        assertThat(FaultKind.of(Code.NONE).of(AROUND)).hasSize(1);
    }

    @Test
    void firstBehindThePortIsLikelier() {
        assertThat(on(Code.SHORT, "C1").get(0).prior())
                .isGreaterThan(on(Code.SHORT, "C3").get(0).prior());
        assertThat(on(Code.OPEN, "F1").get(0).prior()).isGreaterThan(1.2);
    }

    @Test
    void aShortedCapacitorIsHarderThanAShortedChip() {
        assertThat(meanLogOhms(on(Code.SHORT, "C3").get(0)))
                .isLessThan(meanLogOhms(on(Code.SHORT, "U1").get(0)));
    }

    private static double meanLogOhms(Suspicion s) {
        return s.variants().stream()
                .mapToDouble(
                        v -> v.weight() * Math.log(((Fault.Bridge) v.faults().get(0)).ohms()))
                .sum();
    }

    @ParameterizedTest
    @CsvSource({
        "SHORT, CLEAN, 0.5, 0.99",
        "SHORT, CRACKED, 5, 50",
        "SHORT, MISSING, 0, 0.5",
        "OPEN, MISSING, 20, 100",
        "LEAKY, BURNT, 2, 8",
        "DEAD_CONTROLLER, BURNT, 2, 8",
        "DAMAGED_PORT, PINS_TOUCHING, 100, 200",
        "DAMAGED_PORT, CLEAN, 0.1, 0.5",
        "NOT_FITTED, MISSING, 20, 100",
        "NOT_FITTED, BURNT, 1, 1",
        "NONE, BURNT, 1, 1"
    })
    void whatWasSeenSpeaksForSomeKindsOnly(Code code, LookFinding finding, double least, double most) {
        assertThat(FaultKind.of(code).look(finding)).isBetween(least, most);
    }

    @Test
    void wordsOfTheCustomerSpeakForTheirKind() {
        Account hot = Account.of("it got hot near the port");
        Account cool = Account.of("it is not hot");
        Suspicion cap = on(Code.SHORT, "C3").get(0);
        assertThat(FaultKind.of(Code.SHORT).said(hot, cap)).isGreaterThan(1);
        assertThat(FaultKind.of(Code.SHORT).said(cool, cap)).isEqualTo(1);
        assertThat(FaultKind.of(Code.LEAKY).said(Account.of("fell into water"), cap))
                .isGreaterThan(1);
    }

    @Test
    void onlyWhatConductsWarms() {
        assertThat(kinds().filter(FaultKind::heats).map(k -> k.code))
                .containsExactlyInAnyOrder(Code.SHORT, Code.LEAKY, Code.DAMAGED_PORT);
        assertThat(kinds().filter(FaultKind::byHeat).map(k -> k.code))
                .containsExactlyInAnyOrder(Code.SHORT, Code.OPEN, Code.DEAD_CONTROLLER);
    }
}
