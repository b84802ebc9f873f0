package ohmoscope.bench.demo;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Storey;

/** The boards of Mossgill Instruments, a maker that does not exist. */
public final class DemoBoards {
    /** Where the telephone's two boards part, mm. */
    private static final double GAP_MM = 66;

    private DemoBoards() {}

    /** Dive-light charger: a dense bank of equal capacitors on the main rail. */
    public static Board tarn() {
        BoardDraft d = new BoardDraft("Mossgill Tarn dive-light charger", "C", 92, 61, 1.2, 6);
        d.rail("VBUS", 12, 60, 8000, 0.45, 0.60);
        d.rail("VBUS_F", 12, 60, 8000, 0.45, 0.60);
        d.rail("VIN", 12, 50, 6000, 0.40, 0.58);
        d.rail("VMAIN", 12, 40, 4000, 0.38, 0.46);
        d.rail("V5A", 5, 60, 6000, 0.40, 0.56);
        d.rail("V3A", 3.3, 40, 5000, 0.36, 0.50);
        d.rail("VLAMP", 9, 30, 4000, 0.38, 0.55);
        d.rail("VCORE", 1.1, 2, 30, 0.02, 0.20);
        Blocks b = new Blocks(d);
        b.port(0.4, 24, "VBUS", "VBUS_F", "VMAIN", 12);
        b.bank(23, 33, 10, 3, 1.75, 3.1, "VMAIN", Side.TOP);
        b.bank(23.9, 28, 9, 1, 1.75, 3.1, "VMAIN", Side.TOP);
        b.buck(4, 4, "VMAIN", "V5A", 5);
        b.buck(23, 4, "VMAIN", "V3A", 3.3);
        b.buck(42, 4, "V5A", "VCORE", 1.1);
        b.buck(60, 46, "VMAIN", "VLAMP", 9);
        b.processor(56, 28, 11, "VCORE", "V3A", "light controller");
        b.helper(70, 24, "V3A", "cell gauge", Side.TOP);
        b.helper(70, 33, "V3A", "memory", Side.TOP);
        b.helper(79, 24, "V5A", "driver", Side.TOP);
        b.helper(4, 40, "V3A", "port controller", Side.TOP);
        b.clock(62, 15.5);
        b.lamp(80, 12, "V5A");
        b.lamp(80, 16, "V5A");
        d.connector(Side.TOP, 87.5, 40, 6, 12, List.of("VLAMP", "GND", "VLAMP", "GND"), Optional.empty());
        d.connector(Side.TOP, 30, 56.5, 14, 5, List.of("VMAIN", d.signal(), d.signal(), "GND"), Optional.empty());
        b.resistors(12, 50, 8, 1.6, Side.TOP, "V3A");
        b.resistors(44, 46, 8, 1.6, Side.TOP, "V3A");
        b.resistors(70, 6, 10, 1.6, Side.BOTTOM, "V3A");
        b.bank(24, 30, 6, 2, 2.2, 3.2, "VMAIN", Side.BOTTOM);
        b.helper(72, 44, "V3A", "level shifter", Side.BOTTOM);
        b.resistors(8, 14, 9, 1.6, Side.BOTTOM, "V5A");
        d.testPoint("VMAIN", Side.TOP, 42, 38);
        d.testPoint("VBUS", Side.TOP, 10, 36);
        return d.done();
    }

    /** River-gauge logger: a modem chip on the battery rail. */
    public static Board beck() {
        BoardDraft d = new BoardDraft("Mossgill Beck river-gauge logger", "B", 74, 50, 1.6, 4);
        d.rail("VBUS", 5, 60, 8000, 0.45, 0.60);
        d.rail("VBUS_F", 5, 60, 8000, 0.45, 0.60);
        d.rail("VIN", 5, 50, 6000, 0.40, 0.58);
        d.rail("VBAT", 4.2, 30, 3000, 0.36, 0.50);
        d.rail("V3A", 3.3, 40, 5000, 0.36, 0.50);
        d.rail("VCORE", 1.2, 3, 40, 0.02, 0.20);
        Blocks b = new Blocks(d);
        b.port(0.4, 20, "VBUS", "VBUS_F", "VBAT", 5);
        b.buck(4, 4, "VBAT", "V3A", 3.3);
        b.buck(23, 4, "V3A", "VCORE", 1.2);
        b.processor(34, 25, 9, "VCORE", "V3A", "logger");
        b.processor(54, 32, 10, "VBAT", "V3A", "modem");
        b.bank(44.5, 14, 7, 1, 2, 3, "VBAT", Side.TOP);
        b.helper(24, 38, "V3A", "memory", Side.TOP);
        b.helper(33, 39, "V3A", "clock keeper", Side.TOP);
        b.clock(10, 36);
        b.lamp(62, 8, "V3A");
        b.lamp(62, 12, "V3A");
        d.connector(Side.TOP, 68.5, 26, 6, 12, List.of("V3A", d.signal(), d.signal(), "GND"), Optional.empty());
        d.connector(Side.TOP, 12, 45.5, 14, 5, List.of("VBAT", d.signal(), "GND"), Optional.empty());
        b.resistors(40, 44, 9, 1.6, Side.TOP, "V3A");
        b.resistors(10, 12, 10, 1.6, Side.BOTTOM, "V3A");
        b.helper(60, 8, "V3A", "level input", Side.BOTTOM);
        d.testPoint("VBAT", Side.TOP, 42, 18);
        return d.done();
    }

    /** Seed counter: its main rail runs along the bottom side. */
    public static Board furrow() {
        BoardDraft d = new BoardDraft("Mossgill Furrow seed counter", "A2", 82, 52, 1.0, 6);
        d.rail("VBUS", 9, 60, 8000, 0.45, 0.60);
        d.rail("VBUS_F", 9, 60, 8000, 0.45, 0.60);
        d.rail("VIN", 9, 50, 6000, 0.40, 0.58);
        d.rail("VSYS", 9, 40, 4000, 0.38, 0.50);
        d.rail("V5A", 5, 60, 6000, 0.40, 0.56);
        d.rail("V3A", 3.3, 40, 5000, 0.36, 0.50);
        d.rail("VCORE", 1.1, 2, 30, 0.02, 0.20);
        Blocks b = new Blocks(d);
        b.port(0.4, 22, "VBUS", "VBUS_F", "VSYS", 9);
        b.buck(4, 4, "VSYS", "V5A", 5);
        b.buck(23, 4, "VSYS", "V3A", 3.3);
        b.buck(42, 4, "V5A", "VCORE", 1.1);
        b.processor(40, 28, 10, "VCORE", "V3A", "counter");
        b.helper(54, 20, "V3A", "beam amplifier", Side.TOP);
        b.helper(54, 29, "V5A", "beam driver", Side.TOP);
        b.helper(64, 20, "V3A", "display driver", Side.TOP);
        b.clock(64, 30);
        b.lamp(64, 8, "V5A");
        d.connector(
                Side.TOP, 77, 26, 6, 16, List.of("V5A", d.signal(), d.signal(), d.signal(), "GND"), Optional.empty());
        d.connector(Side.TOP, 30, 47.5, 16, 5, List.of("VSYS", d.signal(), "GND"), Optional.empty());
        b.resistors(44, 44, 10, 1.6, Side.TOP, "V3A");
        b.resistors(5, 40, 8, 1.6, Side.TOP, "V3A");
        b.bank(12, 16, 9, 1, 2.4, 3, "VSYS", Side.BOTTOM);
        b.bank(12, 38, 12, 1, 2.4, 3, "VSYS", Side.BOTTOM);
        b.bank(56, 20, 6, 2, 2.4, 4, "VSYS", Side.BOTTOM);
        b.helper(50, 34, "V3A", "level shifter", Side.BOTTOM);
        b.resistors(56, 12, 9, 1.6, Side.BOTTOM, "V3A");
        d.testPoint("VSYS", Side.TOP, 24, 40);
        return d.done();
    }

    /** Trail radio: its transmitter sits under a can. */
    public static Board ridge() {
        BoardDraft d = new BoardDraft("Mossgill Ridge trail radio", "D", 104, 54, 1.6, 6);
        d.rail("VBUS", 5, 60, 8000, 0.45, 0.60);
        d.rail("VBUS_F", 5, 60, 8000, 0.45, 0.60);
        d.rail("VIN", 5, 50, 6000, 0.40, 0.58);
        d.rail("VBAT", 7.4, 30, 3000, 0.36, 0.52);
        d.rail("V5A", 5, 60, 6000, 0.40, 0.56);
        d.rail("V3A", 3.3, 40, 5000, 0.36, 0.50);
        d.rail("VCORE", 1.2, 3, 40, 0.02, 0.20);
        Blocks b = new Blocks(d);
        b.port(0.4, 22, "VBUS", "VBUS_F", "VBAT", 5);
        b.buck(4, 4, "VBAT", "V5A", 5);
        b.buck(23, 4, "VBAT", "V3A", 3.3);
        b.buck(42, 4, "V3A", "VCORE", 1.2);
        b.processor(40, 28, 11, "VCORE", "V3A", "radio processor");
        b.helper(54, 18, "V3A", "sound", Side.TOP);
        b.helper(54, 36, "V3A", "memory", Side.TOP);
        d.shield(Side.TOP, 80, 36, 30, 24);
        b.helper(70, 32, "VBAT", "power amplifier", Side.TOP);
        b.helper(70, 40, "VBAT", "transmitter", Side.TOP);
        b.bank(79, 30, 7, 2, 2.1, 4, "VBAT", Side.TOP);
        b.resistors(79, 42, 8, 1.6, Side.TOP, "V3A");
        b.clock(64, 10);
        b.lamp(76, 8, "V3A");
        b.lamp(76, 12, "V3A");
        d.connector(Side.TOP, 95, 9, 12, 6, List.of("VBAT", d.signal(), d.signal(), "GND"), Optional.empty());
        d.connector(Side.TOP, 24, 48.5, 16, 6, List.of("VBAT", d.signal(), "GND"), Optional.empty());
        b.resistors(5, 40, 8, 1.6, Side.TOP, "V3A");
        b.bank(24, 36, 4, 2, 2.2, 3.2, "VBAT", Side.TOP);
        b.bank(70, 30, 8, 1, 2.4, 3, "VBAT", Side.BOTTOM);
        b.helper(60, 10, "V3A", "keypad", Side.BOTTOM);
        b.resistors(10, 14, 10, 1.6, Side.BOTTOM, "V3A");
        d.testPoint("VBAT", Side.TOP, 22, 34);
        return d.done();
    }

    /** Head lamp: small, of which a shop has photographs and nothing else. */
    static Board gill() {
        BoardDraft d = new BoardDraft("Mossgill Gill head lamp", "", 46, 30, 1.0, 4);
        d.rail("VCELL", 4.2, 50, 6000, 0.4, 0.6);
        d.rail("VDOCK", 5, 50, 6000, 0.4, 0.6);
        d.rail("VDOCK_F", 5, 50, 6000, 0.4, 0.6);
        d.rail("VIN", 5, 50, 6000, 0.4, 0.6);
        d.rail("VBEAM", 8, 40, 5000, 0.36, 0.5);
        Blocks b = new Blocks(d);
        b.port(0.4, 10, "VDOCK", "VDOCK_F", "VCELL", 5);
        b.buck(20, 3, "VCELL", "VBEAM", 8);
        b.helper(34, 16, "VCELL", "beam control", Side.TOP);
        b.bank(20, 16, 6, 1, 2, 3, "VCELL", Side.TOP);
        b.resistors(20, 24, 7, 1.7, Side.TOP, "VCELL");
        return d.done();
    }

    /**
     * Field telephone: more than six hundred parts on both sides of two boards that lie on each other, drawn side by side;
     * what is left of the gap is the lower one.
     */
    public static Board fell() {
        BoardDraft d = new BoardDraft("Mossgill Fell field telephone", "E3", 132, 58, 0.8, 10);
        d.rail("VPORT", 5, 60, 9000, 0.42, 0.62);
        d.rail("VPORT_F", 5, 60, 9000, 0.42, 0.62);
        d.rail("VIN", 5, 50, 7000, 0.40, 0.60);
        d.rail("VPH", 3.9, 25, 3000, 0.30, 0.42);
        d.rail("V1P8", 1.8, 20, 2500, 0.26, 0.40);
        d.rail("V0P9", 0.9, 1, 20, 0.01, 0.16);
        d.rail("VMEM", 1.1, 4, 60, 0.04, 0.22);
        d.rail("V2P8", 2.8, 40, 5000, 0.34, 0.52);
        d.rail("VRF", 1.3, 8, 90, 0.06, 0.26);
        d.rail("VLED", 3.9, 40, 4000, 0.33, 0.50);
        Blocks b = new Blocks(d);
        b.port(0.4, 22, "VPORT", "VPORT_F", "VPH", 5);
        b.buck(3, 3, "VPH", "V1P8", 1.8);
        b.buck(20, 3, "VPH", "V0P9", 0.9);
        b.buck(37, 3, "VPH", "VMEM", 1.1);
        b.processor(32, 27, 13, "V0P9", "V1P8", "telephone processor");
        b.processor(51, 27, 9, "VMEM", "V1P8", "memory");
        b.bank(20, 44, 14, 2, 1.6, 2.9, "VPH", Side.TOP);
        b.bank(44, 44, 10, 2, 1.6, 2.9, "VPH", Side.TOP);
        b.helper(2, 40, "V1P8", "port controller", Side.TOP);
        b.helper(10, 40, "VPH", "cell gauge", Side.TOP);
        b.helper(2, 48, "V2P8", "touch", Side.TOP);
        b.helper(10, 48, "VLED", "lamp driver", Side.TOP);
        b.resistors(20, 39.6, 12, 1.5, Side.TOP, "V1P8");
        b.resistors(22, 53.6, 22, 1.5, Side.TOP, "V1P8");
        d.connector(Side.TOP, 58, 6, 6, 8, List.of("V2P8", d.signal(), d.signal(), "GND"), Optional.empty());
        b.bank(5, 8, 12, 3, 1.7, 2.9, "VPH", Side.BOTTOM);
        b.bank(8, 42, 16, 3, 1.7, 2.9, "V1P8", Side.BOTTOM);
        b.helper(40, 8, "V1P8", "storage", Side.BOTTOM);
        b.helper(50, 8, "V2P8", "camera switch", Side.BOTTOM);
        b.resistors(40, 44, 12, 1.5, Side.BOTTOM, "V1P8");
        b.resistors(40, 48, 12, 1.5, Side.BOTTOM, "V2P8");
        b.resistors(6, 20, 9, 1.5, Side.BOTTOM, "VLED");
        // The upper board: radio.
        b.buck(70, 3, "VPH", "VRF", 1.3);
        b.buck(87, 3, "VPH", "V2P8", 2.8);
        b.processor(88, 30, 10, "VRF", "V1P8", "radio");
        b.helper(106, 30, "VPH", "power amplifier", Side.TOP);
        b.helper(106, 38, "VRF", "low noise amplifier", Side.TOP);
        b.helper(106, 22, "V1P8", "band switch", Side.TOP);
        b.helper(70, 40, "V2P8", "sound", Side.TOP);
        b.helper(70, 48, "VPH", "speaker driver", Side.TOP);
        b.clock(112, 12);
        b.bank(116, 22, 7, 3, 1.7, 3, "VPH", Side.TOP);
        b.bank(78, 44, 12, 3, 1.7, 2.9, "VRF", Side.TOP);
        b.resistors(102, 50, 16, 1.6, Side.TOP, "V1P8");
        b.resistors(102, 46, 16, 1.6, Side.TOP, "V2P8");
        b.resistors(116, 34, 8, 1.6, Side.TOP, "V1P8");
        b.bank(72, 10, 14, 3, 1.7, 2.9, "VPH", Side.BOTTOM);
        b.bank(104, 10, 14, 3, 1.7, 2.9, "VRF", Side.BOTTOM);
        b.bank(72, 42, 14, 3, 1.7, 2.9, "V2P8", Side.BOTTOM);
        b.helper(106, 40, "V1P8", "card reader", Side.BOTTOM);
        b.helper(116, 40, "VRF", "antenna tuner", Side.BOTTOM);
        b.resistors(104, 24, 16, 1.6, Side.BOTTOM, "V1P8");
        b.resistors(104, 30, 16, 1.6, Side.BOTTOM, "V1P8");
        b.resistors(104, 52, 16, 1.6, Side.BOTTOM, "V2P8");
        d.testPoint("VPH", Side.TOP, 18, 36);
        d.testPoint("VRF", Side.TOP, 100, 20);
        Board flat = d.done();
        return flat.withParts(flat.parts().stream()
                .map(p -> PartEdit.of(p)
                        .storey(Optional.of(p.xMm() < GAP_MM ? Storey.LOWER : Storey.UPPER))
                        .done())
                .toList());
    }

    public static List<Board> all() {
        return List.of(tarn(), beck(), furrow(), ridge());
    }
}
