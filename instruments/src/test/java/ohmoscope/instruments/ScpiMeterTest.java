package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.Test;

class ScpiMeterTest {
    @Test
    void eachModeReadsTheBoard() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiMeter meter = bench.meter()) {
            assertThat(meter.identity()).contains("Stand-in meter");
            assertThat(meter.read(ReadMode.OHMS).value().orElseThrow()).isEqualTo(OnBench.FAULT_OHMS, within(0.02));
            assertThat(meter.read(ReadMode.DIODE).value().orElseThrow()).isLessThan(0.01);
            assertThat(meter.read(ReadMode.CONTINUITY).value()).isPresent();
            assertThat(meter.read(ReadMode.VOLTS).value().orElseThrow()).isEqualTo(0, within(0.01));
        }
        try (OnBench whole = new OnBench(OnBench.NONE, OnBench.NONE, false);
                ScpiMeter meter = whole.meter()) {
            assertThat(meter.read(ReadMode.CONTINUITY).value()).isEmpty();
            assertThat(meter.read(ReadMode.OHMS).value().orElseThrow()).isGreaterThan(100);
        }
    }

    @Test
    void itStandsOnTheSameBoardAsTheSupply() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiSupply supply = bench.supply(Duration.ofSeconds(5));
                ScpiMeter meter = bench.meter()) {
            supply.set(new SupplySetting(1, 2));
            supply.on();
            supply.shown();
            // The drop over the short itself: the leads' is left out.
            assertThat(meter.read(ReadMode.VOLTS).value().orElseThrow())
                    .isEqualTo(2 * OnBench.FAULT_OHMS, within(0.02));
        }
    }

    @Test
    void aModeWithoutWordsIsRefusedAndALostLineSetsItAnew() throws Exception {
        try (OnBench bench = new OnBench();
                ScpiMeter meter = bench.meter()) {
            assertThat(catchThrowableOfType(InstrumentException.class, () -> meter.read(ReadMode.VOLTS_AC))
                            .trouble())
                    .isEqualTo(Trouble.REFUSED);
            meter.read(ReadMode.OHMS);
            bench.meterServer.hangUp();
            assertThat(catchThrowableOfType(InstrumentException.class, () -> meter.read(ReadMode.OHMS))
                            .trouble())
                    .isEqualTo(Trouble.LOST);
            long before =
                    bench.log.stream().filter(l -> l.endsWith("< CONF:RES")).count();
            meter.read(ReadMode.OHMS);
            assertThat(bench.log.stream().filter(l -> l.endsWith("< CONF:RES"))).hasSize((int) before + 1);
        }
    }
}
