package ohmoscope.web.rails;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.stream.Collectors;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.web.Opened;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.RailBox;
import ohmoscope.web.kit.RailWire;
import org.junit.jupiter.api.Test;

class RailsViewTest {
    private static RailsView view(String of, String... lines) {
        OpenJobs.Open open = Opened.job(lines);
        return RailsView.of(open, PowerTree.of(open.job().board()), of);
    }

    private static Map<String, RailBox> boxes(RailsView view) {
        return view.boxes().stream().collect(Collectors.toMap(RailBox::net, b -> b));
    }

    @Test
    void everyRailHasItsBoxAndNoTwoShareAPlace() {
        RailsView view = view("VMAIN");
        assertThat(view.boxes()).extracting(RailBox::net).contains("JACK", "VIN_F", "VMAIN", "V5A", "VCORE", "VCELL");
        assertThat(view.boxes()).extracting(b -> b.x() + "," + b.y()).doesNotHaveDuplicates();
        assertThat(view.boxes()).allSatisfy(b -> {
            assertThat(b.x()).isBetween(0, view.width());
            assertThat(b.y()).isBetween(0, view.height());
        });
        Map<String, RailBox> boxes = boxes(view);
        assertThat(boxes.get("JACK").x()).isLessThan(boxes.get("VMAIN").x());
        assertThat(boxes.get("VMAIN").x()).isLessThan(boxes.get("V5A").x());
        assertThat(boxes.get("VMAIN").stateWord()).isEqualTo("not read");
        assertThat(view.stops()).isEmpty();
    }

    @Test
    void whereTheVoltageStopsIsBracketed() {
        RailsView view = view("VMAIN", "VIN_F v 19.1 charger", "CHVDD v 0 charger");
        assertThat(view.stops())
                .singleElement()
                .satisfies(s ->
                        assertThat(s).startsWith("Voltage absent from CHVDD on: VIN_F stands, and R2 lies between."));
        assertThat(view.wires())
                .filteredOn(RailWire::broken)
                .singleElement()
                .satisfies(w -> assertThat(w.part()).isEqualTo("R2"));
        assertThat(boxes(view).get("CHVDD").state()).isEqualTo("bad");
        assertThat(boxes(view).get("VIN_F").state()).isEqualTo("ok");
        assertThat(boxes(view).get("VIN_F").volts()).isEqualTo("read 19.1 V");
    }

    @Test
    void unpoweredReadingsMarkTheirRails() {
        Map<String, RailBox> boxes = boxes(view("VMAIN", "VMAIN d .002", "V3A ohm 400"));
        assertThat(boxes.get("VMAIN").stateWord()).isEqualTo("shorted");
        assertThat(boxes.get("VMAIN").unpowered()).isEqualTo("0.002 V d");
        assertThat(boxes.get("V3A").stateWord()).isEqualTo("good");
    }

    @Test
    void aNetOrPartIsTracedBothWays() {
        RailsView.Chosen net = view("V5A").chosen().orElseThrow();
        assertThat(net.up()).first().asString().contains("VIN_F through");
        assertThat(net.up()).last().asString().contains("V5A made by U2 from VMAIN, enabled by EN5");
        assertThat(net.parts()).extracting(RailsView.Row::ref).contains("J3", "U2");
        assertThat(view("U2").chosen().orElseThrow().down()).isNotEmpty();
        assertThat(view("NOPE").chosen()).isEmpty();
    }

    @Test
    void dividersAreWorkedOut() {
        assertThat(view("VMAIN", "VMAIN v 19 bench", "BGATE v 7.4 bench").arithmetic())
                .containsExactly("BGATE at 7.40 V (gate of Q3) instead of 19.0 V: Q4 leaks about 49 kΩ.");
        assertThat(view("VMAIN", "VMAIN v 19 bench", "BGATE v 18.9 bench").arithmetic())
                .containsExactly("BGATE at 18.9 V (gate of Q3): as its resistors alone hold it.");
        assertThat(view("VMAIN", "VMAIN v 19 bench", "BGATE v 4.53 bench").arithmetic())
                .singleElement()
                .asString()
                .contains("Q4 pulls it, as when it is on");
    }
}
