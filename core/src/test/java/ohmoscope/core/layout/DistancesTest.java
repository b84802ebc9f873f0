package ohmoscope.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;

class DistancesTest {
    private static Part body(double xMm, double yMm, double wMm, double hMm, double rotDeg) {
        Part like = Fixtures.twoPin("C1", PartKind.CAPACITOR, xMm, yMm, "A", "GND");
        return PartEdit.of(like)
                .at(Side.TOP, xMm, yMm, rotDeg)
                .body(wMm, hMm)
                .pins(List.of())
                .done();
    }

    @Test
    void knownGaps() {
        assertThat(BodyGap.mm(body(0, 0, 2, 1, 0), body(5, 0, 2, 1, 0))).isEqualTo(3, within(1e-9));
        assertThat(BodyGap.mm(body(0, 0, 2, 1, 90), body(5, 0, 2, 1, 0))).isEqualTo(3.5, within(1e-9));
        assertThat(BodyGap.mm(body(0, 0, 2, 2, 45), body(5, 0, 2, 2, 0))).isEqualTo(4 - Math.sqrt(2), within(1e-9));
        assertThat(BodyGap.mm(body(0, 0, 2, 2, 0), body(5, 6, 2, 2, 0))).isEqualTo(5, within(1e-9));
        assertThat(BodyGap.mm(body(0, 0, 9, 9, 0), body(1, 1, 1, 1, 30))).isZero();
    }

    @Test
    void noPointOfOneIsNearerToTheOtherThanTheGap() {
        Random random = new Random(7);
        for (int i = 0; i < 200; i++) {
            Part a = body(0, 0, 0.5 + random.nextDouble() * 8, 0.5 + random.nextDouble() * 8, random.nextInt(360));
            Part b = body(
                    random.nextDouble() * 14 - 7,
                    random.nextDouble() * 14 - 7,
                    0.5 + random.nextDouble() * 4,
                    0.5 + random.nextDouble() * 4,
                    random.nextInt(360));
            double gap = BodyGap.mm(a, b);
            assertThat(BodyGap.mm(b, a)).isEqualTo(gap, within(1e-9));
            double least = Double.POSITIVE_INFINITY;
            for (PointMm p : edge(a)) {
                for (PointMm q : edge(b)) {
                    least = Math.min(least, Math.hypot(p.xMm() - q.xMm(), p.yMm() - q.yMm()));
                }
            }
            assertThat(gap).isLessThanOrEqualTo(least + 1e-9);
            if (gap > 0) {
                assertThat(least).isLessThan(gap + 0.3);
            }
        }
    }

    /** Forty points a side. */
    private static List<PointMm> edge(Part part) {
        List<PointMm> corners = part.corners();
        return java.util.stream.IntStream.range(0, 160)
                .mapToObj(i -> {
                    PointMm from = corners.get(i / 40);
                    PointMm to = corners.get((i / 40 + 1) % 4);
                    double t = i % 40 / 40.0;
                    return new PointMm(
                            from.xMm() + t * (to.xMm() - from.xMm()), from.yMm() + t * (to.yMm() - from.yMm()));
                })
                .toList();
    }

    @Test
    void theNearestStandFirstOnBothSides() {
        Board board = PowerFixtures.board();
        List<Distances.Distance> around = Distances.around(board, "U1", 5);
        assertThat(around).hasSize(5).allMatch(d -> d.from().ref().equals("U1"));
        assertThat(around).extracting(Distances.Distance::gapMm).isSorted();
        assertThat(Distances.between(board, "U1", "J1").centresMm())
                .isEqualTo(Distances.between(board, "J1", "U1").centresMm());
        assertThatThrownBy(() -> Distances.between(board, "U1", "X9"))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("X9");
    }
}
