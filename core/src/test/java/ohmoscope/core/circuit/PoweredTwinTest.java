package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.NoOutput;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.circuit.PoweredTwin.Powered;
import org.junit.jupiter.api.Test;

class PoweredTwinTest {
    private final PoweredTwin twin = new PoweredTwin(new Twin(PowerFixtures.board()));

    private Powered with(Fault... faults) {
        return twin.solve(List.of(new Input("VBUS", 12, 3)), BoardState.WHOLE, List.of(faults), Map.of("BEN", 0.0));
    }

    @Test
    void everyRailStandsOnAGoodBoard() {
        Powered good = with();
        assertThat(good.volts("VIN")).isCloseTo(12, within(0.1));
        assertThat(good.volts("VMAIN")).isCloseTo(12, within(0.1));
        assertThat(good.volts("V3")).isCloseTo(3.3, within(0.05));
        assertThat(good.volts("VCORE")).isCloseTo(0.9, within(0.05));
        assertThat(good.volts("VBAT")).as("battery contact").isLessThan(0.5);
        assertThat(good.running()).containsExactlyInAnyOrder("V3", "VCORE");
        assertThat(good.inputAmps().get(0)).isLessThan(0.1);
    }

    @Test
    void openFuseLeavesAllBehindItDark() {
        Powered open = with(new Open("F1"));
        assertThat(open.volts("VBUS")).isCloseTo(12, within(0.1));
        assertThat(open.volts("VIN")).isLessThan(0.1);
        assertThat(open.running()).isEmpty();
    }

    @Test
    void shortedMainRailPullsTheInputDown() {
        Powered shorted = with(new Bridge("C3", "VMAIN", "GND", 0.05));
        assertThat(shorted.inputAmps().get(0)).isEqualTo(3);
        assertThat(shorted.volts("VBUS")).isLessThan(4);
    }

    @Test
    void shortedOutputShutsItsConverterDownAndNothingElse() {
        Powered shorted = with(new Bridge("C5", "V3", "GND", 0.1));
        assertThat(shorted.overloaded()).containsExactly("V3");
        assertThat(shorted.volts("VMAIN")).isGreaterThan(11);
    }

    @Test
    void deadSupervisorAsksForNothingAndLeavesTheBodyDiode() {
        Powered dead = with(new Dead("U3"));
        assertThat(dead.volts("VIN")).isGreaterThan(11.9);
        assertThat(dead.volts("VMAIN")).as("through Q1's body diode").isBetween(11.0, 11.8);
        assertThat(dead.running()).doesNotContain("V3");
        assertThat(dead.volts("V3")).isLessThan(0.1);
    }

    @Test
    void aChipThatLosesOneOutputMakesTheOther() {
        PoweredTwin both = new PoweredTwin(new Twin(PowerFixtures.withTwoOutputs()));
        Powered half = both.solve(
                List.of(new Input("VBUS", 12, 3)),
                BoardState.WHOLE,
                List.of(new NoOutput("U1", "V3")),
                Map.of("BEN", 0.0));
        assertThat(half.volts("V3")).isLessThan(0.1);
        assertThat(half.volts("V5")).isCloseTo(5, within(0.05));
        assertThat(half.running()).contains("V5").doesNotContain("V3");
    }

    @Test
    void withoutItsEnableARailIsMissing() {
        Powered missing = with(new Inactive("EN3"));
        assertThat(missing.volts("V3")).isLessThan(0.1);
        assertThat(missing.volts("VCORE")).as("its controller has no supply").isGreaterThan(-0.1);
        assertThat(missing.running()).doesNotContain("V3");
    }

    /**
     * The gate stands where the divider of 200 kΩ, 33 kΩ and the leak puts it: with 40 kΩ at 12·73/273 = 3.21 V, the drain
     * at 12·40/273 = 1.76 V. The half-driven switch then lets the main rail onto the battery contact.
     */
    @Test
    void leakingDriverHalfOpensTheBatterySwitch() {
        Powered leaky = with(new Bridge("Q3", "PD", "GND", 40_000));
        assertThat(leaky.volts("BG")).isCloseTo(12.0 * 73 / 273, within(0.05));
        assertThat(leaky.volts("PD")).isCloseTo(12.0 * 40 / 273, within(0.05));
        assertThat(leaky.volts("VBAT")).isGreaterThan(11.5);
    }

    @Test
    void treeLeadsFromThePortToTheCore() {
        PowerTree tree = PowerTree.of(PowerFixtures.board());
        assertThat(tree.mainRail()).isEqualTo("VMAIN");
        assertThat(tree.inputs()).extracting(p -> p.ref()).containsExactly("J1");
        assertThat(tree.battery()).hasValueSatisfying(p -> assertThat(p.ref()).isEqualTo("J2"));
        assertThat(tree.pathTo("VCORE")).extracting(f -> f.part().ref()).contains("U2");
        assertThat(tree.fedBy("VMAIN")).extracting(f -> f.to()).contains("V3", "VCORE");
    }
}
