package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.sim.BenchSetup.Oddities;
import org.junit.jupiter.api.Test;

class HeatSolverTest {
    private static HeatSolver solver(double unevenness) {
        return new HeatSolver(Fixtures.board(), 0.6, unevenness, new Random(4));
    }

    @Test
    void heatStoredIsPowerInMinusLosses() {
        HeatSolver heat = solver(0.3);
        heat.heatPart("C3", 0.5);
        heat.heatPlace(30, 10, Side.BOTTOM, 0.25);
        double lost = 0;
        double before = 0;
        for (int i = 0; i < 100; i++) {
            heat.advance(0.1);
            lost += 0.1 * (before + heat.lossWatts()) / 2;
            before = heat.lossWatts();
        }
        double in = 0.75 * 10;
        assertThat(heat.storedJoules() + lost).isCloseTo(in, within(0.002 * in));
        assertThat(lost).isPositive();
    }

    @Test
    void theHotPartLeadsAndItsSurroundingsFollow() {
        HeatSolver heat = solver(0);
        heat.heatPart("C3", 0.3);
        heat.advance(3);
        double lid = heat.lidK(4);
        double under = heat.faceK(20, 14, Side.TOP);
        double beside = heat.faceK(24, 14, Side.TOP);
        double across = heat.faceK(20, 14, Side.BOTTOM);
        assertThat(lid).isGreaterThan(under);
        assertThat(under).isGreaterThan(across);
        assertThat(under).isGreaterThan(beside);
        assertThat(beside).isPositive();
    }

    @Test
    void moreLayersAreSharperOnTopAndNoOtherInTheLongRun() {
        HeatSolver coarse = layered(3);
        HeatSolver fine = layered(8);
        for (HeatSolver heat : new HeatSolver[] {coarse, fine}) {
            heat.heatPlace(20, 14, Side.TOP, 0.3);
            heat.advance(1);
        }
        assertThat(fine.faceK(20, 14, Side.TOP)).isGreaterThan(1.1 * coarse.faceK(20, 14, Side.TOP));
        assertThat(fine.faceK(30, 14, Side.TOP)).isCloseTo(coarse.faceK(30, 14, Side.TOP), within(0.02));
        assertThat(fine.storedJoules()).isCloseTo(coarse.storedJoules(), within(0.002));
    }

    private static HeatSolver layered(int layers) {
        return new HeatSolver(Fixtures.board(), 0.6, 0, new Oddities(0, 1, 0, 0, 0, 0, layers), new Random(4));
    }

    @Test
    void withoutPowerNothingWarms() {
        HeatSolver heat = solver(0.3);
        heat.advance(5);
        assertThat(heat.storedJoules()).isZero();
        heat.heatPart("C3", 1);
        heat.advance(1);
        heat.clearHeat();
        double stored = heat.storedJoules();
        heat.advance(20);
        assertThat(heat.storedJoules()).isLessThan(stored).isPositive();
    }

    @Test
    void twiceThePowerIsTwiceTheRise() {
        HeatSolver one = solver(0.2);
        HeatSolver two = solver(0.2);
        one.heatPart("C3", 0.2);
        two.heatPart("C3", 0.4);
        one.advance(2);
        two.advance(2);
        assertThat(two.faceK(22, 15, Side.TOP)).isCloseTo(2 * one.faceK(22, 15, Side.TOP), within(1e-4));
    }

    @Test
    void aSolderedBodyStandsAFewTensOfKelvinAWattAboveItsBoard() {
        HeatSolver heat = solver(0);
        heat.heatPart("C3", 0.1);
        heat.advance(6);
        double above = (heat.lidK(4) - heat.faceK(20, 14, Side.TOP)) / 0.1;
        assertThat(above).isBetween(8.0, 80.0);
    }

    @Test
    void smallBodiesFollowQuicklyAndStayStable() {
        HeatSolver heat = solver(0.3);
        heat.heatPart("C3", 0.1);
        double before = 0;
        for (int i = 0; i < 40; i++) {
            heat.advance(0.05);
            assertThat(heat.lidK(4)).isGreaterThanOrEqualTo(before).isLessThan(50);
            before = heat.lidK(4);
        }
        double settled = heat.lidK(4) - heat.faceK(20, 14, Side.TOP);
        heat.advance(3);
        assertThat(heat.lidK(4) - heat.faceK(20, 14, Side.TOP)).isCloseTo(settled, within(0.15 * settled));
    }
}
