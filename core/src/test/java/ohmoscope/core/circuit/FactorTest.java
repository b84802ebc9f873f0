package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.ejml.simple.SimpleMatrix;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FactorTest {
    private record Branch(int a, int b, double siemens) {}

    private static List<Branch> network(Random random, int nodes) {
        List<Branch> branches = new ArrayList<>();
        for (int i = 0; i < nodes; i++) {
            branches.add(new Branch(i, i == 0 ? -1 : random.nextInt(i), 0.1 + random.nextDouble()));
        }
        for (int i = 0; i < nodes; i++) {
            branches.add(new Branch(random.nextInt(nodes), random.nextInt(nodes + 1) - 1, random.nextDouble()));
        }
        return branches;
    }

    private static Factor factor(int nodes, List<Branch> branches) {
        Factor factor = new Factor(Factor.Pattern.of(
                nodes, branches.stream().map(b -> new int[] {b.a(), b.b()}).toArray(int[][]::new)));
        branches.stream().filter(b -> b.a() != b.b()).forEach(b -> factor.branch(b.a(), b.b(), b.siemens()));
        return factor;
    }

    private static SimpleMatrix dense(int nodes, List<Branch> branches) {
        SimpleMatrix matrix = new SimpleMatrix(nodes, nodes);
        for (Branch branch : branches) {
            if (branch.a() == branch.b()) {
                continue;
            }
            for (int node : new int[] {branch.a(), branch.b()}) {
                if (node >= 0) {
                    matrix.set(node, node, matrix.get(node, node) + branch.siemens());
                }
            }
            if (branch.a() >= 0 && branch.b() >= 0) {
                matrix.set(branch.a(), branch.b(), matrix.get(branch.a(), branch.b()) - branch.siemens());
                matrix.set(branch.b(), branch.a(), matrix.get(branch.b(), branch.a()) - branch.siemens());
            }
        }
        return matrix;
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 5, 30, 120})
    void solvesWhatADenseSolverSolves(int nodes) {
        Random random = new Random(nodes);
        for (int round = 0; round < 5; round++) {
            List<Branch> branches = network(random, nodes);
            double[] currents = random.doubles(nodes, -1, 1).toArray();
            double[] volts = currents.clone();
            factor(nodes, branches).solve(volts);
            SimpleMatrix expected = dense(nodes, branches).solve(new SimpleMatrix(nodes, 1, true, currents));
            for (int i = 0; i < nodes; i++) {
                assertThat(volts[i]).isCloseTo(expected.get(i), within(1e-8 * (1 + Math.abs(expected.get(i)))));
            }
        }
    }

    @Test
    void aDividerDividesAndGoesBackToWhatWasKept() {
        Factor factor = new Factor(Factor.Pattern.of(2, new int[][] {{0, 1}, {1, -1}}));
        for (double lower : new double[] {1, 3}) {
            factor.restore();
            factor.branch(0, 1, 1);
            factor.branch(1, -1, lower);
            double[] volts = {1, 0};
            factor.solve(volts);
            assertThat(volts[1]).isCloseTo(1 / lower, within(1e-12));
            assertThat(volts[0]).isCloseTo(1 + 1 / lower, within(1e-12));
        }
    }

    @Test
    void parallelBranchesAndLoopsOfOneNodeDoNoHarm() {
        Factor factor = new Factor(Factor.Pattern.of(3, new int[][] {{0, 1}, {0, 1}, {1, 0}, {2, 2}, {1, 2}, {2, -1}}));
        factor.branch(0, 1, 1);
        factor.branch(0, 1, 1);
        factor.branch(1, 2, 2);
        factor.branch(2, -1, 4);
        double[] volts = {4, 0, 0};
        factor.solve(volts);
        assertThat(volts).containsExactly(new double[] {5, 3, 1}, within(1e-12));
    }
}
