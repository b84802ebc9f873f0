package ohmoscope.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Supply;
import ohmoscope.core.layout.Draft.DraftPart;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;
import org.junit.jupiter.api.Test;

/** A buck regulator between VIN and a rail whose name says nothing, with a bead behind it. */
class LayoutsTest {
    private static DraftPart part(String ref, String value, double x, double y, String... pads) {
        return part(ref, value, Side.TOP, x, y, pads);
    }

    /** @param pads {@code number:net:function} */
    private static DraftPart part(String ref, String value, Side side, double x, double y, String... pads) {
        List<Pad> all = new ArrayList<>();
        for (int i = 0; i < pads.length; i++) {
            String[] words = pads[i].split(":", -1);
            all.add(new Pad(
                    words[0],
                    words[1].isEmpty() ? Optional.empty() : Optional.of(words[1]),
                    words.length > 2 ? words[2] : "",
                    x + i,
                    y));
        }
        return new DraftPart(ref, value, "", Optional.of(new Place(side, x, y, 0)), Optional.empty(), all, true);
    }

    private static Draft draft(String file, DraftPart... parts) {
        return new Draft(
                file,
                "",
                "",
                List.of(),
                OptionalDouble.empty(),
                OptionalInt.empty(),
                OptionalDouble.empty(),
                List.of(),
                List.of(parts),
                Map.of());
    }

    private static Draft layout() {
        return draft(
                "lantern.kicad_pcb",
                part("U1", "buck", 10, 10, "1:VIN:VIN", "2:N1:SW", "3:GND:GND", "4:ENA:EN"),
                part("L1", "2u2", 14, 10, "1:N1", "2:OUTRAIL"),
                part("C1", "10u 25V", 8, 10, "1:VIN", "2:GND"),
                part("C2", "22u", 18, 10, "1:OUTRAIL", "2:GND"),
                part("C3", "22u", Side.BOTTOM, 20, 10, "1:OUTRAIL", "2:GND"),
                part("FB1", "bead", 22, 10, "1:OUTRAIL", "2:BEHIND"),
                part("C4", "1u", 24, 10, "1:BEHIND", "2:GND"),
                part("R9", "10m", 26, 10, "1:OUTRAIL", "2:SENSED"),
                part("C5", "1u", 28, 10, "1:SENSED", "2:GND"),
                part("Q1", "PMOS", 30, 10, "1:G1:G", "2:VIN:S", "3:LOAD:D"),
                part("TP1", "", 4, 4, "1:OUTRAIL"),
                part("FID1", "", 1, 1, "1:"));
    }

    private static NetKind kind(Board board, String net) {
        return board.net(net).map(Net::kind).orElseThrow();
    }

    @Test
    void railsAreFoundByTheirCapacitorsAndGoOnBehindWhatCarriesThem() {
        Layouts.Laid laid = Layouts.board(List.of(layout()));
        Board board = laid.board();
        assertThat(kind(board, "GND")).isEqualTo(NetKind.GROUND);
        assertThat(List.of("VIN", "OUTRAIL", "BEHIND", "SENSED")).allMatch(n -> kind(board, n) == NetKind.POWER);
        assertThat(List.of("N1", "ENA", "G1")).allMatch(n -> kind(board, n) == NetKind.SIGNAL);
        assertThat(laid.notes())
                .anyMatch(n -> n.kind() == Note.Kind.GUESSED && n.what().contains("OUTRAIL"))
                .anyMatch(n -> n.what().contains("U1 makes OUTRAIL"));
    }

    @Test
    void pinsNamesTellWhatAChipMakesAndWhatSwitches() {
        Board board = Layouts.board(List.of(layout())).board();
        assertThat(board.part("U1").orElseThrow().supplies())
                .containsExactly(new Supply("VIN", "OUTRAIL", Optional.of("ENA"), OptionalDouble.empty()));
        assertThat(board.part("Q1").flatMap(Part::gate)).contains(new Gate("G1", Gate.OnWhen.LOW));
        assertThat(board.part("C1").orElseThrow().voltsRated()).hasValue(25);
        Part sense = board.part("R9").orElseThrow();
        assertThat(board.role(sense)).isEqualTo(Role.SERIES);
        assertThat(sense.resistanceOhms()).hasValue(0.01);
        assertThat(board.testPoint("TP1").orElseThrow().net()).isEqualTo("OUTRAIL");
        assertThat(board.fiducials()).singleElement().matches(f -> f.name().equals("FID1"));
        assertThat(board.part("FB1").orElseThrow().kind()).isEqualTo(PartKind.FERRITE);
    }

    /** Mils, another origin, and a bottom that is seen from below. */
    @Test
    void aTableInOtherAxesIsLaidOverTheLayout() {
        List<DraftPart> rows = new ArrayList<>();
        for (DraftPart part : layout().parts()) {
            Place at = part.place().orElseThrow();
            double x = (at.side() == Side.BOTTOM ? -(at.xMm() - 3) : at.xMm() - 3) / 0.0254;
            rows.add(new DraftPart(
                    part.ref(),
                    part.ref().equals("C2") ? "47u" : "",
                    "",
                    Optional.of(new Place(at.side(), x, (at.yMm() + 2) / 0.0254, 0)),
                    Optional.empty(),
                    List.of(),
                    true));
        }
        rows.add(part("C99", "1u", 27 / 0.0254, 12 / 0.0254));
        Layouts.Laid laid = Layouts.board(List.of(draft("places.csv", rows.toArray(DraftPart[]::new)), layout()));
        assertThat(laid.notes())
                .anyMatch(n -> n.kind() == Note.Kind.DISAGREES
                        && n.about().equals("places.csv")
                        && n.what().contains("0.0254 mm")
                        && n.what().contains("bottom side is mirrored"))
                .anyMatch(n -> n.what().contains("C2 22u / 47u"))
                .anyMatch(n -> n.what().contains("does not have: C99"));
        Part more = laid.board().part("C99").orElseThrow();
        assertThat(more.xMm()).isCloseTo(30, within(1e-6));
        assertThat(more.yMm()).isCloseTo(10, within(1e-6));
        assertThat(laid.board().part("C3").orElseThrow().xMm()).isEqualTo(20);
    }

    @Test
    void placesOfAnotherBoardAreNotUsed() {
        DraftPart[] rows = {part("C1", "", 80, 1), part("C2", "", 3, 77), part("C4", "", 55, 20), part("U1", "", 9, 40)
        };
        Layouts.Laid laid = Layouts.board(List.of(layout(), draft("other.csv", rows)));
        assertThat(laid.notes()).anyMatch(n -> n.what().contains("its places are not used"));
        assertThat(laid.board().part("C1").orElseThrow().xMm()).isEqualTo(8);
    }

    @Test
    void whatIsNotFittedOrHasNoPlaceIsSaidAndLeftOut() {
        DraftPart empty = new DraftPart("C1", "10u", "", Optional.empty(), Optional.empty(), List.of(), false);
        DraftPart only = new DraftPart("R77", "1k", "", Optional.empty(), Optional.empty(), List.of(), true);
        Layouts.Laid laid = Layouts.board(List.of(layout(), draft("list.csv", empty, only)));
        assertThat(laid.board().part("C1")).isEmpty();
        assertThat(laid.notes())
                .anyMatch(n -> n.about().equals("not fitted") && n.what().equals("C1"))
                .anyMatch(n -> n.about().equals("without a place") && n.what().equals("R77"));
        assertThatThrownBy(() -> Layouts.board(List.of(draft("list.csv", only))))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("no place in any of the files");
    }

    @Test
    void aReferenceThatStandsTwiceGetsANumber() {
        Layouts.Laid laid =
                Layouts.board(List.of(draft("panel", part("C1", "1u", 1, 1, "1:A"), part("C1", "1u", 9, 1, "1:A"))));
        assertThat(laid.board().parts()).extracting(Part::ref).containsExactly("C1", "C1_2");
        assertThat(laid.notes()).anyMatch(n -> n.what().contains("C1_2"));
    }

    /** The layout, and a table that says otherwise of a value, a place, a side, a net and a part. */
    private static List<Draft> quarrelling() {
        List<DraftPart> rows = new ArrayList<>();
        for (DraftPart p : layout().parts()) {
            Place at = p.place().orElseThrow();
            rows.add(part(p.ref(), p.value(), at.side(), at.xMm(), at.yMm()));
        }
        rows.set(
                0,
                part(
                        rows.get(0).ref(),
                        "other value",
                        rows.get(0).place().orElseThrow().xMm(),
                        rows.get(0).place().orElseThrow().yMm()));
        Place moved = rows.get(1).place().orElseThrow();
        rows.set(1, part(rows.get(1).ref(), rows.get(1).value(), moved.xMm() + 3, moved.yMm() + 1));
        Place turned = rows.get(2).place().orElseThrow();
        rows.set(2, part(rows.get(2).ref(), rows.get(2).value(), Side.BOTTOM, turned.xMm(), turned.yMm()));
        rows.add(part("X9", "jumper", 2, 2));
        return List.of(layout(), draft("table.csv", rows.toArray(DraftPart[]::new)));
    }

    private static Layouts.Laid choosing(Map<String, String> believed) {
        return Layouts.board(quarrelling(), new Choices(Optional.empty(), Map.of(), believed));
    }

    @Test
    void whatFilesDisagreeInIsListedAndDecided() {
        Layouts.Laid usual = Layouts.board(quarrelling());
        String file = usual.files().get(0).file();
        assertThat(usual.files())
                .hasSize(2)
                .satisfies(files -> assertThat(files.get(0).first()).isTrue())
                .satisfies(files -> assertThat(files.get(1).used()).isTrue());
        assertThat(usual.disagreements())
                .extracting(Disagreement::what)
                .containsExactlyInAnyOrder(
                        Disagreement.What.VALUE,
                        Disagreement.What.PLACE,
                        Disagreement.What.SIDE,
                        Disagreement.What.PART);
        Map<String, String> all = new java.util.HashMap<>();
        for (Disagreement d : usual.disagreements()) {
            String other = d.said().keySet().stream()
                    .filter(f -> !f.equals(d.believed()))
                    .findFirst()
                    .orElseThrow();
            all.put(d.key(), other);
        }
        Layouts.Laid chosen = choosing(all);
        List<Part> before = layout().parts().stream()
                .limit(3)
                .map(p -> usual.board().part(p.ref()).orElseThrow())
                .toList();
        Part valued = chosen.board().part(before.get(0).ref()).orElseThrow();
        assertThat(valued.value()).isEqualTo("other value");
        Part moved = chosen.board().part(before.get(1).ref()).orElseThrow();
        assertThat(moved.xMm()).isEqualTo(before.get(1).xMm() + 3, within(1e-9));
        assertThat(moved.pins().get(0).xMm())
                .isEqualTo(before.get(1).pins().get(0).xMm() + 3, within(1e-9));
        Part turned = chosen.board().part(before.get(2).ref()).orElseThrow();
        assertThat(turned.side()).isEqualTo(Side.BOTTOM);
        assertThat(turned.pins()).hasSameSizeAs(before.get(2).pins());
        assertThat(usual.board().part("X9")).isPresent();
        assertThat(chosen.board().part("X9")).isEmpty();
        // Asked again, the same things are disagreed in, and each is believed as was chosen.
        assertThat(chosen.disagreements()).hasSameSizeAs(usual.disagreements());
        assertThat(chosen.disagreements())
                .allSatisfy(d -> assertThat(d.believed()).isEqualTo(all.get(d.key())));
        assertThat(file).isNotEmpty();
    }

    @Test
    void netsAreBelievedPadByPad() {
        Draft here = draft("a", part("R1", "10k", 0, 0, "1:VIN", "2:OUT"), part("R2", "10k", 9, 0, "1:OUT", "2:GND"));
        Draft there = draft("b", part("R1", "10k", 0, 0, "1:VIN", "2:SENSE"));
        Layouts.Laid laid =
                Layouts.board(List.of(here, there), new Choices(Optional.empty(), Map.of(), Map.of("NET R1-2", "b")));
        assertThat(laid.board().part("R1").orElseThrow().pins().get(1).net()).isEqualTo("SENSE");
        assertThat(laid.board().part("R2").orElseThrow().pins().get(0).net()).isEqualTo("OUT");
    }

    @Test
    void theFirstFileAndTheAxesAreChosen() {
        List<Draft> files = quarrelling();
        Layouts.Laid other = Layouts.board(files, new Choices(Optional.of("table.csv"), Map.of(), Map.of()));
        assertThat(other.files().get(0).file()).isEqualTo("table.csv");
        String ref = files.get(0).parts().get(0).ref();
        assertThat(other.board().part(ref).orElseThrow().value()).isEqualTo("other value");
        Layouts.Laid inches = Layouts.board(
                files,
                new Choices(
                        Optional.empty(),
                        Map.of(
                                "table.csv",
                                new Choices.AxesChoice(
                                        OptionalDouble.of(25.4), Optional.of(false), Optional.of(false))),
                        Map.of()));
        FileRead read = inches.files().get(1);
        assertThat(read.scale()).isEqualTo(25.4);
        assertThat(read.used()).isTrue();
        assertThat(read.agree()).isLessThan(0.9);
    }
}
