package ohmoscope.trials.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.sim.BenchSetup;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class TrialsTest {
    private static BenchSetup draw(TrialKind kind, long seed) {
        return Trials.draw(kind, seed, OptionalDouble.empty());
    }

    private static Part fault(BenchSetup setup) {
        return setup.board().part(setup.faults().keySet().iterator().next()).orElseThrow();
    }

    @ParameterizedTest
    @EnumSource(TrialKind.class)
    void eachKindIsWhatItsNameSays(TrialKind kind) {
        for (long seed = 1; seed <= 12; seed++) {
            BenchSetup setup = draw(kind, seed);
            if (kind == TrialKind.NOTHING) {
                assertThat(setup.faults()).isEmpty();
                boolean ground = setup.feedNet().equals("GND");
                assertThat(ground ^ setup.oddities().cableOhms() > 0).isTrue();
                continue;
            }
            Part fault = fault(setup);
            assertThat(fault.touches(setup.rail())).isTrue();
            assertThat(setup.feedRef()).isNotEqualTo(fault.ref());
            boolean seen = setup.views().stream().anyMatch(v -> v.side() == fault.side());
            assertThat(seen).isEqualTo(kind != TrialKind.FAR_SIDE);
            switch (kind) {
                case CHIP -> assertThat(fault.kind()).isEqualTo(PartKind.IC);
                case BANK -> assertThat(fault.kind()).isEqualTo(PartKind.CAPACITOR);
                case SERIES_WARM ->
                    assertThat(Rail.between(setup.board(), setup.feedNet(), setup.rail())
                                    .path())
                            .hasSize(1);
                case SHIELDED ->
                    assertThat(setup.board().parts())
                            .anyMatch(p -> p.kind() == PartKind.SHIELD
                                    && p.side() == fault.side()
                                    && p.covers(fault.xMm(), fault.yMm(), 0));
                case PULSED -> assertThat(setup.supply().pulses()).isGreaterThan(3);
                case TWO_VIEWS ->
                    assertThat(setup.views().stream().map(BenchSetup.View::side))
                            .contains(Side.TOP, Side.BOTTOM);
                case NUDGED -> assertThat(setup.oddities().nudgePx()).isGreaterThan(0.5);
                case HANDHELD -> assertThat(setup.camera().shakePx()).isGreaterThan(0.5);
                case WIRE_HOT -> assertThat(setup.supply().leadOhms()).isGreaterThan(0.1);
                default -> assertThat(setup.supply().limitAmps()).isPositive();
            }
        }
    }

    @Test
    void theSameSeedIsTheSameHunt() {
        assertThat(draw(TrialKind.PLAIN, 5)).usingRecursiveComparison().isEqualTo(draw(TrialKind.PLAIN, 5));
        assertThat(draw(TrialKind.PLAIN, 5).faults())
                .isNotEqualTo(draw(TrialKind.PLAIN, 6).faults());
    }

    @Test
    void theWattsAreThoseAskedFor() {
        BenchSetup setup = Trials.draw(TrialKind.PLAIN, 7, OptionalDouble.of(0.02));
        double ohms = setup.faults().values().iterator().next();
        double amps = setup.supply().limitAmps();
        assertThat(amps * amps * ohms).isCloseTo(0.02, within(1e-9));
        assertThat(TrialKind.FAR_SIDE.label()).isEqualTo("far-side");
        assertThat(TrialKind.FAINT.watts(0)).isEqualTo(0.0025);
        assertThat(TrialKind.FAINT.watts(1)).isCloseTo(0.005, within(1e-12));
    }
}
