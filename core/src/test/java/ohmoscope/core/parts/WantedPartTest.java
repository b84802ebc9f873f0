package ohmoscope.core.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.parts.WantedPart.Fit;
import ohmoscope.core.parts.WantedPart.ValueFrom;
import org.junit.jupiter.api.Test;

class WantedPartTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Part capacitor(String ref, String value, double rated, double x) {
        Part plain = Part.of(
                ref,
                PartKind.CAPACITOR,
                Side.TOP,
                x,
                5,
                1.0,
                0.5,
                List.of(new Pin("1", "VMAIN", -0.4, 0), new Pin("2", "GND", 0.4, 0)));
        return Fixtures.rated(plain, value, rated > 0 ? OptionalDouble.of(rated) : OptionalDouble.empty());
    }

    private static Board with(Part... parts) {
        return new Board(
                BOARD.name(),
                BOARD.revision(),
                BOARD.outline(),
                BOARD.thicknessMm(),
                BOARD.copperLayers(),
                BOARD.copperUm(),
                BOARD.nets(),
                List.of(parts),
                List.of(),
                List.of());
    }

    @Test
    void aBlankValueIsTheSiblingsWhereTheyAgree() {
        Part lost = capacitor("C1", "", 0, 5);
        Board agreed = with(lost, capacitor("C2", "10u", 0, 8), capacitor("C3", "10u", 0, 11));
        WantedPart wanted = WantedPart.of(agreed, lost);
        assertThat(wanted.value()).isEqualTo("10u");
        assertThat(wanted.from()).isEqualTo(ValueFrom.SIBLINGS);
        assertThat(wanted.siblings()).containsExactly("C2", "C3");
        Board quarrel = with(lost, capacitor("C2", "10u", 0, 8), capacitor("C3", "22u", 0, 11));
        assertThat(WantedPart.of(quarrel, lost).from()).isEqualTo(ValueFrom.NOBODY);
    }

    /** Twice the rail, the next usual class, and never less than what was there. */
    @Test
    void theRatingFollowsFromTheRailAndFromWhatWasFitted() {
        double rail = BOARD.net("VMAIN").orElseThrow().nominalVolts().orElseThrow();
        WantedPart plain = WantedPart.of(BOARD, capacitor("C90", "10u", 0, 5));
        assertThat(plain.railVolts()).hasValue(rail);
        assertThat(plain.leastVolts().orElseThrow()).isBetween(2 * rail, 3.2 * rail);
        assertThat(WantedPart.of(BOARD, capacitor("C90", "10u", 100, 5)).leastVolts())
                .hasValue(100);
        Part resistor =
                Part.of("R1", PartKind.RESISTOR, Side.TOP, 5, 5, 1, 0.5, List.of(new Pin("1", "VMAIN", -0.4, 0)));
        assertThat(WantedPart.of(BOARD, resistor).leastVolts()).isEmpty();
    }

    @Test
    void whatIsTheSameAndWhatStandsIn() {
        Part off = capacitor("C1", "10u", 0, 5);
        WantedPart bank = WantedPart.of(with(off, capacitor("C2", "10u", 0, 8)), off);
        OptionalDouble enough = OptionalDouble.of(100);
        assertThat(bank.fit("10u", enough)).isEqualTo(Fit.SAME);
        assertThat(bank.fit("10 uF", enough)).isEqualTo(Fit.SAME);
        assertThat(bank.fit("22u", enough)).isEqualTo(Fit.STANDS_IN);
        assertThat(bank.fit("100n", enough)).isEqualTo(Fit.NO);
        assertThat(bank.fit("10u", OptionalDouble.of(4))).as("rated too low").isEqualTo(Fit.NO);
        WantedPart alone = WantedPart.of(with(off), off);
        assertThat(alone.fit("22u", enough)).as("the only one there").isEqualTo(Fit.NO);
        assertThat(bank.fit(Fixtures.rated(
                        Part.of("C9", PartKind.CAPACITOR, Side.TOP, 1, 1, 3.2, 1.6, off.pins()), "10u", enough)))
                .as("another body")
                .isEqualTo(Fit.NO);
    }

    @Test
    void donorsAreTheEasiestFirstAndAtMostThreeOfABoard() {
        Part off = capacitor("C1", "10u", 0, 5);
        WantedPart wanted = WantedPart.of(with(off, capacitor("C2", "10u", 0, 20)), off);
        Board crowded = with(
                capacitor("C1", "10u", 0, 5),
                capacitor("C2", "10u", 0, 6.2),
                capacitor("C3", "10u", 0, 7.4),
                capacitor("C4", "10u", 0, 25),
                capacitor("C5", "22u", 0, 35));
        List<Donor> donors = Donor.of(wanted, List.of(new Donor.From("Crowded", crowded)));
        assertThat(donors).hasSize(3);
        assertThat(donors.get(0).ref()).isEqualTo("C4");
        assertThat(donors.get(0).close()).isZero();
        assertThat(donors).extracting(Donor::fit).isSorted();
    }

    @Test
    void theShopsListFitsByKindPackageAndValue() {
        Part off = capacitor("C1", "10u", 0, 5);
        WantedPart wanted = WantedPart.of(with(off, capacitor("C2", "10u", 0, 8)), off);
        StockLine some = new StockLine(
                PartKind.CAPACITOR, "10u", "0402", OptionalDouble.of(100), 3, 5, "drawer 2", OptionalDouble.empty());
        assertThat(some.fit(wanted)).isEqualTo(Fit.SAME);
        assertThat(some.runsOut()).isTrue();
        assertThat(new StockLine(PartKind.RESISTOR, "10u", "", OptionalDouble.empty(), 3, 0, "", OptionalDouble.empty())
                        .fit(wanted))
                .isEqualTo(Fit.NO);
        assertThat(new StockLine(
                                PartKind.CAPACITOR, "10u", "", OptionalDouble.empty(), 0, 0, "", OptionalDouble.empty())
                        .fit(wanted))
                .as("none left")
                .isEqualTo(Fit.NO);
        assertThatThrownBy(() -> new StockLine(
                        PartKind.FUSE, "2A", "", OptionalDouble.empty(), -1, 0, "", OptionalDouble.empty()))
                .hasMessageContaining("count");
    }
}
