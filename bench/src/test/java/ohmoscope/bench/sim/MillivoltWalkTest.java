package ohmoscope.bench.sim;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.core.inject.MillivoltWalk;
import org.junit.jupiter.api.Test;

/** The walk against copper that is no sheet and no strip: a grid of resistors, uneven and slotted. */
class MillivoltWalkTest {
    private static final String RAIL = "V3A";
    private static final double AMPS = 3;
    private static final double NOISE_VOLTS = 1e-4;
    private static final int MOST_READINGS = 16;
    private static final double SURE = 0.97;

    private final Board board = DemoBoards.beck();
    private final String ground = new BoardIndex(board).ground();

    private PointMm pad(String ref, String net) {
        ProbePlace place = HeatFeed.pad(board, ref, net);
        return new PointMm(place.xMm(), place.yMm());
    }

    private ProbePlace probe(InjectionPlaces.Place place) {
        return new ProbePlace(place.xMm(), place.yMm(), place.side(), Optional.of(place.ref()));
    }

    /** @return the walk's last word */
    private MillivoltWalk walked(String fault, long seed, double ownOhms) {
        Random random = new Random(seed);
        InjectionPlaces places = InjectionPlaces.of(board, RAIL, ground, Map.of(fault, 1.0));
        ProbePlace hot = probe(places.hot().get(0));
        ProbePlace back = probe(places.back().get(0));
        CopperSheet.Potential rail =
                new CopperSheet(board, RAIL, 1, random).between(new PointMm(hot.xMm(), hot.yMm()), pad(fault, RAIL));
        CopperSheet.Potential plane = new CopperSheet(board, ground, 2, random)
                .between(pad(fault, ground), new PointMm(back.xMm(), back.yMm()));
        MillivoltWalk.Copper copper = new MillivoltWalk.Copper(board, RAIL, ground, hot, back);
        List<MillivoltWalk.Point> points = new ArrayList<>();
        MillivoltWalk walk = MillivoltWalk.of(copper, AMPS, NOISE_VOLTS, points);
        while (points.size() < MOST_READINGS
                && walk.next().isPresent()
                && walk.suspects().get(0).probability() < SURE) {
            String at = walk.next().get();
            double ohms = ownOhms + rail.at(pad(at, RAIL)) + plane.at(pad(fault, ground)) - plane.at(pad(at, ground));
            points.add(new MillivoltWalk.Point(at, AMPS * ohms + NOISE_VOLTS * random.nextGaussian()));
            walk = MillivoltWalk.of(copper, AMPS, NOISE_VOLTS, points);
        }
        return walk;
    }

    @Test
    void theFaultIsAmongTheFirstAndNobodyElseIsCalled() {
        int among = 0;
        List<String> faults = List.of("C22", "C40", "C62", "C8", "C28");
        for (int i = 0; i < faults.size(); i++) {
            MillivoltWalk walk = walked(faults.get(i), 70 + i, 0.02 + 0.03 * i);
            String fault = faults.get(i);
            among += walk.suspects().stream().limit(3).anyMatch(s -> s.ref().equals(fault)) ? 1 : 0;
            MillivoltWalk.Suspect first = walk.suspects().get(0);
            if (first.probability() >= SURE) {
                assertThat(first.ref()).isEqualTo(fault);
            }
            assertThat(walk.suspects().stream()
                            .mapToDouble(MillivoltWalk.Suspect::probability)
                            .sum())
                    .isBetween(0.999, 1.001);
        }
        assertThat(among).isGreaterThanOrEqualTo(4);
    }

    @Test
    void beforeAnyReadingNobodyIsLikelierAndTheMiddleIsAskedFor() {
        InjectionPlaces places = InjectionPlaces.of(board, RAIL, ground, Map.of());
        MillivoltWalk.Copper copper = new MillivoltWalk.Copper(
                board,
                RAIL,
                ground,
                probe(places.hot().get(0)),
                probe(places.back().get(0)));
        MillivoltWalk walk = MillivoltWalk.of(copper, AMPS, NOISE_VOLTS, List.of());
        assertThat(walk.next()).isPresent();
        assertThat(walk.suspects()).hasSameSizeAs(copper.readable());
        assertThat(walk.suspects().get(0).probability())
                .isLessThan(2.0 / walk.suspects().size());
    }
}
