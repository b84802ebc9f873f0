package ohmoscope.sim;

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

    private final Board board = DemoBoards.beck();
    private final String ground = new BoardIndex(board).ground();

    private static PointMm pad(Board board, String ref, String net) {
        ProbePlace place = HeatFeed.pad(board, ref, net);
        return new PointMm(place.xMm(), place.yMm());
    }

    private ProbePlace probe(InjectionPlaces.Place place) {
        return new ProbePlace(place.xMm(), place.yMm(), place.side(), Optional.of(place.ref()));
    }

    /** @return the walk's last word */
    private MillivoltWalk walked(String fault, long seed, double ownOhms) {
        return walked(board, RAIL, fault, seed, ownOhms);
    }

    private MillivoltWalk walked(Board board, String net, String fault, long seed, double ownOhms) {
        Random random = new Random(seed);
        InjectionPlaces places = InjectionPlaces.of(board, net, ground, Map.of(fault, 1.0));
        ProbePlace hot = probe(places.hot().get(0));
        ProbePlace back = probe(places.back().get(0));
        CopperSheet.Potential rail = new CopperSheet(board, net, 1, random)
                .between(new PointMm(hot.xMm(), hot.yMm()), pad(board, fault, net));
        CopperSheet.Potential plane = new CopperSheet(board, ground, 2, random)
                .between(pad(board, fault, ground), new PointMm(back.xMm(), back.yMm()));
        MillivoltWalk.Copper copper = new MillivoltWalk.Copper(board, net, ground, hot, back);
        List<MillivoltWalk.Point> points = new ArrayList<>();
        MillivoltWalk walk = MillivoltWalk.of(copper, AMPS, NOISE_VOLTS, points);
        while (points.size() < MOST_READINGS
                && walk.next().isPresent()
                && walk.called().isEmpty()) {
            String at = walk.next().get();
            double ohms = ownOhms
                    + rail.at(pad(board, at, net))
                    + plane.at(pad(board, fault, ground))
                    - plane.at(pad(board, at, ground));
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
            walk.called().ifPresent(called -> assertThat(called).isEqualTo(fault));
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

    /** What lies beyond the fault reads like it, but for what is between: without its neighbours' readings nobody is called. */
    @Test
    void aConnectorBeyondTheBankIsNotTakenForTheFault() {
        Board ridge = DemoBoards.ridge();
        for (long seed = 40; seed < 44; seed++) {
            MillivoltWalk walk = walked(ridge, "VBAT", "C83", seed, 0.056);
            walk.called().ifPresent(called -> assertThat(called).isEqualTo("C83"));
        }
    }

    @Test
    void aSuspectIsReadItselfAndBesideBeforeItIsCalled() {
        MillivoltWalk walk = walked("C22", 70, 0.02);
        assertThat(walk.called()).contains("C22");
    }
}
