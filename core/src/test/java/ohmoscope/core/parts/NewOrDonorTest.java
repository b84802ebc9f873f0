package ohmoscope.core.parts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.parts.NewOrDonor.Better;
import ohmoscope.core.parts.NewOrDonor.Why;
import org.junit.jupiter.api.Test;

class NewOrDonorTest {
    private static final Board BOARD = PowerFixtures.board();

    private static NewOrDonor of(PartKind kind, String value) {
        Part plain = Part.of("X1", kind, Side.TOP, 5, 5, 2, 1, List.of(new Pin("1", "VMAIN", -0.4, 0)));
        return NewOrDonor.of(
                WantedPart.of(BOARD, PartEdit.of(plain).value(value).done()));
    }

    @Test
    void whatWearsIsBoughtNew() {
        assertThat(of(PartKind.CONNECTOR, "")).isEqualTo(new NewOrDonor(Better.NEW, Why.WEARS));
        assertThat(of(PartKind.FUSE, "2A")).isEqualTo(new NewOrDonor(Better.NEW, Why.WEARS));
    }

    @Test
    void whatCostsLittleIsBoughtNewWhereItsValueIsKnown() {
        assertThat(of(PartKind.CAPACITOR, "10u")).isEqualTo(new NewOrDonor(Better.NEW, Why.CRACKS));
        assertThat(of(PartKind.INDUCTOR, "")).isEqualTo(new NewOrDonor(Better.DONOR, Why.NO_TYPE));
    }

    @Test
    void aChipComesFromADonorWhereNobodyKnowsItsType() {
        assertThat(of(PartKind.IC, "")).isEqualTo(new NewOrDonor(Better.DONOR, Why.NO_TYPE));
        assertThat(of(PartKind.IC, "TL-7")).isEqualTo(new NewOrDonor(Better.EITHER, Why.HEATED));
    }

    @Test
    void aPairMovesTogether() {
        Part chip = Part.of("U1", PartKind.IC, Side.TOP, 5, 5, 2, 1, List.of(new Pin("1", "VMAIN", -0.4, 0)));
        Part paired = Fixtures.paired(PartEdit.of(chip).value("TL-7").done(), "U2");
        assertThat(NewOrDonor.of(WantedPart.of(BOARD, paired))).isEqualTo(new NewOrDonor(Better.DONOR, Why.PAIR));
    }
}
