package ohmoscope.core.photomap;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;

class PhotoMapTest {
    private static final Squared SQUARED = new Squared(
            new Lens(1000, 800, 0),
            List.of(new PointPx(100, 100), new PointPx(900, 100), new PointPx(900, 700), new PointPx(100, 700)),
            80,
            60,
            Squared.Nudge.NONE);

    private static MapStep.Put put(String ref, PartKind kind, double x, double y, String net) {
        return new MapStep.Put(Side.TOP, ref, kind, "0402", new PointMm(x, y), 1, 0.5, 90, net, "");
    }

    private static PhotoMap fresh() {
        return PhotoMap.of(Fixtures.board(), Map.of()).then(new MapStep.Square(Side.TOP, 7, SQUARED));
    }

    @Test
    void whatTheBoardKnewWaitsBesideThePhotograph() {
        PhotoMap map = fresh();
        assertEquals(80, map.board().outline().maxXMm(), 1e-9);
        assertTrue(map.board().parts().stream().noneMatch(map.board()::placed));
        assertEquals(Fixtures.board().parts().size(), map.board().parts().size());
        assertEquals(7, map.laid().get(Side.TOP).photo());
    }

    @Test
    void aKnownPartKeepsItsNetsWhenItIsPutOnThePhotograph() {
        PhotoMap map = fresh().then(put("F1", PartKind.FUSE, 10, 20, ""));
        Part fuse = map.board().part("F1").orElseThrow();
        assertTrue(map.board().placed(fuse));
        assertEquals(
                List.of("VIN", "VBUS"), fuse.pins().stream().map(p -> p.net()).toList());
        assertTrue(fuse.resistanceOhms().isPresent());
        // Lies upright: its pins are above each other, about its middle.
        assertEquals(10, fuse.pins().get(0).xMm(), 1e-9);
        assertEquals(20, (fuse.pins().get(0).yMm() + fuse.pins().get(1).yMm()) / 2, 1e-9);
        assertFalse(map.then(new MapStep.Take("F1")).board().placed(fuse(map.then(new MapStep.Take("F1")))));
        assertThrows(InvalidMember.class, () -> map.then(put("F1", PartKind.FUSE, 30, 20, "")));
    }

    private static Part fuse(PhotoMap map) {
        return map.board().part("F1").orElseThrow();
    }

    @Test
    void referencesCountOnFromTheOneThatWasTyped() {
        PhotoMap map = fresh().then(put("C214", PartKind.CAPACITOR, 10, 10, "PP5V0"))
                .then(put("", PartKind.CAPACITOR, 12, 10, "PP5V0"))
                .then(put("", PartKind.RESISTOR, 14, 10, "PP5V0"));
        assertTrue(map.board().part("C215").isPresent());
        assertEquals("C216", map.next(PartKind.CAPACITOR));
        assertTrue(map.board().part("R1").isPresent());
        Part capacitor = map.board().part("C215").orElseThrow();
        assertEquals(Role.BYPASS, map.board().role(capacitor));
        assertEquals(NetKind.POWER, map.board().net("PP5V0").orElseThrow().kind());
        assertEquals(5.0, map.board().net("PP5V0").orElseThrow().nominalVolts().orElseThrow(), 1e-9);
    }

    @Test
    void aRowIsOneStepAndEvenlySpaced() {
        PhotoMap map =
                fresh().then(new MapStep.Row(put("C40", PartKind.CAPACITOR, 10, 30, "VSYS"), new PointMm(22, 30), 5));
        for (int i = 0; i < 5; i++) {
            assertEquals(
                    10 + 3 * i, map.board().part("C" + (40 + i)).orElseThrow().xMm(), 1e-9);
        }
    }

    @Test
    void theBrushGivesEndsAndChipsTheirNets() {
        PhotoMap map = fresh().then(put("R9", PartKind.RESISTOR, 20, 20, ""))
                .then(new MapStep.Put(Side.TOP, "U9", PartKind.IC, "", new PointMm(40, 30), 5, 5, 0, "", ""))
                .then(new MapStep.Paint(
                        "VSYS",
                        List.of(
                                new MapStep.Touch("R9", new PointMm(20, 20.4)),
                                new MapStep.Touch("U9", new PointMm(38, 31)))))
                .then(new MapStep.Paint(
                        "GND",
                        List.of(
                                new MapStep.Touch("R9", new PointMm(20, 19.7)),
                                new MapStep.Touch("U9", new PointMm(42, 29)))));
        Part resistor = map.board().part("R9").orElseThrow();
        // Turned by 90°: its second end is up.
        assertEquals(
                "VSYS",
                resistor.pins().stream()
                        .filter(p -> p.name().equals("2"))
                        .findFirst()
                        .orElseThrow()
                        .net());
        assertEquals(
                "GND",
                resistor.pins().stream()
                        .filter(p -> p.name().equals("1"))
                        .findFirst()
                        .orElseThrow()
                        .net());
        assertEquals(2, map.board().part("U9").orElseThrow().pins().size());
        PhotoMap again = map.then(new MapStep.Paint("VIN", List.of(new MapStep.Touch("U9", new PointMm(38.1, 31)))));
        assertEquals(2, again.board().part("U9").orElseThrow().pins().size());
        assertTrue(again.board().part("U9").orElseThrow().touches("VIN"));
    }

    @Test
    void namesKindsValuesAndTurnsCanBeSaid() {
        PhotoMap map = fresh().then(put("", PartKind.CAPACITOR, 20, 20, "VSYS"))
                .then(new MapStep.Say("C8", "C301", Optional.of(PartKind.TVS), Optional.of("10u"), 90))
                .then(new MapStep.OfNet("VSYS", NetKind.POWER, OptionalDouble.of(8.4)));
        Part part = map.board().part("C301").orElseThrow();
        assertEquals(PartKind.TVS, part.kind());
        assertEquals("10u", part.value());
        assertEquals(180, part.rotDeg(), 1e-9);
        assertEquals(8.4, map.board().net("VSYS").orElseThrow().nominalVolts().orElseThrow(), 1e-9);
        assertThrows(
                InvalidMember.class,
                () -> map.then(new MapStep.Say("C301", "F1", Optional.empty(), Optional.empty(), 0)));
        assertThrows(
                InvalidMember.class, () -> new MapStep.Say("C301", "no name", Optional.empty(), Optional.empty(), 0));
    }

    @Test
    void squaredAnewThePartsStayOnTheirPixels() {
        Squared wider = new Squared(SQUARED.lens(), SQUARED.corners(), 88, 66, Squared.Nudge.NONE);
        PhotoMap map = fresh().then(put("C50", PartKind.CAPACITOR, 20, 30, "VSYS"));
        Board after = map.then(new MapStep.Square(Side.TOP, 7, wider)).board();
        Part part = after.part("C50").orElseThrow();
        assertEquals(22, part.xMm(), 1e-6);
        assertEquals(33, part.yMm(), 1e-6);
        assertEquals(1.1, part.wMm(), 1e-9);
    }

    @Test
    void theSecondSideTakesTheFirstOnesSize() {
        PhotoMap map = fresh().then(new MapStep.Square(
                        Side.BOTTOM, 8, new Squared(SQUARED.lens(), SQUARED.corners(), 77, 61, Squared.Nudge.NONE)))
                .then(new MapStep.Align(
                        List.of(new PointMm(5, 5), new PointMm(75, 55)),
                        List.of(new PointMm(6, 5), new PointMm(76, 55))));
        assertEquals(80, map.laid().get(Side.BOTTOM).squared().widthMm(), 1e-9);
        assertEquals(-1, map.laid().get(Side.BOTTOM).squared().nudge().xMm(), 1e-9);
        assertThrows(
                InvalidMember.class,
                () -> fresh().then(new MapStep.Align(
                        List.of(new PointMm(5, 5), new PointMm(75, 55)),
                        List.of(new PointMm(6, 5), new PointMm(76, 55)))));
    }
}
