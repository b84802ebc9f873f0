package ohmoscope.bench.demo;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Supply;

/** Pieces that power boards are made of, each laid out as a designer would. Places are the piece's lower left, mm. */
final class Blocks {
    private final BoardDraft draft;

    Blocks(BoardDraft draft) {
        this.draft = draft;
    }

    /** A charging port on the left edge: connector, clamp, fuse, pass FET with its gate, sense resistor. */
    void port(double x, double y, String bus, String fused, String main, double volts) {
        PortExpectation expects = new PortExpectation(
                Optional.of(new Range(volts * 0.95, volts * 1.05)),
                Optional.of(new Range(0, 0.05)),
                Optional.of(new Range(0.3, 2)),
                Optional.of(new Range(0.8, 3)),
                true);
        draft.connector(
                Side.TOP,
                x + 3.7,
                y + 5,
                7.4,
                9,
                List.of("GND", bus, draft.signal(), draft.signal(), bus, "GND"),
                Optional.of(expects));
        draft.twoPin(PartKind.TVS, "D", "clamp", "1206", Side.TOP, x + 9.6, y + 8, 90, bus, "GND");
        draft.cap("1u", "0603", Side.TOP, x + 9.6, y + 4.2, 90, bus);
        draft.cap("100n", "0402", Side.TOP, x + 9.6, y + 1.8, 90, bus);
        draft.twoPin(
                PartKind.FUSE, "F", "3A", "1206", Side.TOP, x + 12.6, y + 8, 90, bus, fused, OptionalDouble.of(0.018));
        String gate = draft.signal();
        draft.transistor(
                PartKind.MOSFET,
                "pass",
                Side.TOP,
                x + 13.2,
                y + 4.2,
                fused,
                gate,
                "VIN",
                Optional.of(new Gate(gate, Gate.OnWhen.LOW)),
                OptionalDouble.of(0.021));
        draft.resistor("100k", "0402", Side.TOP, x + 12, y + 1.8, 0, gate, fused);
        draft.resistor("10k", "0402", Side.TOP, x + 13.8, y + 1.8, 0, gate, "GND");
        draft.twoPin(
                PartKind.RESISTOR,
                "R",
                "10m",
                "1206",
                Side.TOP,
                x + 16.6,
                y + 8,
                90,
                "VIN",
                main,
                OptionalDouble.of(0.010));
        draft.cap("10u", "0805", Side.TOP, x + 16.6, y + 4, 90, "VIN");
        for (int i = 0; i < 2; i++) {
            draft.resistor("5k1", "0402", Side.TOP, x + 16 + 1.6 * i, y + 1.4, 0, draft.signal(), "GND");
        }
    }

    /** A step-down converter: chip, coil, input and output capacitors, divider, enable pull-up. */
    void buck(double x, double y, String in, String out, double volts) {
        String sw = draft.signal();
        String fb = draft.signal();
        String en = "EN_" + out;
        draft.chip(
                "step-down",
                Side.TOP,
                x + 4.5,
                y + 4.5,
                3,
                Role.REGULATOR,
                List.of(in, "GND", en, fb, "GND", sw, sw, in, draft.signal(), "GND", out, in),
                List.of(new Supply(in, out, Optional.of(en), OptionalDouble.of(volts))));
        draft.inductor("2u2", Side.TOP, x + 9.4, y + 4.5, 4, sw, out, 0.022);
        draft.cap("10u", "0805", Side.TOP, x + 1.3, y + 5.2, 90, in);
        draft.cap("100n", "0402", Side.TOP, x + 1.3, y + 2.8, 90, in);
        draft.cap("22u", "0805", Side.TOP, x + 13, y + 5.6, 90, out);
        draft.cap("22u", "0805", Side.TOP, x + 14.9, y + 5.6, 90, out);
        draft.cap("100n", "0402", Side.TOP, x + 13, y + 2.9, 90, out);
        draft.resistor("33k", "0402", Side.TOP, x + 4, y + 1.6, 0, out, fb);
        draft.resistor("10k", "0402", Side.TOP, x + 5.8, y + 1.6, 0, fb, "GND");
        draft.resistor("100k", "0402", Side.TOP, x + 7.6, y + 1.6, 0, en, in);
        draft.twoPin(PartKind.CAPACITOR, "C", "10n", "0402", Side.TOP, x + 4.5, y + 7.2, 0, sw, draft.signal());
        draft.testPoint(out, Side.TOP, x + 11.5, y + 1.4);
    }

    /** Rows of equal capacitors. @return their references, row by row */
    List<String> bank(double x, double y, int columns, int rows, double pitchX, double pitchY, String rail, Side side) {
        List<String> refs = new ArrayList<>();
        for (int j = 0; j < rows; j++) {
            for (int i = 0; i < columns; i++) {
                refs.add(draft.cap("10u", "0603", side, x + i * pitchX, y + j * pitchY, 90, rail));
            }
        }
        return refs;
    }

    /** A large chip with capacitors round it and under it. */
    String processor(double x, double y, double size, String core, String io, String value) {
        List<String> around = new ArrayList<>();
        for (int i = 0; i < 32; i++) {
            around.add(i % 8 == 0 ? core : i % 8 == 3 ? "GND" : i % 8 == 5 ? io : draft.signal());
        }
        String ref = draft.chip(value, Side.TOP, x, y, size, Role.LOAD, around, List.of());
        double edge = size / 2 + 1.1;
        int perSide = (int) (size / 2.2);
        for (int i = 0; i < perSide; i++) {
            double along = (i - (perSide - 1) / 2.0) * 2.2;
            draft.cap("100n", "0402", Side.TOP, x + along, y + edge, 90, i % 2 == 0 ? core : io);
            draft.cap("100n", "0402", Side.TOP, x + along, y - edge, 90, i % 2 == 0 ? io : core);
            draft.cap("100n", "0402", Side.TOP, x - edge, y + along, 0, i % 2 == 0 ? core : io);
            draft.cap("1u", "0402", Side.TOP, x + edge, y + along, 0, i % 2 == 0 ? io : core);
        }
        for (int i = 0; i < perSide; i++) {
            for (int j = 0; j < 3; j++) {
                double along = (i - (perSide - 1) / 2.0) * 2.0;
                draft.cap("1u", "0402", Side.BOTTOM, x + along, y + (j - 1) * 2.4, 90, j == 1 ? core : io);
            }
        }
        return ref;
    }

    /** A small chip with its own bypass and a few resistors. */
    String helper(double x, double y, String rail, String value, Side side) {
        List<String> pins = new ArrayList<>(List.of(rail, "GND"));
        pins.addAll(Collections.nCopies(6, ""));
        for (int i = 2; i < 8; i++) {
            pins.set(i, draft.signal());
        }
        String ref = draft.chip(value, side, x + 2, y + 2, 3, Role.LOAD, pins, List.of());
        draft.cap("100n", "0402", side, x + 4.6, y + 2.8, 90, rail);
        draft.resistor("4k7", "0402", side, x + 4.6, y + 0.8, 90, pins.get(3), rail);
        draft.resistor("22", "0402", side, x + 1.2, y + 4.5, 0, pins.get(4), draft.signal());
        draft.resistor("22", "0402", side, x + 3, y + 4.5, 0, pins.get(5), draft.signal());
        return ref;
    }

    /** A row of signal resistors. */
    void resistors(double x, double y, int count, double pitch, Side side, String rail) {
        for (int i = 0; i < count; i++) {
            draft.resistor(
                    i % 3 == 0 ? "10k" : "1k",
                    "0402",
                    side,
                    x + i * pitch,
                    y,
                    90,
                    draft.signal(),
                    i % 3 == 0 ? rail : draft.signal());
        }
    }

    /** A crystal with its two load capacitors. */
    void clock(double x, double y) {
        String a = draft.signal();
        String b = draft.signal();
        draft.crystal(Side.TOP, x + 2, y + 1.5, a, b);
        draft.twoPin(PartKind.CAPACITOR, "C", "12p", "0402", Side.TOP, x - 0.6, y + 1.5, 90, a, "GND");
        draft.twoPin(PartKind.CAPACITOR, "C", "12p", "0402", Side.TOP, x + 4.6, y + 1.5, 90, b, "GND");
    }

    /** An indicator with its resistor and driver. */
    void lamp(double x, double y, String rail) {
        String a = draft.signal();
        String b = draft.signal();
        draft.twoPin(PartKind.DIODE, "D", "lamp", "0603", Side.TOP, x, y, 90, a, b);
        draft.resistor("330", "0402", Side.TOP, x + 1.6, y, 90, rail, a);
        draft.transistor(
                PartKind.TRANSISTOR,
                "npn",
                Side.TOP,
                x + 4.4,
                y,
                draft.signal(),
                "GND",
                b,
                Optional.empty(),
                OptionalDouble.empty());
    }
}
