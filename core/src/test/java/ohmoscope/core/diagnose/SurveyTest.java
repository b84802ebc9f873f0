package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Survey.Point;
import ohmoscope.core.diagnose.Survey.Why;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Says;
import org.junit.jupiter.api.Test;

class SurveyTest {
    private final Advisor advisor = new Advisor(PowerFixtures.board());
    private final List<Observation> entries = new ArrayList<>();

    private List<Point> survey() {
        return advisor.advise(Optional.empty(), "", entries).survey().points();
    }

    private void diode(String net, double volts) {
        entries.add(new Read(
                entries.size() + 1,
                ReadMode.DIODE,
                Optional.of(net),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(volts),
                Optional.empty(),
                Optional.empty()));
    }

    @Test
    void theMainRailComesFirstAndEveryRailOnce() {
        List<Point> points = survey();
        assertThat(points.get(0).net()).isEqualTo("VMAIN");
        assertThat(points.get(0).why()).isEqualTo(Why.MAIN_RAIL);
        assertThat(points.get(0).diodeVolts()).isPresent();
        assertThat(points)
                .extracting(Point::net)
                .doesNotHaveDuplicates()
                .contains("VBUS", "VIN", "VBAT", "V3", "VCORE");
        assertThat(points).allSatisfy(p -> assertThat(p.place().ref()).isNotEmpty());
    }

    @Test
    void whatIsReadLeavesTheListAndComesBackWhenTheBoardIsChanged() {
        diode("VMAIN", 0.42);
        assertThat(survey()).extracting(Point::net).doesNotContain("VMAIN");
        entries.add(new Change(2, ChangeAction.REMOVED, "C3", true));
        assertThat(survey()).extracting(Point::net).contains("VMAIN");
    }

    @Test
    void thePlaceIsOnThePartsThatAreStillThere() {
        String first = survey().stream()
                .filter(p -> p.net().equals("VCORE"))
                .findFirst()
                .orElseThrow()
                .place()
                .ref();
        entries.add(new Change(1, ChangeAction.REMOVED, first, true));
        assertThat(survey())
                .filteredOn(p -> p.net().equals("VCORE"))
                .allSatisfy(p -> assertThat(p.place().ref()).isNotEqualTo(first));
    }

    @Test
    void otherSchoolsGoOtherWays() {
        diode("VMAIN", 0.002);
        Schools other = new Schools(
                Schools.Meter.OHMS,
                Schools.Lead.RED,
                Schools.Proof.SUPPLY,
                Schools.Injection.RAIL_VOLTAGE,
                Schools.Port.OFF_FIRST,
                Schools.Warmth.TOUCH);
        Advice usual = advisor.advise(Optional.empty(), "", entries);
        Advice changed = advisor.advise(Optional.empty(), "", entries, other);
        assertThat(changed.hypotheses()).isEqualTo(usual.hypotheses());
        assertThat(changed.next()).anySatisfy(s -> {
            assertThat(s.reason()).isEqualTo(Step.Reason.SHORTED_INJECT_AT_RAIL);
            assertThat(s.setVolts()).hasValue(12);
        });
        assertThat(changed.next()).anySatisfy(s -> assertThat(s.reason()).isEqualTo(Step.Reason.PORT_OFF_FIRST));
        assertThat(changed.next()).anySatisfy(s -> assertThat(s.reason()).isEqualTo(Step.Reason.FIND_WARMTH_BY_TOUCH));
        assertThat(usual.next())
                .noneMatch(s -> s.reason() == Step.Reason.PORT_OFF_FIRST)
                .noneMatch(s -> s.reason() == Step.Reason.SHORTED_INJECT_AT_RAIL);
        entries.clear();
        assertThat(advisor.advise(Optional.empty(), "", entries, other).next())
                .anySatisfy(s -> assertThat(s.reason()).isEqualTo(Step.Reason.PROVE_BY_SUPPLY));
    }

    /** Three at 0.71 and one at 0.05 finds the fault without a schematic. */
    @Test
    void anOddLineOfAPortIsFoundAmongItsSisters() {
        Board plain = PowerFixtures.board();
        List<Net> nets = new ArrayList<>(plain.nets());
        List<Part> parts = new ArrayList<>(plain.parts());
        List<Pin> pins = new ArrayList<>(List.of(new Pin("V", "VBUS", 10, 10), new Pin("G", "GND", 11, 10)));
        for (int i = 1; i <= 4; i++) {
            nets.add(Fixtures.signal("L" + i));
            pins.add(new Pin("L" + i, "L" + i, 11 + i, 10));
        }
        parts.removeIf(p -> p.ref().equals("J1"));
        Part made = Part.of("J1", PartKind.CONNECTOR, Side.TOP, 12, 10, 8, 4, pins);
        parts.add(made);
        Board board = Fixtures.with(plain, nets, parts);
        Advisor port = new Advisor(board);
        for (String line : List.of("L1", "L2", "L3")) {
            diode(line, 0.71);
        }
        diode("L4", 0.05);
        Advice advice = port.advise(Optional.empty(), "", entries);
        assertThat(advice.sign(4)).map(Sign::says).contains(Says.LOW);
        assertThat(advice.sign(1)).map(Sign::says).contains(Says.GOOD);
    }
}
