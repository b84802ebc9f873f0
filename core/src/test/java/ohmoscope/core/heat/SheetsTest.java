package ohmoscope.core.heat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SheetsTest {
    @Test
    void fewAreAChainOfThree() {
        // A third of the heat each; between two of them 3/d·k_z, in units in which τ₁ is 1.
        double rate = 9 / (Math.PI * Math.PI);
        double[] rise = {3, 0, 0};
        double step = 1e-4;
        for (int i = 1; i * step <= 2; i++) {
            double down = rate * (rise[0] - rise[1]) * step;
            double further = rate * (rise[1] - rise[2]) * step;
            rise[0] -= down;
            rise[1] += down - further;
            rise[2] += further;
            if (i % 2500 == 0) {
                assertThat(Sheets.FEW.near(i * step)).isCloseTo(rise[0], within(2e-4));
                assertThat(Sheets.FEW.far(i * step)).isCloseTo(rise[2], within(2e-4));
            }
        }
    }

    @Test
    void allHeatIsInTheFirstSheetAtFirstAndEverywhereInTheEnd() {
        for (Sheets sheets : new Sheets[] {Sheets.FEW, Sheets.MANY}) {
            assertThat(sheets.near(0)).isCloseTo(sheets.count(), within(1e-9));
            assertThat(sheets.far(0)).isCloseTo(0, within(1e-9));
            assertThat(sheets.near(100)).isCloseTo(1, within(1e-12));
            assertThat(sheets.far(100)).isCloseTo(1, within(1e-12));
        }
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.02, 0.1, 0.7, 1.5, 3})
    void manyAreAlmostASlab(double crossings) {
        // Carslaw and Jaeger's cosine series.
        double near = 1;
        double far = 1;
        for (int n = 1; n <= 60; n++) {
            near += 2 * Math.exp(-n * n * crossings);
            far += 2 * (n % 2 == 0 ? 1 : -1) * Math.exp(-n * n * crossings);
        }
        assertThat(Sheets.MANY.near(crossings)).isCloseTo(near, within(0.04 * near));
        assertThat(Sheets.MANY.far(crossings)).isCloseTo(far, within(0.02));
        if (crossings > 0.6) {
            // In the long run three are near enough as well.
            assertThat(Sheets.FEW.near(crossings)).isCloseTo(near, within(0.2 * near));
            assertThat(Sheets.FEW.far(crossings)).isCloseTo(far, within(0.16));
        }
    }
}
