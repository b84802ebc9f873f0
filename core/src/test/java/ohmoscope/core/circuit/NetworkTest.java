package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import ohmoscope.core.circuit.Network.Solution;
import org.junit.jupiter.api.Test;

class NetworkTest {
    private static final int GROUND = Network.GROUND;

    @Test
    void dividerHalvesTheSource() {
        Network network = new Network(2);
        network.source(0, 10, 1e-6, 5);
        network.resistor(0, 1, 1_000);
        network.resistor(1, GROUND, 1_000);
        Solution s = network.solve();
        assertThat(s.volts(1)).isCloseTo(5, within(1e-5));
        assertThat(s.sourceAmps(0)).isCloseTo(0.005, within(1e-7));
    }

    /** An unbalanced bridge against the two nodes' equations solved by determinants. */
    @Test
    void bridgeAsByDeterminants() {
        double g1 = 1, g2 = 1 / 2.0, g3 = 1 / 3.0, g4 = 1 / 4.0, g5 = 1 / 5.0;
        // Nodes a and b between 1 V and ground: a has g1 up, g2 down; b has g3 up, g4 down; g5 between.
        double det = (g1 + g2 + g5) * (g3 + g4 + g5) - g5 * g5;
        double a = (g1 * (g3 + g4 + g5) + g5 * g3) / det;
        double b = ((g1 + g2 + g5) * g3 + g5 * g1) / det;
        Network network = new Network(3);
        network.source(0, 1, 1e-9, 1e6);
        network.resistor(0, 1, 1);
        network.resistor(1, GROUND, 2);
        network.resistor(0, 2, 3);
        network.resistor(2, GROUND, 4);
        network.resistor(1, 2, 5);
        Solution s = network.solve();
        assertThat(s.volts(1)).isCloseTo(a, within(1e-6));
        assertThat(s.volts(2)).isCloseTo(b, within(1e-6));
    }

    @Test
    void junctionCarriesOneMilliampereAtItsDrop() {
        Network network = new Network(1);
        network.current(0, 1e-3);
        network.junction(0, GROUND, 0.47, 0.035);
        assertThat(network.solve().volts(0)).isCloseTo(0.47, within(1e-5));
    }

    @Test
    void tenTimesTheCurrentRaisesAJunctionByItsThermalVoltage() {
        Network network = new Network(1);
        network.current(0, 1e-2);
        network.junction(0, GROUND, 0.47, 0.035);
        assertThat(network.solve().volts(0)).isCloseTo(0.47 + 0.035 * Math.log(10), within(1e-4));
    }

    @Test
    void reversedJunctionBlocks() {
        Network network = new Network(1);
        network.current(0, 1e-3);
        network.junction(GROUND, 0, 0.5, 0.035);
        network.resistor(0, GROUND, 2_000);
        assertThat(network.solve().volts(0)).isCloseTo(2, within(1e-4));
    }

    @Test
    void sourceGivesItsLimitAndNoMore() {
        Network network = new Network(1);
        network.source(0, 12, 0.01, 3);
        network.resistor(0, GROUND, 0.1);
        Solution s = network.solve();
        assertThat(s.sourceAmps(0)).isEqualTo(3);
        assertThat(s.volts(0)).isCloseTo(0.3, within(1e-6));
    }

    /** The stronger source holds the node and the weaker takes nothing back. */
    @Test
    void weakerSourceIdles() {
        Network network = new Network(2);
        network.source(0, 12, 0.01, 3);
        network.source(1, 5, 0.01, 3);
        network.resistor(0, 1, 0.1);
        network.resistor(1, GROUND, 100);
        Solution s = network.solve();
        assertThat(s.sourceAmps(1)).isZero();
        assertThat(s.volts(1)).isCloseTo(12 * 100 / 100.11, within(1e-3));
    }

    @Property(tries = 60)
    void reciprocity(@ForAll @IntRange(min = 0, max = 1_000_000) int seed) {
        Random random = new Random(seed);
        int n = 2 + random.nextInt(12);
        int i = random.nextInt(n);
        int j = random.nextInt(n);
        assertThat(driven(new Random(seed), n, new int[] {i}, new double[] {1e-3})[j])
                .isCloseTo(driven(new Random(seed), n, new int[] {j}, new double[] {1e-3})[i], within(1e-8));
    }

    @Property(tries = 60)
    void superposition(@ForAll @IntRange(min = 0, max = 1_000_000) int seed) {
        Random random = new Random(seed);
        int n = 2 + random.nextInt(12);
        int i = random.nextInt(n);
        int j = random.nextInt(n);
        double[] both = driven(new Random(seed), n, new int[] {i, j}, new double[] {2e-3, -5e-3});
        double[] one = driven(new Random(seed), n, new int[] {i}, new double[] {2e-3});
        double[] two = driven(new Random(seed), n, new int[] {j}, new double[] {-5e-3});
        for (int k = 0; k < n; k++) {
            assertThat(both[k]).isCloseTo(one[k] + two[k], within(1e-7));
        }
    }

    /** A random connected network of resistors, driven by currents. */
    private static double[] driven(Random random, int n, int[] at, double[] amps) {
        random.nextInt();
        Network network = new Network(n);
        for (int k = 0; k < n; k++) {
            network.resistor(k, k == 0 ? GROUND : random.nextInt(k), 1 + 1_000 * random.nextDouble());
            network.resistor(k, random.nextInt(n), 1 + 1_000 * random.nextDouble());
        }
        for (int k = 0; k < at.length; k++) {
            network.current(at[k], amps[k]);
        }
        return network.solve().volts();
    }

    @Property(tries = 60)
    void powerInIsPowerBurnt(@ForAll @IntRange(min = 0, max = 1_000_000) int seed) {
        Random random = new Random(seed);
        int n = 3 + random.nextInt(10);
        int[] a = new int[2 * n];
        int[] b = new int[2 * n];
        double[] ohms = new double[2 * n];
        Network network = new Network(n);
        for (int k = 0; k < 2 * n; k++) {
            a[k] = k % n;
            b[k] = k < n ? (k == 0 ? GROUND : random.nextInt(k)) : random.nextInt(n);
            ohms[k] = 0.5 + 50 * random.nextDouble();
            network.resistor(a[k], b[k], ohms[k]);
        }
        network.source(n - 1, 5, 0.1, 100);
        Solution s = network.solve();
        double burnt = 0.1 * Math.pow(s.sourceAmps(0), 2);
        for (int k = 0; k < 2 * n; k++) {
            burnt += a[k] == b[k] ? 0 : Math.pow(s.volts(a[k]) - s.volts(b[k]), 2) / ohms[k];
        }
        assertThat(burnt).isCloseTo(5 * s.sourceAmps(0), within(1e-4 * (1 + burnt)));
    }

    /** Two sources that fight through milliohms, the stronger at its limit: while modes are tried, nodes stand at kilovolts. */
    @Test
    void sourcesThatFightSettle() {
        Network network = new Network(4);
        int strong = network.source(0, 20, 0.06, 3);
        network.source(3, 12.6, 0.02, 3.5);
        network.resistor(0, 1, 0.03);
        network.resistor(1, 2, 0.03);
        network.resistor(2, 3, 0.004);
        for (int node = 0; node < 4; node++) {
            network.resistor(node, Network.GROUND, 66_000);
        }
        network.junction(0, 1, 0.35, 0.045);

        Network.Solution solution = network.solve();

        assertThat(solution.volts(3)).isCloseTo(20, within(0.01));
        assertThat(solution.sourceAmps(strong)).isBetween(0.0, 0.01);
    }
}
