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
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Supply;

/**
 * A board with one of everything between a jack and a core: J1 – F1 – VIN – Q1 – VMAIN – U1 – V3, VMAIN – U2 – VCORE, and
 * a battery J2 behind Q2, whose gate hangs in a divider R1/R2 over the small FET Q3.
 */
public final class PowerFixtures {
    private PowerFixtures() {}

    public static Board board() {
        return board("S=GND");
    }

    /** The same with a line between the port and the supervisor, which also tells the battery's switch. */
    public static Board withPortLine() {
        return board("S=GND", "D=BEN");
    }

    /** The same, but U1 makes a second rail, V5, whose enable is EN5. */
    public static Board withTwoOutputs() {
        Board plain = board();
        List<Net> nets = new ArrayList<>(plain.nets());
        nets.add(rail("V5", 5, 200, 20_000, 0.30, 0.55));
        nets.add(Fixtures.signal("EN5"));
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.removeIf(p -> p.ref().equals("U1"));
        Part both = part(
                "U1",
                PartKind.IC,
                Role.REGULATOR,
                "dual",
                "VIN=VMAIN",
                "EN=EN3",
                "E5=EN5",
                "FB=V3",
                "F5=V5",
                "GND=GND");
        parts.add(supplying(
                both,
                new Supply("VMAIN", "V3", Optional.of("EN3"), OptionalDouble.of(3.3)),
                new Supply("VMAIN", "V5", Optional.of("EN5"), OptionalDouble.of(5))));
        parts.add(part("C7", PartKind.CAPACITOR, Role.BYPASS, "10u", "1=V5", "2=GND"));
        return new Board("Two outputs", "A", plain.outline(), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    /** The same, but U3 has a regulator of its own, for VL: no supply says so. */
    public static Board withInnerRegulator() {
        Board plain = board();
        List<Net> nets = new ArrayList<>(plain.nets());
        nets.add(rail("VL", 1.5, 2_000, 200_000, 0.35, 0.65));
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.removeIf(p -> p.ref().equals("U3"));
        parts.add(part(
                "U3",
                PartKind.IC,
                Role.LOAD,
                "supervisor",
                "VDD=VIN",
                "LDO=VL",
                "AG=AG",
                "EN3=EN3",
                "BEN=BEN",
                "GND=GND"));
        parts.add(part("C8", PartKind.CAPACITOR, Role.BYPASS, "1u", "1=VL", "2=GND"));
        return new Board("Inner regulator", "A", plain.outline(), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    /** The same, but U1 switches at SW, before the coil L1 of V3. */
    public static Board withCoil() {
        Board plain = board();
        List<Net> nets = new ArrayList<>(plain.nets());
        nets.add(Fixtures.signal("SW"));
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.removeIf(p -> p.ref().equals("U1"));
        parts.add(supplying(
                part("U1", PartKind.IC, Role.REGULATOR, "buck", "VIN=VMAIN", "EN=EN3", "SW=SW", "FB=V3", "GND=GND"),
                new Supply("VMAIN", "V3", Optional.of("EN3"), OptionalDouble.of(3.3))));
        parts.add(part("L1", PartKind.INDUCTOR, Role.SERIES, "2u2", "1=SW", "2=V3"));
        return new Board("Coil", "A", plain.outline(), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    /** The same, but U3 lives behind R9, ten ohms, on VDDS. */
    public static Board withSupplyResistor() {
        Board plain = board();
        List<Net> nets = new ArrayList<>(plain.nets());
        nets.add(rail("VDDS", 12, 2_500, 300_000, 0.40, 0.70));
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.removeIf(p -> p.ref().equals("U3"));
        parts.add(
                part("U3", PartKind.IC, Role.LOAD, "supervisor", "VDD=VDDS", "AG=AG", "EN3=EN3", "BEN=BEN", "GND=GND"));
        parts.add(Fixtures.withOhms(part("R9", PartKind.RESISTOR, Role.SERIES, "10", "1=VIN", "2=VDDS"), 10));
        parts.add(part("C7", PartKind.CAPACITOR, Role.BYPASS, "1u", "1=VDDS", "2=GND"));
        return new Board("Supply resistor", "A", plain.outline(), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    /** The same with a chip that charges the battery from the main rail. */
    public static Board withCharger() {
        Board plain = board();
        List<Part> parts = new ArrayList<>(plain.parts());
        Part charger = part("U5", PartKind.IC, Role.CHARGER, "charger", "IN=VMAIN", "BAT=VBAT", "GND=GND");
        parts.add(supplying(charger, new Supply("VMAIN", "VBAT", Optional.empty(), OptionalDouble.of(7.4))));
        return new Board("Charging", "A", plain.outline(), 1.2, 6, 18, plain.nets(), parts, List.of(), List.of());
    }

    /**
     * A board with a reversible port J1 that is asked for 20 V: J1 – Q1 – VSW – R9 – VNEG – U6 – VSYS, from where U1 makes V3 and
     * V18 over L1 and L2, and a battery J2 behind Q2. U7 makes V3A from either VPORT or VSYS (D1, D2); U5 lives on it and asks.
     * Nothing on the board makes VX, and nothing says who drives PL, from where R7 goes to EX.
     */
    public static Board withNegotiation() {
        placed = 0;
        List<Net> nets = new ArrayList<>(List.of(Fixtures.ground()));
        nets.add(rail("VPORT", 20, 4_000, 400_000, 0.42, 0.70));
        nets.add(rail("VSW", 20, 3_000, 400_000, 0.36, 0.62));
        nets.add(rail("VNEG", 20, 3_000, 400_000, 0.36, 0.62));
        nets.add(rail("VSYS", 12.6, 1_200, 90_000, 0.33, 0.60));
        nets.add(rail("VBAT", 11.4, 9_000, 900_000, 0.40, 0.80));
        nets.add(rail("VALW", 12.6, 4_000, 300_000, 0.40, 0.70));
        nets.add(rail("V3A", 3.3, 400, 90_000, 0.30, 0.58));
        nets.add(rail("V3", 3.3, 150, 15_000, 0.30, 0.55));
        nets.add(rail("V18", 1.8, 40, 5_000, 0.15, 0.40));
        nets.add(rail("VX", 0.9, 30, 4_000, 0.15, 0.40));
        nets.add(lineTo("CC1"));
        nets.add(lineTo("CC2"));
        for (String name : List.of("DP", "PG", "BG", "EN3", "S3", "S18", "PL", "EX")) {
            nets.add(Fixtures.signal(name));
        }
        List<Part> parts = new ArrayList<>();
        PortExpectation twenty = new PortExpectation(
                Optional.of(new Range(19, 20)),
                Optional.of(new Range(0, 0.05)),
                Optional.of(new Range(0.3, 2.5)),
                Optional.of(new Range(1, 3)),
                true);
        parts.add(Fixtures.expecting(
                part(
                        "J1",
                        PartKind.CONNECTOR,
                        Role.CONNECTOR,
                        "two-way port",
                        "A4=VPORT",
                        "A5=CC1",
                        "A6=DP",
                        "B6=DP",
                        "B5=CC2",
                        "G=GND"),
                twenty));
        parts.add(part("J2", PartKind.CONNECTOR, Role.CONNECTOR, "battery connector", "P=VBAT", "G=GND"));
        parts.add(part("J3", PartKind.CONNECTOR, Role.CONNECTOR, "display cable", "V=V3", "G=GND"));
        parts.add(gated(part("Q1", PartKind.MOSFET, Role.PASS, "switch", "S=VPORT", "G=PG", "D=VSW"), "PG", true));
        parts.add(Fixtures.withOhms(part("R9", PartKind.RESISTOR, Role.SERIES, "10m", "1=VSW", "2=VNEG"), 0.01));
        parts.add(gated(part("Q2", PartKind.MOSFET, Role.PASS, "switch", "S=VSYS", "G=BG", "D=VBAT"), "BG", false));
        parts.add(part("D1", PartKind.DIODE, Role.SERIES, "or-ing", "1=VPORT", "2=VALW"));
        parts.add(part("D2", PartKind.DIODE, Role.SERIES, "or-ing", "1=VSYS", "2=VALW"));
        parts.add(part(
                "U5",
                PartKind.IC,
                Role.PORT_CONTROLLER,
                "port controller",
                "VBUS=VPORT",
                "VDD=V3A",
                "CC1=CC1",
                "CC2=CC2",
                "DP=DP",
                "G=PG",
                "GND=GND"));
        parts.add(supplying(
                part(
                        "U6",
                        PartKind.IC,
                        Role.CHARGER,
                        "charger",
                        "VIN=VNEG",
                        "SYS=VSYS",
                        "BAT=VBAT",
                        "BG=BG",
                        "GND=GND"),
                new Supply("VNEG", "VSYS", Optional.empty(), OptionalDouble.of(12.6))));
        parts.add(supplying(
                part("U7", PartKind.IC, Role.REGULATOR, "always-on", "IN=VALW", "OUT=V3A", "GND=GND"),
                new Supply("VALW", "V3A", Optional.empty(), OptionalDouble.of(3.3))));
        parts.add(supplying(
                part(
                        "U1",
                        PartKind.IC,
                        Role.REGULATOR,
                        "dual",
                        "VIN=VSYS",
                        "EN=EN3",
                        "SW1=S3",
                        "FB1=V3",
                        "SW2=S18",
                        "FB2=V18",
                        "LDO=PL",
                        "GND=GND"),
                new Supply("VSYS", "V3", Optional.of("EN3"), OptionalDouble.of(3.3)),
                new Supply("VSYS", "V18", Optional.of("EN3"), OptionalDouble.of(1.8))));
        parts.add(part("L1", PartKind.INDUCTOR, Role.SERIES, "2u2", "1=S3", "2=V3"));
        parts.add(part("L2", PartKind.INDUCTOR, Role.SERIES, "1u", "1=S18", "2=V18"));
        parts.add(part("U4", PartKind.IC, Role.LOAD, "processor", "VC=V18", "VX=VX", "IO=V3", "EX=EX", "GND=GND"));
        parts.add(part("R7", PartKind.RESISTOR, Role.OTHER, "10k", "1=PL", "2=EX"));
        bypasses(parts, "VPORT", "VSW", "VSYS", "VSYS", "V3", "V18", "VALW", "V3A", "CC2", "VX");
        return new Board("Asking", "A", Fixtures.rectangle(80, 50), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    private static Net lineTo(String name) {
        Expectation expect =
                new Expectation(Optional.of(new Range(20_000, 5_000_000)), Optional.of(new Range(0.5, 0.85)));
        return new Net(name, NetKind.SIGNAL, OptionalDouble.empty(), Optional.of(expect));
    }

    private static Board board(String... portPins) {
        placed = 0;
        List<Net> nets = new ArrayList<>();
        nets.add(Fixtures.ground());
        nets.add(rail("VBUS", 12, 4_000, 400_000, 0.42, 0.70));
        nets.add(rail("VIN", 12, 4_000, 400_000, 0.42, 0.70));
        nets.add(rail("VMAIN", 12, 900, 90_000, 0.32, 0.55));
        nets.add(rail("VBAT", 7.4, 9_000, 900_000, 0.40, 0.80));
        nets.add(rail("V3", 3.3, 150, 15_000, 0.30, 0.55));
        nets.add(rail("VCORE", 0.9, 2, 20, 0.001, 0.02));
        for (String name : List.of("AG", "BG", "PD", "BEN", "EN3", "ENK")) {
            nets.add(Fixtures.signal(name));
        }
        List<Part> parts = new ArrayList<>();
        List<String> port = new ArrayList<>(List.of("C=VBUS"));
        port.addAll(List.of(portPins));
        parts.add(part("J1", PartKind.CONNECTOR, Role.CONNECTOR, "DC jack", port.toArray(String[]::new)));
        parts.add(part("J2", PartKind.CONNECTOR, Role.CONNECTOR, "battery connector", "P=VBAT", "G=GND"));
        parts.add(part("J3", PartKind.CONNECTOR, Role.CONNECTOR, "display cable", "V=V3", "G=GND"));
        parts.add(Fixtures.withOhms(part("F1", PartKind.FUSE, Role.SERIES, "4A", "1=VBUS", "2=VIN"), 0.02));
        parts.add(gated(part("Q1", PartKind.MOSFET, Role.PASS, "switch", "S=VIN", "G=AG", "D=VMAIN"), "AG", true));
        parts.add(gated(part("Q2", PartKind.MOSFET, Role.PASS, "switch", "S=VMAIN", "G=BG", "D=VBAT"), "BG", false));
        parts.add(part("R1", PartKind.RESISTOR, Role.OTHER, "200k", "1=VMAIN", "2=BG"));
        parts.add(part("R2", PartKind.RESISTOR, Role.OTHER, "33k", "1=BG", "2=PD"));
        parts.add(part("Q3", PartKind.MOSFET, Role.DRIVE, "small", "S=GND", "G=BEN", "D=PD"));
        parts.add(supplying(
                part("U1", PartKind.IC, Role.REGULATOR, "buck", "VIN=VMAIN", "EN=EN3", "FB=V3", "GND=GND"),
                new Supply("VMAIN", "V3", Optional.of("EN3"), OptionalDouble.of(3.3))));
        parts.add(supplying(
                part("U2", PartKind.IC, Role.REGULATOR, "core buck", "VIN=VMAIN", "EN=ENK", "FB=VCORE", "GND=GND"),
                new Supply("VMAIN", "VCORE", Optional.of("ENK"), OptionalDouble.of(0.9))));
        parts.add(
                part("U3", PartKind.IC, Role.LOAD, "supervisor", "VDD=VIN", "AG=AG", "EN3=EN3", "BEN=BEN", "GND=GND"));
        parts.add(part("U4", PartKind.IC, Role.LOAD, "processor", "VC=VCORE", "IO=V3", "ENK=ENK", "GND=GND"));
        bypasses(parts, "VBUS", "VIN", "VMAIN", "VMAIN", "V3", "VCORE");
        return new Board(
                "Power fixture", "A", Fixtures.rectangle(80, 50), 1.2, 6, 18, nets, parts, List.of(), List.of());
    }

    private static Net rail(String name, double volts, double lowOhms, double highOhms, double low, double high) {
        Expectation expect =
                new Expectation(Optional.of(new Range(lowOhms, highOhms)), Optional.of(new Range(low, high)));
        return new Net(name, NetKind.POWER, OptionalDouble.of(volts), Optional.of(expect));
    }

    /** C1 and on, each from its net to ground. */
    private static void bypasses(List<Part> parts, String... nets) {
        for (int i = 0; i < nets.length; i++) {
            parts.add(part("C" + (i + 1), PartKind.CAPACITOR, Role.BYPASS, "10u", "1=" + nets[i], "2=GND"));
        }
    }

    private static int placed;

    private static Part part(String ref, PartKind kind, Role role, String value, String... pins) {
        placed = (placed + 1) % 40;
        double x = 4 + 9 * (placed % 8);
        double y = 5 + 9 * (placed / 8);
        List<Pin> list = new ArrayList<>();
        for (int i = 0; i < pins.length; i++) {
            String[] pair = pins[i].split("=");
            list.add(new Pin(pair[0], pair[1], x + 0.4 * i, y));
        }
        return Fixtures.copy(
                Part.of(ref, kind, Side.TOP, x, y, 3, 2, list),
                Optional.of(role),
                value,
                OptionalDouble.empty(),
                List.of(),
                Optional.empty());
    }

    private static Part gated(Part p, String net, boolean high) {
        Gate gate = new Gate(net, high ? Gate.OnWhen.HIGH : Gate.OnWhen.LOW);
        return Fixtures.copy(p, p.statedRole(), p.value(), OptionalDouble.of(0.01), List.of(), Optional.of(gate));
    }

    private static Part supplying(Part p, Supply... supplies) {
        return Fixtures.copy(p, p.statedRole(), p.value(), OptionalDouble.empty(), List.of(supplies), Optional.empty());
    }
}
