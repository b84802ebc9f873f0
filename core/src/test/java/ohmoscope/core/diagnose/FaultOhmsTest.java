package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Set;
import java.util.stream.DoubleStream;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Suspicion.Variant;
import org.junit.jupiter.api.Test;

class FaultOhmsTest {
    private static Variant form(double ohms, double weight) {
        return new Variant(List.of(new Bridge("C5", "V3", "GND", ohms)), weight);
    }

    private static final List<Variant> COARSE = List.of(form(0.03, 0.2), form(0.3, 0.5), form(3, 0.2), form(30, 0.1));

    private static double ohms(Variant variant) {
        return FaultOhms.ohms(variant).orElseThrow();
    }

    @Test
    void theMassStaysAndGoesWhereItWas() {
        List<Variant> finer = FaultOhms.finer(COARSE, Set.of(5.7));

        assertThat(finer.stream().mapToDouble(Variant::weight).sum()).isCloseTo(1, within(1e-9));
        double above = finer.stream()
                .filter(v -> ohms(v) > 20)
                .mapToDouble(Variant::weight)
                .sum();
        assertThat(above).as("far from what was measured nothing changes").isCloseTo(0.1, within(0.03));
        assertThat(finer).extracting(FaultOhmsTest::ohms).isSorted();
    }

    @Test
    void aboutTheMeasuredValueTheFormsStandClose() {
        double[] near = FaultOhms.finer(COARSE, Set.of(5.7)).stream()
                .mapToDouble(FaultOhmsTest::ohms)
                .filter(r -> r > 4 && r < 8)
                .toArray();

        assertThat(near).hasSizeGreaterThanOrEqualTo(5);
        assertThat(DoubleStream.of(near)).anyMatch(r -> Math.abs(r - 5.7) < 1e-6);
    }

    /** A likelihood as sharp as a meter's, summed over the forms, is its integral over the prior. */
    @Test
    void theSumIsTheIntegral() {
        double measured = 5.7;
        double sigma = 0.12;
        double integral = 0;
        int steps = 20_000;
        double low = Math.log(0.03) - 1.15;
        double high = Math.log(30) + 1.15;
        for (int i = 0; i < steps; i++) {
            double at = low + (high - low) * (i + 0.5) / steps;
            double density = at < Math.log(Math.sqrt(0.03 * 0.3))
                    ? 0.2
                    : at < Math.log(Math.sqrt(0.3 * 3)) ? 0.5 : at < Math.log(Math.sqrt(3 * 30)) ? 0.2 : 0.1;
            integral += density / Math.log(10) * likelihood(at, measured, sigma) * (high - low) / steps;
        }
        double sum = FaultOhms.finer(COARSE, Set.of(measured)).stream()
                .mapToDouble(v -> v.weight() * likelihood(Math.log(ohms(v)), measured, sigma))
                .sum();

        assertThat(sum).isCloseTo(integral, within(0.1 * integral));
    }

    private static double likelihood(double logOhms, double measured, double sigma) {
        double off = (logOhms - Math.log(measured)) / sigma;
        return Math.exp(-off * off / 2);
    }

    @Test
    void whatConductsNothingHasNoOhms() {
        assertThat(FaultOhms.ohms(new Variant(List.of(new Open("R1")), 1))).isEmpty();
        assertThat(FaultOhms.ohms(new Variant(List.of(new Open("R1", 300)), 1))).hasValue(300.0);
    }
}
