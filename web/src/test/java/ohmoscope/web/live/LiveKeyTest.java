package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import ohmoscope.core.live.Ending;
import org.junit.jupiter.api.Test;

class LiveKeyTest {
    private final LiveKey key = new LiveKey(Duration.ofSeconds(60));

    @Test
    void nothingFlowsThatNobodyAskedFor() {
        assertThat(key.ending()).contains(Ending.RELEASED);
    }

    @Test
    void isPressedOnceUntilItIsLetGo() {
        assertThat(key.press()).isTrue();
        assertThat(key.press()).isFalse();
        assertThat(key.ending()).isEmpty();
        key.release();
        assertThat(key.ending()).contains(Ending.RELEASED);
        assertThat(key.press()).isTrue();
    }

    @Test
    void goesWithItsPageForGood() {
        key.press();
        key.gone();
        key.press();
        assertThat(key.ending()).contains(Ending.PAGE_GONE);
    }

    @Test
    void isNotHeldByAPageThatIsSilent() {
        LiveKey impatient = new LiveKey(Duration.ofMillis(1));
        impatient.press();
        await().untilAsserted(() -> assertThat(impatient.ending()).contains(Ending.PAGE_GONE));
        impatient.release();
        assertThat(impatient.ending()).contains(Ending.RELEASED);
    }
}
