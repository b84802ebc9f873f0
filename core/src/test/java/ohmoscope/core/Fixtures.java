package ohmoscope.core;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Storey;
import ohmoscope.core.board.Supply;
import ohmoscope.core.board.TestPoint;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;

/** Small made-up boards, readings and captures for tests. */
public final class Fixtures {
    private Fixtures() {}

    public static Net ground() {
        return new Net("GND", NetKind.GROUND, OptionalDouble.empty(), Optional.empty());
    }

    public static Net rail(String name, double volts) {
        Expectation expect = new Expectation(Optional.of(new Range(40, 4000)), Optional.of(new Range(0.38, 0.46)));
        return new Net(name, NetKind.POWER, OptionalDouble.of(volts), Optional.of(expect));
    }

    public static Net signal(String name) {
        return new Net(name, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty());
    }

    public static Outline rectangle(double w, double h) {
        return new Outline(List.of(new PointMm(0, 0), new PointMm(w, 0), new PointMm(w, h), new PointMm(0, h)));
    }

    /** A two-pin part lying along x. */
    public static Part twoPin(String ref, PartKind kind, double x, double y, String a, String b) {
        return Part.of(
                ref, kind, Side.TOP, x, y, 1.6, 0.8, List.of(new Pin("1", a, x - 0.6, y), new Pin("2", b, x + 0.6, y)));
    }

    public static Part withOhms(Part p, double ohms) {
        return copy(p, p.statedRole(), p.value(), OptionalDouble.of(ohms), p.supplies(), p.gate());
    }

    /** The part on one half of a two-storey board. */
    public static Part onStorey(Part p, Storey storey) {
        return copy(
                p,
                p.statedRole(),
                p.value(),
                p.resistanceOhms(),
                p.supplies(),
                p.gate(),
                p.expects(),
                Optional.of(storey));
    }

    /** A connector through which the device is powered. */
    public static Part expecting(Part p, PortExpectation expects) {
        return copy(
                p,
                p.statedRole(),
                p.value(),
                p.resistanceOhms(),
                p.supplies(),
                p.gate(),
                Optional.of(expects),
                p.storey());
    }

    /** The part with other electrical data. */
    static Part copy(
            Part p,
            Optional<Role> role,
            String value,
            OptionalDouble ohms,
            List<Supply> supplies,
            Optional<Gate> gate) {
        return copy(p, role, value, ohms, supplies, gate, p.expects(), p.storey());
    }

    private static Part copy(
            Part p,
            Optional<Role> role,
            String value,
            OptionalDouble ohms,
            List<Supply> supplies,
            Optional<Gate> gate,
            Optional<PortExpectation> expects,
            Optional<Storey> storey) {
        return copy(p, role, value, p.voltsRated(), ohms, supplies, gate, expects, p.pairedWith(), storey);
    }

    /** The part with a value and what it is rated for. */
    public static Part rated(Part p, String value, OptionalDouble volts) {
        return copy(
                p,
                p.statedRole(),
                value,
                volts,
                p.resistanceOhms(),
                p.supplies(),
                p.gate(),
                p.expects(),
                p.pairedWith(),
                p.storey());
    }

    /** The part that works only with another. */
    public static Part paired(Part p, String with) {
        return copy(
                p,
                p.statedRole(),
                p.value(),
                p.voltsRated(),
                p.resistanceOhms(),
                p.supplies(),
                p.gate(),
                p.expects(),
                Optional.of(with),
                p.storey());
    }

    private static Part copy(
            Part p,
            Optional<Role> role,
            String value,
            OptionalDouble volts,
            OptionalDouble ohms,
            List<Supply> supplies,
            Optional<Gate> gate,
            Optional<PortExpectation> expects,
            Optional<String> pairedWith,
            Optional<Storey> storey) {
        return new Part(
                p.ref(),
                p.kind(),
                role,
                value,
                volts,
                p.packageName(),
                p.side(),
                p.xMm(),
                p.yMm(),
                p.rotDeg(),
                p.wMm(),
                p.hMm(),
                p.heightMm(),
                p.pins(),
                ohms,
                p.sensitive(),
                supplies,
                gate,
                expects,
                pairedWith,
                storey);
    }

    /** 40 × 30 mm: VIN –F1– VBUS –L1– VSYS, capacitors C1 … C6 on VSYS, C7 on VIN, U1 on VSYS. */
    public static Board board() {
        List<Part> parts = new ArrayList<>();
        parts.add(withOhms(twoPin("F1", PartKind.FUSE, 6, 25, "VIN", "VBUS"), 0.02));
        parts.add(withOhms(twoPin("L1", PartKind.INDUCTOR, 12, 25, "VBUS", "VSYS"), 0.03));
        for (int i = 0; i < 6; i++) {
            parts.add(twoPin("C" + (i + 1), PartKind.CAPACITOR, 12 + 4 * i, 14, "VSYS", "GND"));
        }
        parts.add(twoPin("C7", PartKind.CAPACITOR, 5, 20, "VIN", "GND"));
        parts.add(Part.of(
                "U1",
                PartKind.IC,
                Side.TOP,
                30,
                24,
                6,
                6,
                List.of(new Pin("1", "VSYS", 27.5, 22), new Pin("2", "GND", 27.5, 26), new Pin("3", "S1", 32.5, 24))));
        parts.add(twoPin("R1", PartKind.RESISTOR, 30, 6, "S1", "GND"));
        return new Board(
                "Test logger",
                "A",
                rectangle(40, 30),
                1.2,
                4,
                18,
                List.of(ground(), rail("VIN", 12), rail("VBUS", 12), rail("VSYS", 12), signal("S1")),
                parts,
                List.of(new TestPoint("TP1", "VSYS", Side.TOP, 20, 20)),
                List.of());
    }

    /** The board with other nets and parts, without its test points. */
    public static Board with(Board plain, List<Net> nets, List<Part> parts) {
        return new Board(
                plain.name(),
                plain.revision(),
                plain.outline(),
                plain.thicknessMm(),
                plain.copperLayers(),
                plain.copperUm(),
                nets,
                parts,
                List.of(),
                List.of());
    }

    public static Read diode(int seq, String net, double volts) {
        return read(seq, ReadMode.DIODE, net, "C1", OptionalDouble.of(volts));
    }

    public static Read read(int seq, ReadMode mode, String net, String ref, OptionalDouble value) {
        return new Read(
                seq,
                mode,
                Optional.of(net),
                Optional.of(ref),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                value,
                Optional.empty(),
                Optional.empty());
    }

    public static Change removed(int seq, String ref) {
        return new Change(seq, ChangeAction.REMOVED, ref, true);
    }

    /** A log with a row every tenth of a second; on from {@code from} to {@code to}. */
    public static SupplyLog log(double from, double to, double end, double volts, double amps) {
        List<SupplyLog.Row> rows = new ArrayList<>();
        for (int i = 0; i * 0.1 <= end; i++) {
            double t = i * 0.1;
            boolean on = t >= from && t < to;
            rows.add(new SupplyLog.Row(t, on ? volts : 0, on ? amps : 0, on));
        }
        return new SupplyLog(rows);
    }

    /** Corner pairs of a picture that looks straight down, {@code pxPerMm} pixels to the millimetre. */
    public static List<RegistrationPair> corners(double w, double h, double pxPerMm) {
        List<RegistrationPair> pairs = new ArrayList<>();
        for (double x : new double[] {0, w}) {
            for (double y : new double[] {0, h}) {
                pairs.add(new RegistrationPair(2 + x * pxPerMm, 2 + (h - y) * pxPerMm, x, y));
            }
        }
        return pairs;
    }

    public static CaptureSpec capture(int width, int height, int frames, List<RegistrationPair> pairs) {
        List<Double> times = new ArrayList<>();
        for (int f = 0; f < frames; f++) {
            times.add(f * 0.1);
        }
        return new CaptureSpec(
                "top-1",
                Side.TOP,
                width,
                height,
                0.01,
                0,
                OptionalDouble.of(0.07),
                OptionalDouble.of(0.95),
                pairs,
                times);
    }

    /** Frames held in memory. */
    public static FrameSource frames(List<char[]> frames) {
        return () -> new FrameSource.Cursor() {
            private int next;

            @Override
            public boolean next(char[] counts) {
                if (next == frames.size()) {
                    return false;
                }
                System.arraycopy(frames.get(next++), 0, counts, 0, counts.length);
                return true;
            }

            @Override
            public void close() {}
        };
    }
}
