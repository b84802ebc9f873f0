package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.inject.MoreHelp.Option;
import ohmoscope.core.inject.MoreHelp.Way;
import org.junit.jupiter.api.Test;

class MoreHelpTest {
    private static final Means.Camera CAMERA = new Means.Camera(0.5, 0.07, 9, 0.3);

    private static MoreHelp.Now now(double sigmaMm, double amps, boolean near) {
        return new MoreHelp.Now(SlabParameters.expected(Fixtures.board()), CAMERA, sigmaMm, 0.25, 0.05, amps, 4, near);
    }

    private static Optional<Option> option(List<Option> all, Way way) {
        return all.stream().filter(o -> o.way() == way).findFirst();
    }

    @Test
    void everyWayThatIsToldHelpsAndTheBestLeads() {
        List<Option> all = MoreHelp.of(now(1.2, 1, true), 4);
        assertThat(all)
                .isNotEmpty()
                .isSortedAccordingTo(Comparator.comparingDouble(Option::sigmaMm))
                .allSatisfy(o -> assertThat(o.sigmaMm()).isPositive().isLessThan(0.9 * 1.2));
        assertThat(option(all, Way.FLIP)).isEmpty();
    }

    @Test
    void moreCurrentHelpsByItsSquareUpToWhatTheLeadsCarry() {
        Option free = option(MoreHelp.of(now(2, 2, true), 10), Way.MORE_CURRENT).orElseThrow();
        assertThat(free.value()).isCloseTo(3, within(1e-9));
        assertThat(free.sigmaMm()).isCloseTo(2 / 2.25, within(0.1));
        assertThat(option(MoreHelp.of(now(2, 2, true), 2), Way.MORE_CURRENT)).isEmpty();
    }

    @Test
    void fromTheFarSideTurningOverIsAmongTheBest() {
        List<Option> all = MoreHelp.of(now(1.5, 2, false), 2);
        assertThat(all.get(0).way()).isEqualTo(Way.FLIP);
        assertThat(all.get(0).sigmaMm()).isLessThan(0.6);
    }

    @Test
    void whatHidesThePlaceIsMendedByTurningOverAlone() {
        MoreHelp.Now hidden =
                new MoreHelp.Now(SlabParameters.expected(Fixtures.board()), CAMERA, 1, 0.9, 0.05, 2, 4, false);
        assertThat(MoreHelp.of(hidden, 10)).extracting(Option::way).containsExactly(Way.FLIP);
    }

    @Test
    void whereTheRegistrationRulesOnlyAFinerPictureHelps() {
        Means.Camera wide = new Means.Camera(1, 0.07, 9, 0.6);
        List<Option> all = MoreHelp.of(
                new MoreHelp.Now(SlabParameters.expected(Fixtures.board()), wide, 0.57, 0.25, 0.05, 2, 4, true), 3);
        assertThat(all).extracting(Option::way).contains(Way.CLOSER);
        assertThat(all.get(0).way()).isEqualTo(Way.CLOSER);
    }
}
