package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import org.junit.jupiter.api.Test;

/** A fuse that is fed from one end and then from the other: warm, the fault lies behind it; cold, on the side that is fed. */
class SeriesSideTest {
    private final Advisor advisor = new Advisor(PowerFixtures.board());

    private double share(String lines, String... refs) {
        EntryLine line = new EntryLine(PowerFixtures.board());
        List<Observation> entries = new ArrayList<>();
        for (String one : lines.split(";")) {
            entries.add(((EntryLine.Parsed.Entry) line.parse(one.trim(), entries.size() + 1)).observation());
        }
        List<String> wanted = List.of(refs);
        return advisor.advise(Optional.empty(), "", entries).hypotheses().stream()
                .filter(h -> h.code() == Hypothesis.Code.SHORT && wanted.contains(h.target()))
                .mapToDouble(Hypothesis::probability)
                .sum();
    }

    @Test
    void warmFromTheJackSideTheFaultIsBehind() {
        String fed = "VBUS d .001;inj VBUS 1V 2A 0.2V 2A;";

        double behind = share(fed + "warm F1 4K", "C2", "U3");
        double before = share(fed + "warm F1 4K", "C1");

        assertThat(behind).isGreaterThan(5 * before);
    }

    @Test
    void coldFromTheJackSideTheFaultIsBeforeIt() {
        String fed = "VBUS d .001;inj VBUS 1V 2A 0.2V 2A;";

        double behind = share(fed + "warm F1 0K", "C2", "U3");
        double before = share(fed + "warm F1 0K", "C1");

        assertThat(before).isGreaterThan(5 * behind);
    }

    @Test
    void theVoltsAcrossItSayTheSame() {
        String fed = "VBUS d .001;inj VBUS 1V 2A 0.2V 2A;";

        assertThat(share(fed + "across F1 mv 36", "C2", "U3")).isGreaterThan(5 * share(fed + "across F1 mv 36", "C1"));
        assertThat(share(fed + "across F1 mv 0.1", "C1"))
                .isGreaterThan(5 * share(fed + "across F1 mv 0.1", "C2", "U3"));
    }

    @Test
    void fromTheOtherEndTheSidesChange() {
        String fed = "VBUS d .001;inj VIN 1V 2A 0.2V 2A;";

        assertThat(share(fed + "across F1 mv -36", "C1"))
                .isGreaterThan(5 * share(fed + "across F1 mv -36", "C2", "U3"));
    }

    @Test
    void betweenTheTwoItSaysNothing() {
        String fed = "VBUS d .001;inj VBUS 1V 2A 0.2V 2A";

        assertThat(share(fed + ";across F1 mv 3", "C1")).isEqualTo(share(fed, "C1"));
    }
}
