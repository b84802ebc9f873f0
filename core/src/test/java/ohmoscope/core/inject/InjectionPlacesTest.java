package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import org.junit.jupiter.api.Test;

class InjectionPlacesTest {
    private final Board board = Fixtures.board();

    @Test
    void theLeadStaysOffTheSuspectsAndWellAwayFromThem() {
        InjectionPlaces places = InjectionPlaces.of(board, "VSYS", "GND", Map.of("C5", 0.6, "C6", 0.3));
        assertThat(places.hot()).hasSizeBetween(1, 3).allSatisfy(p -> {
            assertThat(p.net()).isEqualTo("VSYS");
            assertThat(p.ref()).isNotIn("C5", "C6", "U1");
            assertThat(p.clearMm()).isGreaterThan(8);
        });
        assertThat(places.back()).isNotEmpty().allSatisfy(p -> {
            assertThat(p.net()).isEqualTo("GND");
            assertThat(p.ref()).isNotEqualTo(places.hot().get(0).ref());
        });
    }

    @Test
    void bothEndsOfTheSeriesPartAreTold() {
        InjectionPlaces.Series series =
                InjectionPlaces.of(board, "VSYS", "GND", Map.of()).series().orElseThrow();
        assertThat(series.ref()).isEqualTo("L1");
        assertThat(series.behind().net()).isEqualTo("VSYS");
        assertThat(series.before().net()).isEqualTo("VBUS");
    }

    @Test
    void withoutSuspectsNothingIsNear() {
        assertThat(InjectionPlaces.of(board, "VSYS", "GND", Map.of()).hot())
                .allSatisfy(p -> assertThat(p.clearMm()).isInfinite());
        assertThat(InjectionPlaces.of(board, "S1", "GND", Map.of()).series()).isEmpty();
    }
}
