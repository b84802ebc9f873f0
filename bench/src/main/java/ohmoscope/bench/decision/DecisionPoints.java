package ohmoscope.bench.decision;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.formats.BoardJson;

/** Decision points written from the job itself, on five boards; every other one belongs to the half kept aside. */
public final class DecisionPoints {
    private final List<Point> points = new ArrayList<>();
    private final Board heron = DecisionBoards.heron();
    private final Board sallow = DecisionBoards.sallow();
    private final Board otter = DecisionBoards.otter();
    private final Board tarn = DemoBoards.tarn();
    private final Board beck = DemoBoards.beck();

    private DecisionPoints() {
        ports();
        shorts();
        injections();
        warmth();
        removals();
        opens();
        converters();
        draws();
        afterRepair();
        misreadings();
    }

    /** Which half of the points. */
    public enum Half {
        /** To work with. */
        OPEN,
        /** Kept aside. */
        ASIDE
    }

    /**
     * Writes each point of one half as a folder with {@code board.json}, {@code bundle.json} and {@code expect.json}.
     *
     * @return how many
     */
    public static int write(Path folder, Half half) throws IOException {
        List<Point> all = new DecisionPoints().points;
        int written = 0;
        for (int i = half == Half.OPEN ? 0 : 1; i < all.size(); i += 2) {
            Point point = all.get(i);
            Path dir = Files.createDirectories(folder.resolve(point.name));
            Files.write(dir.resolve("board.json"), BoardJson.write(point.board));
            Files.write(dir.resolve("bundle.json"), point.bundleJson());
            Files.write(dir.resolve("expect.json"), point.expectJson());
            written++;
        }
        return written;
    }

    private Point at(Board board, String title, String moment) {
        String word = board.name().split(" ")[1].toLowerCase(Locale.ROOT);
        Point point = new Point(String.format("%02d-%s", points.size() + 1, word), board, title, moment);
        points.add(point);
        return point;
    }

    private void ports() {
        for (Board board : List.of(heron, otter)) {
            at(board, "Doesn't charge", "Pins touch: the port comes off before anything else.")
                    .look("J1", "pins-touching")
                    .stops("do-not-power")
                    .top1("damaged-port J1", "short J1")
                    .next("remove J1")
                    .nextNot("power", "inject");
        }
        at(otter, "Mangled port", "The main rail looks shorted, but with pins touching that says nothing yet.")
                .rail("VSYS")
                .look("J1", "pins-touching")
                .diode("VBUS", 0.003)
                .stops("do-not-power")
                .top1("damaged-port J1", "short J1")
                .next("remove J1")
                .nextNot("power", "inject", "replace U1");
        at(sallow, "Port replaced?", "With the port off the supply line is free: a port is all it needs.")
                .rail("VBUS")
                .look("J1", "pin-bent")
                .diode("VBUS", 0.002)
                .change("removed", "J1")
                .diode("VBUS", 0.55)
                .find("short-cleared VBUS")
                .findNot("rail-shorted VBUS", "short-remains VBUS")
                .top1("damaged-port J1", "short J1")
                .next("replace J1")
                .nextNot("remove C1", "remove C2")
                .stopsNot("do-not-power");
        at(sallow, "Cheap cable, then dead", "The port is off and the line still reads short: it sits behind the port.")
                .rail("VBUS")
                .look("J1", "pin-bent")
                .diode("VBUS", 0.003)
                .change("removed", "J1")
                .diode("VBUS", 0.003)
                .find("short-remains VBUS")
                .findNot("short-cleared VBUS")
                .top3("short C1", "short C2", "short U1")
                .next("inject VBUS max=2.5", "look", "image")
                .nextNot("power", "replace J1")
                .stops("do-not-power");
        at(otter, "Charges one way round only", "Works with the plug one way, nothing the other: the port's pins.")
                .power("charger", "out", 20.0, 0.62, "flat")
                .with("orientation", "a")
                .power("charger", "out", 5.0, 0.0, "flat")
                .with("orientation", "b")
                .find("one-side-only J1")
                .top1("damaged-port J1")
                .next("look J1", "replace J1")
                .nextNot("replace U1", "replace U2");
        at(sallow, "Charges sometimes", "A bent pin and one way round dead.")
                .look("J1", "pin-bent")
                .power("charger", "out", 5.0, 0.0, "flat")
                .with("orientation", "a")
                .power("charger", "out", 5.0, 0.45, "flat")
                .with("orientation", "b")
                .find("one-side-only J1")
                .top1("damaged-port J1")
                .next("replace J1")
                .stopsNot("do-not-power");
        at(otter, "Pins cleaned", "Touching pins were seen, the port has been exchanged: power may come again.")
                .look("J1", "pins-touching")
                .change("replaced", "J1")
                .diode("VBUS", 0.56)
                .diode("VSYS", 0.42)
                .stopsNot("do-not-power")
                .findNot("rail-shorted");
    }

    private void shorts() {
        at(heron, "No light", "A dead short on the main rail and nothing else known.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.2)
                .find("rail-shorted VMAIN")
                .stops("do-not-power")
                .next("inject VMAIN max=2.5", "look", "image VMAIN")
                .nextNot("power", "remove", "replace");
        at(tarn, "Dead", "Diode mode 0.001 on the main rail, its output rail is fine.")
                .rail("VMAIN")
                .diode("VMAIN", 0.001)
                .diode("V5A", 0.47)
                .find("rail-shorted VMAIN", "rail-good V5A")
                .stops("do-not-power")
                .next("inject VMAIN max=2.5", "look", "image VMAIN")
                .nextNot("power", "remove", "replace");
        at(otter, "Dead after a fall", "A crack through a capacitor on a rail that reads short.")
                .rail("VSYS")
                .diode("VSYS", 0.002)
                .look("C11", "cracked")
                .find("rail-shorted VSYS")
                .top1("short C11")
                .next("remove C11", "inject VSYS max=2.5")
                .nextNot("power", "remove C10");
        at(heron, "Smelt burnt", "The mask is brown round one of eight capacitors; the 5 V rail is fine.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.6)
                .ohms("V5A", 900)
                .look("C9", "discoloured")
                .find("rail-shorted VMAIN", "rail-good V5A")
                .findNot("rail-shorted V5A")
                .top1("short C9")
                .stops("do-not-power");
        at(sallow, "Hot on the charger", "The chip's own supply reads 47 ohms more than the shorted line before it.")
                .rail("VBP")
                .power("charger", "out", 4.1, 3.3, "collapse")
                .diode("VBP", 0.003)
                .diode("CLDO", 0.051)
                .diode("VSYS", 0.37)
                .look("C3", "discoloured")
                .find("rail-shorted VBP")
                .findNot("rail-shorted CLDO", "rail-shorted VSYS")
                .top1("short C3")
                .next("remove C3")
                .nextNot("remove C5", "power")
                .stops("do-not-power");
        at(otter, "Starts, then goes off", "An always-on rail at 3 ohms: low enough to be a chip.")
                .rail("V33")
                .ohms("V33", 3.1)
                .find("rail-low V33|rail-shorted V33")
                .findNot("rail-good V33")
                .next("inject V33 max=3.3", "look", "image V33", "read")
                .nextNot("replace U4", "remove U4");
        at(heron, "Draws pulses", "The supply restarts again and again: a short on the main rail.")
                .rail("VMAIN")
                .power("charger", "out", 11.0, 0.4, "pulsing")
                .find("draw-pulsing")
                .stops("do-not-power")
                .next("read VMAIN", "read")
                .nextNot("power", "replace");
        at(otter, "Four amps", "The charger collapses at once.")
                .power("charger", "out", 4.0, 3.4, "collapse")
                .find("draw-excessive")
                .findNot("draw-normal")
                .stops("do-not-power")
                .next("look J1", "read VBUS", "read VSYS", "read VBUSF")
                .nextNot("power", "remove", "replace");
        at(heron, "Bought in as tested", "A core of three ohms is what a core reads.")
                .ohms("VMAIN", 14_000)
                .ohms("V5A", 820)
                .ohms("VCORE", 3.2)
                .find("reading-by-design VCORE", "rail-good VMAIN")
                .findNot("rail-shorted", "rail-low VCORE")
                .nextNot("inject VCORE", "remove U6", "replace U6", "remove U5")
                .stopsNot("do-not-power");
        at(sallow, "Check before buying", "Continuity beeps on the core coil; it would on any board.")
                .beep("VCORE", 4.0)
                .diode("VSYS", 0.38)
                .diode("V18", 0.36)
                .find("reading-by-design VCORE", "rail-good VSYS")
                .findNot("rail-shorted")
                .nextNot("inject VCORE", "remove")
                .stopsNot("do-not-power");
        at(otter, "No dock picture", "Three lanes alike and one far lower.")
                .diode("LANE0", 0.46)
                .diode("LANE1", 0.47)
                .diode("LANE2", 0.03)
                .diode("LANE3", 0.46)
                .find("rail-shorted LANE2|rail-low LANE2|part-shorted U7")
                .findNot("rail-shorted LANE0", "rail-shorted LANE1")
                .top3("short U7", "short J4")
                .nextNot("power", "inject LANE0");
        at(beck, "Silent since the storm", "The 3.3 V rail is shorted, the battery rail before it is not.")
                .rail("V3A")
                .diode("VBAT", 0.42)
                .diode("V3A", 0.004)
                .find("rail-shorted V3A", "rail-good VBAT")
                .findNot("rail-shorted VBAT")
                .next("inject V3A max=2.5", "look", "image V3A")
                .nextNot("remove U1", "replace U1", "power");
    }

    private void injections() {
        at(heron, "Shorted rail", "The current shuts itself off at full voltage.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.5)
                .power("bench", "out", 19.0, 2.2, "burst-then-zero")
                .find("rail-shorted VMAIN")
                .findNot("draw-none", "draw-normal", "rail-good VMAIN")
                .next("inject VMAIN max=2.5", "look")
                .nextNot("power", "replace Q1", "replace Q2")
                .stops("do-not-power");
        at(tarn, "Jumper gets hot", "Only the leads are met although the meter found 0.4 ohm.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.42)
                .inject("VMAIN", "C20", 1.0, 3.0, 0.15, 3.0)
                .find("rail-shorted VMAIN", "injected-into-ground VMAIN")
                .findNot("short-cleared", "rail-good VMAIN")
                .next("inject VMAIN", "look C20", "read VMAIN")
                .nextNot("remove", "replace", "power");
        at(otter, "Nothing flows", "A shorted rail that takes no current: the probe isn't touching.")
                .rail("VSYS")
                .diode("VSYS", 0.001)
                .inject("VSYS", "C9", 1.0, 2.0, 1.0, 0.0)
                .find("no-contact VSYS|no-contact C9", "rail-shorted VSYS")
                .findNot("short-cleared VSYS", "rail-good VSYS")
                .next("inject VSYS", "look C9", "read VSYS")
                .nextNot("remove", "replace", "power");
        at(heron, "Supply left as it was", "Five volts were put on a core of 0.9.")
                .rail("VCORE")
                .ohms("VCORE", 0.1)
                .inject("VCORE", "C23", 5.0, 1.0, 0.12, 1.0)
                .find("rail-shorted VCORE")
                .stops("over-nominal")
                .next("inject VCORE max=0.9", "look", "image")
                .nextNot("power");
        at(sallow, "Feeding the 1.8 V rail", "A supply of 3.3 V is held on a 1.8 V rail.")
                .diode("V18", 0.34)
                .held("V18", 3.3, 0.05)
                .stops("over-nominal")
                .nextNot("power");
        at(tarn, "More current", "Eight amps through clip leads.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.05)
                .inject("VMAIN", "C20", 1.5, 8.0, 0.6, 8.0)
                .stops("lead-rating", "do-not-power")
                .next("image VMAIN", "inject VMAIN", "look")
                .nextNot("power");
        at(sallow, "Shorted with the battery in", "Somebody injects while the cell is connected.")
                .rail("VSYS")
                .power("charger", "in", 4.2, 2.8, "collapse")
                .diode("VSYS", 0.004)
                .inject("VSYS", "C6", 1.0, 2.0, 0.15, 2.0)
                .stops("battery-connected", "do-not-power")
                .next("disconnect battery")
                .nextNot("power");
        at(heron, "Two coils", "The 5 V coil swallows all the current, the 3.3 V one nothing.")
                .rail("V5A")
                .volts("VMAIN", 19.0, "charger")
                .volts("V5A", 0.0, "charger")
                .inject("V5A", "L2", 1.0, 1.5, 0.12, 1.5)
                .inject("V3A", "L3", 1.0, 1.5, 1.0, 0.003)
                .find("rail-shorted V5A")
                .findNot("rail-shorted V3A", "rail-shorted VMAIN", "rail-good V5A")
                .next("image", "inject V5A", "look")
                .nextNot("replace U2", "remove U2");
        at(otter, "Cell out, current in", "The battery was taken out before injecting: all is well.")
                .rail("VSYS")
                .change("disconnected", "battery")
                .diode("VSYS", 0.006)
                .inject("VSYS", "C9", 1.0, 2.0, 0.16, 2.0)
                .find("rail-shorted VSYS")
                .next("image VSYS")
                .stops("do-not-power")
                .stopsNot("battery-connected", "over-nominal", "lead-rating");
    }

    private void warmth() {
        at(heron, "Shorted main rail", "The camera shows one capacitor of eight.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.05)
                .inject("VMAIN", "C7", 1.0, 2.5, 0.19, 2.5)
                .warm("C12", 6.1)
                .find("rail-shorted VMAIN")
                .top1("short C12")
                .next("remove C12")
                .nextNot("power", "remove C11", "remove C13");
        at(sallow, "Shorted battery rail", "The radio on the other storey is the warm one.")
                .rail("VSYS")
                .diode("VSYS", 0.005)
                .inject("VSYS", "C6", 1.0, 2.0, 0.9, 2.0)
                .warm("U7", 3.0)
                .top1("short U7")
                .nextNot("power", "remove U3");
        at(otter, "Shorted main rail", "A sound chip that isn't on the rail looks warm: it comes through the board.")
                .rail("VSYS")
                .ohms("VSYS", 0.04)
                .inject("VSYS", "C9", 1.0, 3.0, 0.27, 3.0)
                .warm("U1", 0.8)
                .findNot("part-shorted U1")
                .next("flip")
                .nextNot("remove U1", "replace U1", "power");
        at(heron, "Nothing warms", "The top side stays cold.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.03)
                .inject("VMAIN", "C7", 1.0, 2.0, 0.14, 2.0)
                .cold("top")
                .find("rail-shorted VMAIN")
                .next("flip", "inject VMAIN")
                .nextNot("remove", "replace", "power");
        at(tarn, "Found with spirit", "A film of alcohol dries first over one capacitor.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.02)
                .inject("VMAIN", "C20", 1.0, 3.0, 0.22, 3.0)
                .warm("C25", 2)
                .with("by", "liquid")
                .stops("flammable", "do-not-power")
                .top1("short C25")
                .nextNot("power");
        at(beck, "Modem rail", "The modem is warm when current goes into its rail.")
                .rail("VBAT")
                .ohms("VBAT", 1.1)
                .inject("VBAT", "C25", 1.0, 1.0, 1.0, 0.9)
                .warm("U4", 4.0)
                .top1("short U4")
                .nextNot("power", "remove C25");
    }

    private void removals() {
        at(heron, "Shorted main rail", "The warm capacitor is off and the rail is free.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.05)
                .warm("C12", 6)
                .change("removed", "C12")
                .ohms("VMAIN", 11_000)
                .find("short-cleared VMAIN", "rail-good VMAIN")
                .findNot("rail-shorted VMAIN", "short-remains VMAIN")
                .top1("short C12")
                .next("leave-off C12", "replace C12")
                .stopsNot("do-not-power", "hot-board");
        at(otter, "Shorted port rail", "The single capacitor of its rail must be put back.")
                .rail("VBUS")
                .diode("VBUS", 0.002)
                .look("C1", "cracked")
                .change("removed", "C1")
                .diode("VBUS", 0.55)
                .find("short-cleared VBUS")
                .next("replace C1")
                .nextNot("leave-off C1")
                .stopsNot("do-not-power");
        at(tarn, "By guess", "The biggest was taken off and the short stayed.")
                .rail("VMAIN")
                .diode("VMAIN", 0.003)
                .change("removed", "C20")
                .diode("VMAIN", 0.003)
                .find("short-remains VMAIN", "rail-shorted VMAIN")
                .findNot("short-cleared VMAIN")
                .next("fit C20", "inject VMAIN max=2.5", "image VMAIN", "look")
                .nextNot("replace C20", "power", "leave-off C20")
                .stops("do-not-power");
        at(otter, "Just lifted", "The part has just come off; the board is hot.")
                .rail("VSYS")
                .diode("VSYS", 0.002)
                .warm("C11", 5)
                .change("removed", "C11")
                .stops("hot-board")
                .next("cool")
                .nextNot("power", "replace C12");
        at(sallow, "Just lifted", "Removed with the cell still in.")
                .rail("VSYS")
                .power("charger", "in", 4.0, 3.0, "collapse")
                .change("removed", "C6")
                .stops("hot-board", "battery-connected")
                .next("cool", "disconnect battery");
        at(sallow, "Two storeys", "With the upper half away the rail is free: the fault is up there.")
                .rail("VSYS")
                .diode("VSYS", 0.003)
                .change("separated", "stack:upper")
                .diode("VSYS", 0.39)
                .find("short-cleared VSYS")
                .findNot("rail-shorted VSYS")
                .top3("short U7", "short C22", "short C23", "short C24")
                .stopsNot("do-not-power");
        at(sallow, "Two storeys", "With the upper half away it is still shorted: the fault is on the lower one.")
                .rail("VSYS")
                .diode("VSYS", 0.003)
                .change("separated", "stack:upper")
                .diode("VSYS", 0.003)
                .find("short-remains VSYS", "rail-shorted VSYS")
                .findNot("short-cleared VSYS")
                .nextNot("remove U7", "replace U7", "power")
                .stops("do-not-power");
        at(heron, "Display unplugged", "The rail came free with the display cable: not the board.")
                .rail("V5A")
                .diode("V5A", 0.02)
                .change("disconnected", "J3")
                .diode("V5A", 0.41)
                .find("short-cleared V5A")
                .findNot("rail-shorted V5A")
                .top1("short J3")
                .nextNot("remove U2", "inject V5A")
                .stopsNot("do-not-power");
        at(otter, "Controller off, then port", "The controller came off for nothing; the port was it.")
                .look("J1", "pins-touching")
                .beep("CC1", 0.4)
                .change("removed", "U1")
                .beep("CC1", 0.4)
                .change("removed", "J1")
                .diode("CC1", 0.61)
                .find("short-cleared CC1")
                .findNot("rail-shorted CC1", "short-remains CC1")
                .top1("damaged-port J1", "short J1")
                .next("replace J1", "fit U1", "replace U1")
                .stopsNot("do-not-power");
    }

    private void opens() {
        at(otter, "No charge", "Volts before the fuse, none behind it, and nothing shorted there.")
                .power("charger", "out", 5.1, 0.0, "flat")
                .volts("VBUS", 5.1, "charger")
                .volts("VBUSF", 0.0, "charger")
                .ohms("VBUSF", 40_000)
                .find("draw-none", "part-open F1")
                .findNot("rail-shorted", "rail-absent VBUS")
                .top1("open F1")
                .next("read F1", "look F1", "replace F1")
                .nextNot("replace U1", "replace J1");
        at(otter, "Fuse", "Over-range across the fuse, board unpowered.")
                .across("F1", null)
                .diode("VBUSF", 0.55)
                .find("part-open F1")
                .findNot("rail-shorted VBUSF")
                .top1("open F1")
                .next("replace F1", "look F1")
                .nextNot("inject VBUSF", "replace U1");
        at(otter, "Fuse again", "The fuse is open because what it feeds is shorted.")
                .across("F1", null)
                .diode("VBUSF", 0.002)
                .find("part-open F1", "rail-shorted VBUSF")
                .next("inject VBUSF max=2.5", "look", "image VBUSF")
                .nextNot("replace F1", "power")
                .stops("do-not-power");
        at(sallow, "Charging sign, no percent", "Five volts enter a small resistor and nothing leaves it.")
                .power("charger", "in", 5.1, 0.0, "flat")
                .volts("VBP", 5.05, "charger")
                .volts("CLDO", 0.0, "charger")
                .ohms("CLDO", 41_000)
                .find("draw-none", "part-open R1")
                .findNot("rail-shorted", "rail-absent VBP")
                .top1("open R1")
                .next("read R1", "look R1", "replace R1")
                .nextNot("replace U2", "replace U3", "replace J1");
        at(heron, "No light", "The charger chip's supply is at a third behind its ten ohms.")
                .volts("VIN_F", 19.0, "charger")
                .volts("CHVDD", 0.3, "charger")
                .volts("VMAIN", 0.0, "charger")
                .ohms("CHVDD", 9_000)
                .find("part-open R2")
                .top1("open R2")
                .next("read R2", "look R2", "replace R2")
                .nextNot("replace U1", "remove U1");
        at(otter, "Core never starts", "The controller says go and it does not arrive: the small resistor between.")
                .volts("VSYS", 8.4, "bench")
                .volts("V3AON", 3.3, "bench")
                .volts("KON", 3.3, "bench")
                .with("ref", "R1", "pin", "1")
                .volts("ENK", 0.0, "bench")
                .with("ref", "R1", "pin", "2")
                .volts("VCORE", 0.0, "bench")
                .ohms("VCORE", 4.0)
                .findNot("rail-shorted VCORE")
                .top1("open R1")
                .next("read R1", "look R1", "replace R1")
                .nextNot("replace U6", "replace U7");
        at(heron, "Burnt resistor", "A hole in the sense resistor, volts before it and none behind.")
                .look("R1", "hole")
                .volts("VIN_S", 19.0, "charger")
                .volts("VMAIN", 0.1, "charger")
                .diode("VMAIN", 0.44)
                .find("part-open R1")
                .top1("open R1")
                .next("replace R1", "read R1")
                .nextNot("replace U1", "power");
        at(tarn, "No reaction either way", "No current whichever way the plug goes in.")
                .power("charger", "out", 5.1, 0.0, "flat")
                .with("orientation", "a")
                .power("charger", "out", 5.1, 0.0, "flat")
                .with("orientation", "b")
                .find("draw-none")
                .findNot("one-side-only", "draw-stuck")
                .top3("open F1", "damaged-port J1", "open Q1", "open R1")
                .next("look J1", "read VBUS", "read VBUS_F", "read F1", "read VIN", "read VMAIN");
    }

    private void converters() {
        at(otter, "No 3.3 V", "Input there, asked for, output free and nothing comes: the regulator.")
                .volts("VSYS", 8.4, "bench")
                .volts("ENM", 3.2, "bench")
                .volts("V33", 0.0, "bench")
                .ohms("V33", 900)
                .find("rail-absent V33")
                .findNot("rail-shorted", "rail-absent VSYS")
                .top1("dead-controller U4", "open U4", "open L2")
                .nextNot("inject V33", "replace U5");
        at(otter, "No 3.3 V", "Nobody asks for it.")
                .volts("VSYS", 8.4, "bench")
                .volts("V3AON", 3.3, "bench")
                .volts("ENM", 0.0, "bench")
                .volts("V33", 0.0, "bench")
                .ohms("V33", 900)
                .findNot("rail-shorted")
                .top3("no-enable ENM", "dead-controller U5")
                .nextNot("replace U4", "inject V33");
        at(otter, "No 3.3 V", "Its output is shorted: the regulator is not to blame.")
                .volts("VSYS", 8.4, "bench")
                .volts("V33", 0.0, "bench")
                .ohms("V33", 0.4)
                .find("rail-shorted V33")
                .next("inject V33 max=2.5", "look", "image V33")
                .nextNot("replace U4", "remove U4", "power");
        at(
                        heron,
                        "Supply sags with the battery in",
                        "The adapter's voltage stands on the battery: a driving FET leaks.")
                .power("charger", "in", 6.0, 4.0, "collapse")
                .change("disconnected", "battery")
                .power("bench", "out", 19.0, 0.5, "flat")
                .volts("VMAIN", 19.0, "bench")
                .volts("VCELL", 18.9, "bench")
                .volts("BGATE", 7.4, "bench")
                .volts("BPD", 3.6, "bench")
                .volts("BEN", 0.0, "bench")
                .find("rail-backfed VCELL", "part-leaky Q4")
                .findNot("rail-shorted", "part-shorted Q3")
                .top1("leaky Q4", "short Q4")
                .next("remove Q4", "replace Q4")
                .nextNot("replace Q3", "remove Q3", "replace U1");
        at(heron, "Gate missing", "The charger chip is fed, yet the input switches are never driven.")
                .volts("VIN_F", 19.0, "charger")
                .volts("CHVDD", 19.0, "charger")
                .volts("AGATE", 0.0, "charger")
                .volts("VMAIN", 0.0, "charger")
                .ohms("VMAIN", 14_000)
                .findNot("rail-shorted")
                .top3("dead-controller U1")
                .nextNot("inject VMAIN", "replace U2");
        at(otter, "Five volts and no more", "The port controller has no supply.")
                .power("charger", "out", 5.1, 0.03, "flat")
                .find("no-negotiation")
                .findNot("draw-normal", "draw-excessive")
                .top3("dead-controller U1", "damaged-port J1")
                .next("read V3AON", "read VBUSF", "look J1", "look U1")
                .nextNot("replace U1", "remove U1", "replace U2")
                .stopsNot("do-not-power");
        at(otter, "Five volts and no more", "The port controller is fed on both pins and its lines read well.")
                .power("charger", "out", 5.1, 0.05, "flat")
                .volts("VBUSF", 5.1, "charger")
                .volts("V3AON", 3.3, "charger")
                .diode("CC1", 0.6)
                .diode("CC2", 0.6)
                .diode("PLDO", 0.58)
                .find("no-negotiation")
                .top1("dead-controller U1")
                .nextNot("inject", "replace U2");
    }

    private void draws() {
        at(heron, "Lamp comes on, nothing more", "Full voltage and ten milliamps when told to start.")
                .power("charger", "out", 19.2, 0.011, "flat")
                .with("state", "on")
                .find("draw-stuck")
                .findNot("draw-normal", "draw-none", "no-negotiation")
                .next("read VMAIN", "read V3A", "read V5A", "look J1", "read")
                .nextNot("replace", "remove", "inject");
        at(otter, "For a check", "Full voltage, an ordinary draw, and it starts.")
                .power("charger", "out", 20.0, 0.85, "rising")
                .with("state", "on")
                .run("boots")
                .find("draw-normal")
                .findNot("rail-shorted", "draw-excessive", "no-negotiation")
                .top1("none")
                .nextNot("remove", "replace", "inject")
                .stopsNot("do-not-power");
        at(heron, "After the repair", "A spike and back to nothing, as a good board does without battery.")
                .rail("VMAIN")
                .ohms("VMAIN", 0.1)
                .change("removed", "C10")
                .ohms("VMAIN", 13_000)
                .power("charger", "out", 19.1, 0.02, "spike-then-zero")
                .find("short-cleared VMAIN")
                .findNot("draw-none", "draw-excessive", "draw-stuck")
                .stopsNot("do-not-power", "not-proven");
        at(sallow, "Only with the cell", "Collapses with the cell in, ordinary without it; its rail is free.")
                .power("charger", "in", 4.1, 3.0, "collapse")
                .change("disconnected", "battery")
                .power("charger", "out", 5.0, 0.5, "flat")
                .diode("VBAT", 0.55)
                .diode("VSYS", 0.38)
                .find("draw-normal")
                .findNot("rail-shorted")
                .top3("battery J2")
                .nextNot("inject", "remove U2", "replace U2");
    }

    private void afterRepair() {
        at(heron, "New jack, back in its case, won't start", "The drive was unplugged and never plugged back.")
                .change("disconnected", "battery")
                .change("disconnected", "J4")
                .change("disconnected", "J3")
                .look("J1", "loose")
                .change("replaced", "J1")
                .volts("JACK", 19.1, "charger")
                .change("connected", "J3")
                .change("connected", "battery")
                .power("charger", "in", 19.1, 0.7, "flat")
                .run("dead")
                .findNot("rail-shorted", "draw-excessive", "draw-none")
                .top3("not-fitted J4")
                .next("check-fitted J4")
                .stopsNot("do-not-power");
        at(otter, "No picture after the repair", "The display connector was opened for the work.")
                .rail("VSYS")
                .diode("VSYS", 0.003)
                .change("disconnected", "J3")
                .change("removed", "C11")
                .diode("VSYS", 0.41)
                .change("replaced", "C11")
                .power("charger", "out", 20.0, 0.9, "flat")
                .run("no-picture")
                .findNot("rail-shorted", "short-remains")
                .top3("not-fitted J3")
                .next("check-fitted J3")
                .stopsNot("do-not-power");
        at(sallow, "Processor from a donor", "The chip is new and the memory it was paired with is the old one.")
                .change("replaced", "U5")
                .diode("VCORE", 0.02)
                .diode("VSYS", 0.38)
                .power("charger", "out", 5.0, 0.4, "flat")
                .run("dead")
                .findNot("rail-shorted")
                .top3("paired-part U6", "paired-part U5")
                .next("replace U6", "replace U5")
                .nextNot("inject");
        at(otter, "Boots again", "It boots, and nobody has read the rail again.")
                .rail("VSYS")
                .diode("VSYS", 0.002)
                .change("replaced", "C11")
                .run("boots")
                .stops("not-proven")
                .next("prove", "read VSYS")
                .nextNot("inject", "remove");
        at(heron, "Came from another bench", "A place is empty where a capacitor belongs.")
                .look("C6", "missing")
                .look("U1", "earlier-work")
                .diode("VMAIN", 0.45)
                .top3("not-fitted C6", "open C6")
                .next("fit C6", "check-fitted C6", "replace C6")
                .findNot("rail-shorted");
        at(tarn, "Back from repair", "The rail was read again on the same point and is free.")
                .rail("VMAIN")
                .diode("VMAIN", 0.002)
                .change("removed", "C22")
                .diode("VMAIN", 0.42)
                .run("boots")
                .find("short-cleared VMAIN")
                .stopsNot("not-proven", "do-not-power", "hot-board");
    }

    private void misreadings() {
        at(heron, "Loose probe", "The low reading does not come again.")
                .diode("VMAIN", 0.01)
                .diode("VMAIN", 0.44)
                .diode("VMAIN", 0.441)
                .find("rail-good VMAIN")
                .findNot("rail-shorted VMAIN", "short-cleared VMAIN")
                .nextNot("inject VMAIN", "remove")
                .stopsNot("do-not-power");
        at(sallow, "Beeps and stops", "A beep that stops is a capacitor charging.")
                .beep("VSYS", 0)
                .ohms("VSYS", 9_000)
                .findNot("rail-shorted")
                .nextNot("inject VSYS", "remove")
                .stopsNot("do-not-power");
        at(otter, "Nothing known yet", "The device has only just come in.")
                .next("look J1", "power", "read VSYS")
                .nextNot("remove", "replace", "inject")
                .stopsNot("do-not-power");
    }
}
