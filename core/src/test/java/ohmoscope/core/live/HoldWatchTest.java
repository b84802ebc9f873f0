package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.function.DoubleFunction;
import ohmoscope.core.instrument.Supply.Shown;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.Test;

class HoldWatchTest {
    private static final double LEADS = 0.05;
    private static final SupplySetting SET = new SupplySetting(1, 2);
    private final HoldWatch watch = new HoldWatch(SET, 8, LEADS, 4, 0);

    private static Shown shown(double tS, double volts, double amps) {
        return new Shown(volts, amps, true, false, (long) (tS * 1e9));
    }

    /** Runs ten samples a second. @return when and how it ended */
    private String run(double untilS, DoubleFunction<Shown> supply) {
        for (int i = 1; i <= untilS * 10; i++) {
            Optional<Ending> ending = watch.next(supply.apply(i / 10.0));
            if (ending.isPresent()) {
                return ending.get() + " at " + i / 10.0;
            }
        }
        return "goes on";
    }

    @Test
    void aShortThatHoldsStillFlowsUntilItsTimeIsOver() {
        assertThat(run(20, t -> shown(t, 0.3, 2))).isEqualTo("TIME at 8.0");
        Shown settled = watch.settled().orElseThrow();
        assertThat(settled.amps()).isEqualTo(2);
        assertThat(HoldWatch.ohms(settled, LEADS).getAsDouble()).isCloseTo(0.1, within(1e-9));
    }

    @Test
    void nothingFlowingIsALeadThatDoesNotTouch() {
        assertThat(run(5, t -> shown(t, 1, 0.0004))).isEqualTo("CONTACT_LOST at 0.5");
    }

    @Test
    void whatFlowedAndStopsHasBurnedOrSlipped() {
        assertThat(run(5, t -> t < 2 ? shown(t, 0.3, 2) : shown(t, 1, 0.001))).isEqualTo("CURRENT_GONE at 2.1");
    }

    @Test
    void oneBadSampleIsNotBelieved() {
        assertThat(run(5, t -> Math.abs(t - 2) < 0.01 ? shown(t, 1, 0) : shown(t, 0.3, 2)))
                .isEqualTo("goes on");
    }

    @Test
    void ohmsThatRunAreStopped() {
        assertThat(run(6, t -> shown(t, 2 * (LEADS + 0.1 * (1 + 0.15 * t)), 2))).startsWith("OHMS_RUNNING at 3");
    }

    @Test
    void copperThatWarmsIsNoRunaway() {
        assertThat(run(7, t -> shown(t, 2 * (LEADS + 0.1 * (1 + 0.03 * t)), 2))).isEqualTo("goes on");
    }

    @Test
    void aSupplyThatSwitchedItselfOffOrGivesTooMuchEndsIt() {
        assertThat(watch.next(new Shown(0, 0, false, false, 1))).contains(Ending.SUPPLY_TRIPPED);
        assertThat(watch.next(shown(0.1, 0.3, 3))).contains(Ending.OVER_LIMIT);
        assertThat(watch.next(shown(0.1, 1.4, 1))).contains(Ending.OVER_LIMIT);
    }

    @Test
    void moreThanTheLeadsCarryIsBorneForASecond() {
        HoldWatch thin = new HoldWatch(new SupplySetting(1, 2), 8, LEADS, 1, 0);
        Optional<Ending> ending = Optional.empty();
        int samples = 0;
        while (ending.isEmpty() && samples < 100) {
            samples++;
            ending = thin.next(shown(samples / 10.0, 0.3, 2));
        }
        assertThat(ending).contains(Ending.LEAD_HOT);
        assertThat(samples).isBetween(10, 12);
    }
}
