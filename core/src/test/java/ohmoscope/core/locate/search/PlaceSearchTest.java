package ohmoscope.core.locate.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.PositionPrior;
import ohmoscope.core.locate.search.PlaceSearch.Shift;
import ohmoscope.core.locate.search.PlaceSearch.Way;
import org.junit.jupiter.api.Test;

/** On hills whose tops and widths are known. */
class PlaceSearchTest {
    private static final HeatSource START = new HeatSource(10, 10, Side.TOP, 0.2, 0.1);

    /** A Gaussian hill with the given top, one sigma along each axis, and how they lean on each other. */
    private static PlaceSearch hill(double x, double y, double sigmaX, double sigmaY, double correlation) {
        return new PlaceSearch(source -> {
            double u = (source.xMm() - x) / sigmaX;
            double v = (source.yMm() - y) / sigmaY;
            double d2 = (u * u + v * v - 2 * correlation * u * v) / (1 - correlation * correlation);
            return new Score(100 - d2 / 2, 1, 0.1);
        });
    }

    @Test
    void aShiftIsHeldBackByItsPrior() {
        PlaceSearch search = hill(10.4, 9.8, 0.3, 0.3, 0);
        Shift free = search.shifted(PositionPrior.of(START, 50));
        assertThat(free.dxMm()).isCloseTo(0.4, within(1e-4));
        assertThat(free.dyMm()).isCloseTo(-0.2, within(1e-4));
        // As sure of the board as of the picture: half-way.
        PositionPrior sure = PositionPrior.of(START, 0.3);
        Shift held = search.shifted(sure);
        assertThat(held.dxMm()).isCloseTo(0.2, within(1e-6));
        assertThat(held.dyMm()).isCloseTo(-0.1, within(1e-6));
        assertThat(search.penalised(sure, held)).isGreaterThan(search.penalised(sure, free));
    }

    /** Here the frames know only where the body is: a shift of the feed alone gains nothing, one that takes it along does. */
    @Test
    void aShiftMayTakeTheBodyAlong() {
        Function<HeatSource, Score> body =
                source -> new Score(100 - Math.pow((source.bodyDxMm() - 0.3) / 0.1, 2) / 2 - source.bodyDyMm(), 1, 0.1);
        PositionPrior loose = PositionPrior.of(START, 50);
        assertThat(new PlaceSearch(body).shifted(loose)).isEqualTo(new Shift(0, 0));
        Shift laid = new PlaceSearch(body, Way.LAID).shifted(loose);
        assertThat(laid.dxMm()).isCloseTo(0.3, within(1e-3));
        assertThat(new PlaceSearch(body, Way.LAID).penalised(loose, laid)).isGreaterThan(99.9);
        HeatSource carried = START.carried(0.3, -0.1).carried(0.1, 0);
        assertThat(carried.xMm()).isCloseTo(10.4, within(1e-12));
        assertThat(carried.bodyDxMm()).isCloseTo(0.4, within(1e-12));
        assertThat(carried.bodyInPlace()).isFalse();
        assertThat(START.moved(1, 1).bodyInPlace()).isTrue();
    }

    @Test
    void onThePlaceItselfNothingIsShifted() {
        assertThat(hill(10, 10, 0.5, 0.2, 0).shifted(PositionPrior.of(START, 1)))
                .isEqualTo(new Shift(0, 0));
    }

    @Test
    void noStepGoesFartherThanThePriorAllows() {
        Shift shift = hill(30, 10, 5, 5, 0).shifted(PositionPrior.of(START, 0.2));
        assertThat(shift.dxMm()).isBetween(0.0, 0.8);
    }

    @Test
    void aClimbEndsOnTheTop() {
        PlaceSearch.Top found = hill(12.3, 7.7, 0.6, 0.9, 0.5).climbed(START, 0.8, 0.01);
        HeatSource top = found.source();
        assertThat(found.logLikelihood()).isCloseTo(100, within(0.01));
        assertThat(top.xMm()).isCloseTo(12.3, within(0.03));
        assertThat(top.yMm()).isCloseTo(7.7, within(0.03));
        assertThat(top.side()).isEqualTo(Side.TOP);
    }

    @Test
    void aClimbOnAPlainEnds() {
        AtomicInteger asked = new AtomicInteger();
        PlaceSearch plain = new PlaceSearch(source -> {
            asked.incrementAndGet();
            return new Score(0, 0, 1);
        });
        assertThat(plain.climbed(START, 0.8, 0.1).source()).isEqualTo(START);
        assertThat(asked.get()).isLessThan(30);
    }

    @Test
    void aPlaceNearTheTopSettlesOnIt() {
        AtomicInteger asked = new AtomicInteger();
        PlaceSearch hill = hill(10.17, 9.88, 0.6, 0.3, 0.4);
        HeatSource top = new PlaceSearch(source -> {
                    asked.incrementAndGet();
                    return new Score(hill.penalised(PositionPrior.of(source, 1), new Shift(0, 0)), 1, 0.1);
                })
                .settled(START)
                .source();
        assertThat(top.xMm()).isCloseTo(10.17, within(1e-9));
        assertThat(top.yMm()).isCloseTo(9.88, within(1e-9));
        assertThat(asked.get()).isLessThan(20);
    }

    @Test
    void noSettlingStepIsLongerThanTheStencil() {
        HeatSource reached = hill(14, 10, 0.6, 0.3, 0).settled(START).source();
        assertThat(reached.xMm()).isBetween(10.5, 10.75 + 1e-9);
    }

    /** A ridge whose curvature at the start sends Newton far beyond the top. */
    @Test
    void aStepTooFarIsHalved() {
        PlaceSearch ridge = new PlaceSearch(source -> {
            double d = source.xMm() - 10.06;
            return new Score(100 - Math.pow(Math.abs(d), 1.2) - Math.pow(source.yMm() - 10, 2), 1, 0.1);
        });
        HeatSource reached = ridge.settled(START).source();
        assertThat(reached.xMm()).isGreaterThan(10.01).isCloseTo(10.06, within(0.05));
    }

    @Test
    void theCovarianceIsThatOfTheHill() {
        double[][] found = hill(10, 10, 0.6, 0.3, 0.4).settled(START).covariance();
        assertThat(found[0][0]).isCloseTo(0.36, within(1e-6));
        assertThat(found[1][1]).isCloseTo(0.09, within(1e-6));
        assertThat(found[0][1]).isCloseTo(0.4 * 0.6 * 0.3, within(1e-6));
        assertThat(found[1][0]).isEqualTo(found[0][1]);
    }

    @Test
    void aPlaceAgreesThatIsNearAndNoLessKnown() {
        PlaceSearch.Settled one = hill(10, 10, 0.2, 0.2, 0).settled(START);
        assertThat(one.sigmaMm()).isCloseTo(0.2, within(1e-6));
        assertThat(one.agrees(one, 2, 0.5)).isTrue();
        assertThat(one.agrees(new PlaceSearch.Settled(START.moved(0.8, 0), one.covariance()), 2, 0.5))
                .isTrue();
        assertThat(one.agrees(new PlaceSearch.Settled(START.moved(1, 0), one.covariance()), 2, 0.5))
                .isFalse();
        double[][] vague = {{4, 0}, {0, 4}};
        assertThat(one.agrees(new PlaceSearch.Settled(START, vague), 2, 0.5)).isFalse();
    }

    @Test
    void onAPlainNothingIsKnownOfThePlace() {
        double[][] found =
                new PlaceSearch(source -> new Score(0, 0, 1)).settled(START).covariance();
        assertThat(found[0][0]).isCloseTo(1000, within(1e-6));
        assertThat(found[0][1]).isZero();
    }
}
