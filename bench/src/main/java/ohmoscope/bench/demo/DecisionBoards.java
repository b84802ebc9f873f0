package ohmoscope.bench.demo;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Supply;

/** Boards of Mossgill Instruments whose power sections differ: an adapter, a 5 V port, a negotiating port. */
public final class DecisionBoards {
    private DecisionBoards() {}

    private static Supply supply(String in, String out, double volts) {
        return new Supply(in, out, Optional.empty(), OptionalDouble.of(volts));
    }

    private static Supply supply(String in, String out, String enable, double volts) {
        return new Supply(in, out, Optional.of(enable), OptionalDouble.of(volts));
    }

    private static Optional<PortExpectation> expects(double volts, double least, double most, boolean reversible) {
        return Optional.of(new PortExpectation(
                Optional.of(new Range(0.95 * volts, 1.05 * volts)),
                Optional.of(new Range(0, 0.03)),
                Optional.of(new Range(least, most)),
                Optional.of(new Range(least, 1.5 * most)),
                reversible));
    }

    /** Bench console on an adapter: input switches, sense resistor, charger with a switched battery. */
    public static Board heron() {
        return new Sketch("Mossgill Heron bench console", 120, 80)
                .rail("JACK", 19.0, 4000, 900_000, 0.42, 0.70)
                .rail("VIN_F", 19.0, 4000, 900_000, 0.42, 0.70)
                .rail("VMID", 19.0, 5000, 900_000, 0.40, 0.75)
                .rail("VIN_S", 19.0, 1200, 150_000, 0.33, 0.60)
                .rail("VMAIN", 19.0, 1200, 150_000, 0.33, 0.60)
                .rail("CHVDD", 19.0, 2000, 150_000, 0.42, 0.70)
                .rail("VCELL", 11.4, 15_000, 900_000, 0.42, 0.80)
                .rail("V5A", 5.0, 180, 50_000, 0.30, 0.55)
                .rail("V3A", 3.3, 250, 50_000, 0.30, 0.55)
                .rail("VCORE", 0.9, 1.6, 16, 0.001, 0.02)
                .connector("DC input jack", 9, 11, 6, 60, expects(19, 0.4, 2.4, false), "C=JACK", "S=GND", "ID=DCID")
                .connector("battery connector", 14, 6, 60, 5, Optional.empty(), "P1=VCELL", "P2=VCELL", "T=BT", "G=GND")
                .connector("display cable", 12, 4, 110, 74, Optional.empty(), "V=V5A", "B=VMAIN", "D=LCD0", "G=GND")
                .connector("drive socket", 22, 5, 100, 12, Optional.empty(), "V=V3A", "D=SSD0", "G=GND")
                .connector("memory module socket", 30, 6, 70, 74, Optional.empty(), "V=V3A", "D=MEM0", "G=GND")
                .clamp("JACK", 14, 66)
                .caps(2, "1u", 35, "JACK", 13, 56)
                .series(PartKind.FERRITE, "L", "bead", 0.012, "JACK", "VIN_F", 20, 60)
                .caps(1, "100n", 50, "VIN_F", 22, 55)
                .pass("VMID", "AGATE", "VIN_F", OnWhen.HIGH, 26, 60)
                .pass("VMID", "AGATE", "VIN_S", OnWhen.HIGH, 31, 60)
                .caps(2, "4u7", 35, "VIN_S", 33, 66)
                .series(PartKind.RESISTOR, "R", "10m", 0.010, "VIN_S", "VMAIN", 38, 60)
                .series(PartKind.RESISTOR, "R", "10", 10, "VIN_F", "CHVDD", 26, 68)
                .caps(1, "1u", 35, "CHVDD", 30, 71)
                .chip(
                        "battery charger controller",
                        Role.CHARGER,
                        4,
                        38,
                        70,
                        List.of(supply("VMAIN", "VCELL", 11.4)),
                        "VDD=CHVDD",
                        "ACP=VIN_S",
                        "ACN=VMAIN",
                        "AG=AGATE",
                        "SYS=VMAIN",
                        "BEN=BEN",
                        "BAT=VCELL",
                        "SDA=SDA",
                        "SCL=SCL",
                        "GND=GND")
                .caps(8, "10u", 25, "VMAIN", 46, 60)
                .pass("VMAIN", "BGATE", "VCELL", OnWhen.LOW, 56, 14)
                .resistor("150k", "VMAIN", "BGATE", 62, 16)
                .resistor("47k", "BGATE", "BPD", 65, 16)
                .smallFet("BEN", "BPD", 68, 16)
                .chip(
                        "always-on regulator",
                        Role.REGULATOR,
                        4,
                        70,
                        52,
                        List.of(supply("VMAIN", "V5A", "EN5", 5), supply("VMAIN", "V3A", "EN3", 3.3)),
                        "VIN=VMAIN",
                        "EN5=EN5",
                        "EN3=EN3",
                        "SW5=SW5",
                        "FB5=V5A",
                        "SW3=SW3",
                        "FB3=V3A",
                        "GND=GND")
                .series(PartKind.INDUCTOR, "L", "2u2", 0.015, "SW5", "V5A", 77, 56)
                .series(PartKind.INDUCTOR, "L", "2u2", 0.015, "SW3", "V3A", 77, 48)
                .caps(4, "22u", 10, "V5A", 82, 57)
                .caps(4, "22u", 6.3, "V3A", 82, 47)
                .chip(
                        "supervisor controller",
                        Role.LOAD,
                        5,
                        50,
                        30,
                        List.of(),
                        "VDD=V3A",
                        "EN5=EN5",
                        "EN3=EN3",
                        "ENK=ENK",
                        "SDA=SDA",
                        "SCL=SCL",
                        "GND=GND")
                .chip("settings memory", Role.LOAD, 3, 42, 30, List.of(), "VDD=V3A", "SDA=SDA", "SCL=SCL", "GND=GND")
                .pairedWith("U3")
                .chip(
                        "core buck",
                        Role.REGULATOR,
                        4,
                        72,
                        30,
                        List.of(supply("VMAIN", "VCORE", "ENK", 0.9)),
                        "VIN=VMAIN",
                        "EN=ENK",
                        "SW=KSW",
                        "FB=VCORE",
                        "GND=GND")
                .series(PartKind.INDUCTOR, "L", "0u22", 0.001, "KSW", "VCORE", 79, 30)
                .caps(5, "22u", 6.3, "VCORE", 84, 34)
                .chip(
                        "processor",
                        Role.LOAD,
                        16,
                        92,
                        24,
                        List.of(),
                        "VCORE=VCORE",
                        "IO=V3A",
                        "M0=MEM0",
                        "D0=LCD0",
                        "S0=SSD0",
                        "GND=GND")
                .point("VMAIN", 44, 56)
                .point("V5A", 80, 60)
                .point("V3A", 80, 44)
                .point("VCELL", 52, 10)
                .done();
    }

    /** Tablet on a port that negotiates its voltage. */
    public static Board otter() {
        return new Sketch("Mossgill Otter survey tablet", 96, 56)
                .rail("VBUS", 20.0, 3500, 900_000, 0.42, 0.70)
                .rail("VBUSF", 20.0, 3500, 900_000, 0.42, 0.70)
                .rail("VCHG", 20.0, 2500, 500_000, 0.40, 0.70)
                .rail("VSYS", 8.4, 900, 80_000, 0.32, 0.55)
                .rail("VBAT", 7.6, 6000, 900_000, 0.40, 0.80)
                .rail("V3AON", 3.3, 1200, 90_000, 0.32, 0.60)
                .rail("V33", 3.3, 140, 9_000, 0.28, 0.55)
                .rail("VCORE", 0.95, 1.8, 22, 0.001, 0.03)
                .rail("PLDO", 3.3, 4000, 400_000, 0.40, 0.75)
                .connector(
                        "two-way power port",
                        9,
                        7,
                        48,
                        4,
                        expects(20, 0.3, 2, true),
                        "A4=VBUS",
                        "A5=CC1",
                        "A6=DP",
                        "A7=DN",
                        "B5=CC2",
                        "B4=VBUS",
                        "A1=GND",
                        "B1=GND")
                .connector("battery connector", 8, 5, 90, 44, Optional.empty(), "P1=VBAT", "P2=VBAT", "T=BT", "G=GND")
                .connector("display connector", 8, 4, 6, 50, Optional.empty(), "V=V33", "B=VSYS", "D=LCD0", "G=GND")
                .connector(
                        "dock connector",
                        12,
                        4,
                        20,
                        53,
                        Optional.empty(),
                        "V=V33",
                        "L0=LANE0",
                        "L1=LANE1",
                        "L2=LANE2",
                        "L3=LANE3",
                        "G=GND")
                .clamp("VBUS", 38, 9)
                .caps(1, "1u", 35, "VBUS", 54, 9)
                .series(PartKind.FUSE, "F", "4A", 0.012, "VBUS", "VBUSF", 42, 12)
                .caps(2, "4u7", 35, "VBUSF", 45, 15)
                .chip(
                        "port negotiation controller",
                        Role.PORT_CONTROLLER,
                        5,
                        52,
                        18,
                        List.of(),
                        "VIN=VBUSF",
                        "VDD=V3AON",
                        "LDO=PLDO",
                        "CC1=CC1",
                        "CC2=CC2",
                        "GATE=PGATE",
                        "SDA=SDA",
                        "SCL=SCL",
                        "GND=GND")
                .caps(1, "2u2", 10, "PLDO", 57, 20)
                .caps(1, "330p", 25, "CC1", 57, 16)
                .caps(1, "330p", 25, "CC2", 60, 16)
                .pass("VBUSF", "PGATE", "VCHG", OnWhen.HIGH, 40, 19)
                .caps(2, "10u", 35, "VCHG", 34, 20)
                .chip(
                        "switching charger",
                        Role.CHARGER,
                        4,
                        34,
                        26,
                        List.of(supply("VCHG", "VSYS", 8.4)),
                        "VIN=VCHG",
                        "SW=CSW",
                        "SYS=VSYS",
                        "BAT=VBAT",
                        "SDA=SDA",
                        "SCL=SCL",
                        "GND=GND")
                .series(PartKind.INDUCTOR, "L", "2u2", 0.018, "CSW", "VSYS", 40, 28)
                .caps(6, "22u", 16, "VSYS", 46, 28)
                .chip(
                        "always-on linear regulator",
                        Role.REGULATOR,
                        2,
                        62,
                        25,
                        List.of(supply("VSYS", "V3AON", 3.3)),
                        "IN=VSYS",
                        "OUT=V3AON",
                        "GND=GND")
                .caps(2, "2u2", 10, "V3AON", 65, 26)
                .chip(
                        "main buck",
                        Role.REGULATOR,
                        3,
                        60,
                        40,
                        List.of(supply("VSYS", "V33", "ENM", 3.3)),
                        "VIN=VSYS",
                        "EN=ENM",
                        "SW=MSW",
                        "FB=V33",
                        "GND=GND")
                .series(PartKind.INDUCTOR, "L", "1u5", 0.03, "MSW", "V33", 66, 40)
                .caps(4, "22u", 6.3, "V33", 70, 42)
                .chip(
                        "keyboard controller",
                        Role.LOAD,
                        5,
                        74,
                        32,
                        List.of(),
                        "VDD=V3AON",
                        "ENM=ENM",
                        "KON=KON",
                        "SDA=SDA",
                        "SCL=SCL",
                        "GND=GND")
                .resistor("1k", "KON", "ENK", 70, 26)
                .chip(
                        "core buck",
                        Role.REGULATOR,
                        3,
                        30,
                        40,
                        List.of(supply("VSYS", "VCORE", "ENK", 0.95)),
                        "VIN=VSYS",
                        "EN=ENK",
                        "SW=KSW",
                        "FB=VCORE",
                        "GND=GND")
                .series(PartKind.INDUCTOR, "L", "0u47", 0.006, "KSW", "VCORE", 25, 40)
                .caps(4, "22u", 6.3, "VCORE", 22, 44)
                .chip(
                        "processor",
                        Role.LOAD,
                        12,
                        12,
                        34,
                        List.of(),
                        "VCORE=VCORE",
                        "IO=V33",
                        "D=LCD0",
                        "L0=LANE0",
                        "L1=LANE1",
                        "L2=LANE2",
                        "L3=LANE3",
                        "GND=GND")
                .on(Side.BOTTOM)
                .caps(5, "10u", 16, "VSYS", 48, 36)
                .chip("sound chip", Role.LOAD, 4, 20, 20, List.of(), "VDD=V33", "SDA=SDA", "SCL=SCL", "GND=GND")
                .point("VSYS", 56, 31)
                .point("V3AON", 68, 23)
                .point("VBAT", 84, 48)
                .done();
    }
}
