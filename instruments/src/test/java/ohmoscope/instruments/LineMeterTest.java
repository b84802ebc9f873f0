package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.core.instrument.InlineMeter;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import org.junit.jupiter.api.Test;

class LineMeterTest {
    private static LineMeter saying(String text) {
        return new LineMeter(
                "the test",
                () -> new ByteArrayInputStream(text.getBytes(StandardCharsets.US_ASCII)),
                Duration.ofSeconds(3),
                () -> 5);
    }

    @Test
    void voltsAndAmperesAreReadInWhateverDress() throws Exception {
        assertThat(saying("5.02,1.31\n0.25,5.03,1.29\r\nV=5.04 V, I=-0.02 A\n 12;.5\n")
                        .since())
                .extracting(InlineMeter.Sample::volts, InlineMeter.Sample::amps)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple(5.02, 1.31),
                        org.assertj.core.groups.Tuple.tuple(5.03, 1.29),
                        org.assertj.core.groups.Tuple.tuple(5.04, -0.02),
                        org.assertj.core.groups.Tuple.tuple(12.0, 0.5));
    }

    @Test
    void aLineThatIsNotWholeYetIsWaitedFor() throws Exception {
        assertThat(saying("5.0,1.0\n5.1,1.").since()).hasSize(1);
    }

    @Test
    void wordsWithoutNumbersAreSaidToBeThat() {
        assertThatThrownBy(() -> saying("ready\n".repeat(30)).since())
                .isInstanceOfSatisfying(
                        InstrumentException.class, e -> assertThat(e.trouble()).isEqualTo(Trouble.GARBLED));
        assertThatThrownBy(() -> new LineMeter(
                                "nowhere",
                                () -> {
                                    throw new IOException("no such port");
                                },
                                Duration.ofSeconds(3),
                                () -> 0)
                        .since())
                .isInstanceOfSatisfying(
                        InstrumentException.class, e -> assertThat(e.trouble()).isEqualTo(Trouble.LOST));
    }

    /** A socket does not say that its cable is out; one that says nothing for so long counts as lost. */
    @Test
    void longSilenceIsALoss() throws Exception {
        AtomicLong clock = new AtomicLong();
        LineMeter meter = new LineMeter(
                "the test",
                () -> new ByteArrayInputStream("5,1\n".getBytes(StandardCharsets.US_ASCII)),
                Duration.ofSeconds(3),
                clock::get);
        assertThat(meter.since()).hasSize(1);
        clock.set(2_000_000_000L);
        assertThat(meter.since()).isEmpty();
        clock.set(3_500_000_000L);
        assertThatThrownBy(meter::since).hasMessageContaining("silent for 3 s");
        assertThat(meter.since()).as("opened anew").hasSize(1);
    }

    @Test
    void aHeaderIsNoTrouble() throws Exception {
        List<InlineMeter.Sample> samples = saying("t_s,volts,amps\n0.1,5,0.5\n").since();
        assertThat(samples).hasSize(1);
    }
}
