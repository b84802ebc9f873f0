package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Random;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.Test;

class ScpiSupplyTest {
    private static final Duration PATIENT = Duration.ofSeconds(5);

    private static Trouble trouble(org.assertj.core.api.ThrowableAssert.ThrowingCallable call) {
        return catchThrowableOfType(InstrumentException.class, call).trouble();
    }

    @Test
    void limitsAreSetAndReadBackBeforeAnythingFlows() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiSupply supply = bench.supply(PATIENT)) {
            SupplySetting set = supply.set(new SupplySetting(1, 2, OptionalDouble.of(1.5), OptionalDouble.of(2.5)));
            assertThat(set.volts()).isEqualTo(1);
            assertThat(set.amps()).isEqualTo(2);
            assertThat(bench.supply.on()).isFalse();
            assertThat(supply.shown().amps()).isEqualTo(0, within(0.01));
            int limit = index(bench, "CURR 2.0000");
            assertThat(limit).isLessThan(index(bench, "VOLT 1.0000"));
            supply.on();
            Supply.Shown shown = supply.shown();
            assertThat(shown.on()).isTrue();
            assertThat(shown.limiting()).isTrue();
            assertThat(shown.amps()).isEqualTo(2, within(0.05));
            // Two amperes through the short and the leads.
            assertThat(shown.volts()).isEqualTo(2 * (OnBench.FAULT_OHMS + OnBench.LEAD_OHMS), within(0.03));
            supply.off();
            assertThat(bench.supply.on()).isFalse();
        }
    }

    private static int index(OnBench bench, String line) {
        for (int i = 0; i < bench.log.size(); i++) {
            if (bench.log.get(i).endsWith("< " + line)) {
                return i;
            }
        }
        throw new AssertionError(line + " was never said");
    }

    @Test
    void lettingGoSwitchesOff() throws Exception {
        try (OnBench bench = new OnBench()) {
            try (ScpiSupply supply = bench.supply(PATIENT)) {
                supply.set(new SupplySetting(1, 1));
                supply.on();
                assertThat(bench.supply.on()).isTrue();
            }
            long until = System.nanoTime() + PATIENT.toNanos();
            while (bench.supply.on() && System.nanoTime() < until) {
                Thread.onSpinWait();
            }
            assertThat(bench.supply.on()).isFalse();
        }
    }

    @Test
    void whatItDoesNotTakeIsRefusedWithItsReason() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiSupply supply = bench.supply(PATIENT)) {
            InstrumentException refused =
                    catchThrowableOfType(InstrumentException.class, () -> supply.set(new SupplySetting(60, 1)));
            assertThat(refused.trouble()).isEqualTo(Trouble.REFUSED);
            assertThat(refused).hasMessageContaining("VOLT 60.0000").hasMessageContaining("out of range");
        }
    }

    @Test
    void protectionThatTripsKeepsItOff() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiSupply supply = bench.supply(PATIENT)) {
            supply.set(new SupplySetting(1, 1, OptionalDouble.of(2), OptionalDouble.of(1.5)));
            supply.on();
            assertThat(supply.shown().on()).isTrue();
            // Protection under what flows there already: it trips, and does not come back by itself.
            bench.supply.apply("CURR:PROT 0.2");
            assertThat(supply.shown().on()).isFalse();
            assertThat(trouble(supply::on)).isEqualTo(Trouble.REFUSED);
        }
    }

    @Test
    void aCableThatIsPulledIsSaidOnceAndItComesBack() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiSupply supply = bench.supply(PATIENT)) {
            assertThat(supply.identity()).contains("Stand-in supply");
            bench.supplyServer.hangUp();
            assertThat(trouble(supply::shown)).isEqualTo(Trouble.LOST);
            assertThat(supply.shown().on()).isFalse();
        }
        try (OnBench bench = new OnBench(new Vices(0, OptionalInt.empty(), OptionalInt.of(5)), OnBench.NONE, true);
                ScpiSupply supply = bench.supply(PATIENT)) {
            int shown = 0;
            for (int i = 0; i < 12; i++) {
                try {
                    supply.shown();
                    shown++;
                } catch (InstrumentException lost) {
                    assertThat(lost.trouble()).isEqualTo(Trouble.LOST);
                }
            }
            assertThat(shown).isBetween(4, 11);
        }
    }

    @Test
    void nobodyThereIsSaidWithTheAddress() throws Exception {
        // A port that nobody is given: one that was just let go of may be another's already.
        Address gone = new Address("127.0.0.1", 1);
        ScpiSupply supply = new ScpiSupply(
                new LineWire(new Place.Tcp(gone), Duration.ofMillis(500), Duration.ZERO),
                OnBench.dialect(Dialect.Kind.SUPPLY),
                System::nanoTime);
        assertThat(catchThrowableOfType(InstrumentException.class, supply::identity))
                .hasMessageContaining(gone.toString());
    }

    @Test
    void whatIsNoNumberIsNeverTakenForOne() throws Exception {
        try (OnBench bench = new OnBench(new Vices(0, OptionalInt.of(3), OptionalInt.empty()), OnBench.NONE, true);
                ScpiSupply supply = bench.supply(PATIENT)) {
            int garbled = 0;
            for (int i = 0; i < 20; i++) {
                try {
                    assertThat(supply.shown().volts()).isEqualTo(0, within(0.01));
                } catch (InstrumentException spoilt) {
                    assertThat(spoilt.trouble()).isEqualTo(Trouble.GARBLED);
                    garbled++;
                }
            }
            assertThat(garbled).isPositive();
        }
    }

    @Test
    void aLateAnswerIsNotTakenForTheNextOne() throws Exception {
        try (OnBench bench = new OnBench(OnBench.late(300), OnBench.NONE, true);
                ScpiSupply hasty = bench.supply(Duration.ofMillis(60));
                ScpiSupply patient = bench.supply(PATIENT)) {
            assertThat(trouble(hasty::identity)).isEqualTo(Trouble.SLOW);
            assertThat(trouble(hasty::shown)).isEqualTo(Trouble.SLOW);
            assertThat(patient.identity()).contains("supply");
            assertThat(patient.shown().volts()).isEqualTo(0, within(0.01));
        }
    }

    /** Whatever is asked for, whenever the cable is pulled: the output is on only where somebody asked for it last. */
    @Test
    void noOutputIsEverOnThatNobodyAskedFor() throws Exception {
        Random random = new Random(20);
        try (OnBench bench = new OnBench()) {
            for (int sequence = 0; sequence < 200; sequence++) {
                try (ScpiSupply supply = bench.supply(PATIENT)) {
                    boolean asked = false;
                    for (int step = 0; step < 6; step++) {
                        try {
                            switch (random.nextInt(5)) {
                                case 0 -> {
                                    asked = true;
                                    supply.on();
                                }
                                case 1 -> {
                                    supply.off();
                                    asked = false;
                                }
                                case 2 -> supply.set(new SupplySetting(random.nextDouble(), 0.1 + random.nextDouble()));
                                case 3 -> supply.shown();
                                default -> bench.supplyServer.hangUp();
                            }
                        } catch (InstrumentException trouble) {
                            // What was asked for may or may not have got through.
                        }
                        assertThat(bench.supply.on() && !asked)
                                .as("sequence %d", sequence)
                                .isFalse();
                    }
                    supply.off();
                } catch (InstrumentException lost) {
                    bench.supply.apply("OUTP OFF");
                }
            }
        }
    }
}
