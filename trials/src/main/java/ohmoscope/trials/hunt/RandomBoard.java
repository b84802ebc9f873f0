package ohmoscope.trials.hunt;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.Set;
import ohmoscope.bench.demo.Sketch;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Supply;

/**
 * A charging section that nobody has seen before: how power comes in, what switches and converts it, who asks for it, what
 * hangs on it, all names and values drawn. Same seed, same board.
 */
final class RandomBoard {
    private static final String[] SYLLABLES = {"KE", "LU", "RA", "TO", "MI", "SU", "NA", "VO", "DE", "PI", "GO", "HA"};
    private static final String[] PREFIXES = {"V", "P_", "N", "R_"};

    private final Random random;
    private final Sketch sketch;
    private final Set<String> names = new HashSet<>();
    private double x = 4;
    private double y = 4;

    private RandomBoard(long seed) {
        this.random = new Random(seed * 31_337 + 5);
        this.sketch = new Sketch("Drawn " + seed, 92, 70);
        for (String letter : List.of("C", "R", "U", "Q", "J", "F", "L", "D")) {
            sketch.numberedFrom(letter, 1 + random.nextInt(60));
        }
    }

    static Board draw(long seed) {
        return new RandomBoard(seed).board();
    }

    private boolean maybe(double chance) {
        return random.nextDouble() < chance;
    }

    private String name(String prefix) {
        String made;
        do {
            made = prefix + SYLLABLES[random.nextInt(SYLLABLES.length)] + SYLLABLES[random.nextInt(SYLLABLES.length)];
        } while (!names.add(made));
        return made;
    }

    private double within(double low, double high) {
        return low * Math.pow(high / low, random.nextDouble());
    }

    private String rail(double volts, double lowestOhms) {
        String net = name(PREFIXES[random.nextInt(PREFIXES.length)]);
        if (maybe(0.25) && lowestOhms > 100) {
            sketch.bareRail(net, volts);
            return net;
        }
        double low = within(lowestOhms, 6 * lowestOhms);
        boolean core = low < 30;
        // A milliampere through the lowest resistance is the most that a diode test can show.
        double drop = core ? 0.0008 * low : Math.min(0.28 + 0.2 * random.nextDouble(), 0.0008 * low);
        sketch.rail(
                net,
                volts,
                low,
                low * within(3, 60),
                drop,
                core ? 4 * drop + 0.02 : drop + 0.15 + 0.1 * random.nextDouble());
        return net;
    }

    private double[] next(double room) {
        x += room / 2 + 1.2 + random.nextDouble();
        if (x > 86) {
            x = 5 + room / 2;
            y += 7.5;
        }
        if (y > 64) {
            y = 4;
            sketch.on(Side.BOTTOM);
        }
        double[] at = {Math.round(x * 10) / 10.0, Math.round(y * 10) / 10.0};
        x += room / 2;
        return at;
    }

    private void caps(String rail, double volts, int count) {
        double[] at = next(2.2 * count);
        sketch.caps(count, maybe(0.5) ? "10u" : "2u2", volts < 8 ? 10 : 35, rail, at[0] - 1.1 * count + 1, at[1]);
    }

    private String series(String from, double volts, double lowestOhms, PartKind kind, String letter, double ohms) {
        String to = rail(volts, lowestOhms);
        double[] at = next(3.2);
        sketch.series(kind, letter, kind == PartKind.RESISTOR ? "" + ohms : "", ohms, from, to, at[0], at[1]);
        return to;
    }

    private Board board() {
        double in = new double[] {5, 5, 9, 12, 15, 20}[random.nextInt(6)];
        int cells = in < 6 ? 1 : 1 + random.nextInt(3);
        double cell = Math.min(in < 6 ? 4.2 : 0.9 * in, 3.85 * cells);
        String bus = rail(in, 2_000);
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < (maybe(0.8) ? 2 + random.nextInt(3) : 0); i++) {
            lines.add(name("L_"));
        }
        port(bus, in, lines);
        if (maybe(0.5)) {
            double[] at = next(4.3);
            sketch.clamp(bus, at[0], at[1]);
        }
        String fused = maybe(0.8)
                ? series(bus, in, 2_000, maybe(0.6) ? PartKind.FUSE : PartKind.FERRITE, maybe(0.6) ? "F" : "L", 0.02)
                : bus;
        caps(fused, in, 1 + random.nextInt(3));
        String always = name("V_ALW");
        sketch.rail(always, 3.3, within(300, 3_000), within(20_000, 400_000), 0.33, 0.58);
        String controllerLine = negotiator(fused, always, lines, in);
        String inner = switched(fused, in, controllerLine);
        caps(inner, in, 1 + random.nextInt(4));
        String main = charger(inner, cell, controllerLine);
        if (maybe(0.6)) {
            main = series(main, cell, 500, PartKind.RESISTOR, "R", maybe(0.5) ? 0.01 : 0.02);
        }
        caps(main, cell, 3 + random.nextInt(6));
        battery(main, cell);
        double[] ldo = next(2.5);
        sketch.chip(
                "always-on regulator",
                Role.REGULATOR,
                2.2,
                ldo[0],
                ldo[1],
                List.of(new Supply(main, always, Optional.empty(), OptionalDouble.of(3.3))),
                "IN=" + main,
                "GND=GND",
                "OUT=" + always);
        caps(always, 3.3, 2);
        converters(main, always);
        return sketch.done();
    }

    private void port(String bus, double in, List<String> lines) {
        List<String> pins = new ArrayList<>(List.of("1=" + bus, "2=GND"));
        for (int i = 0; i < lines.size(); i++) {
            pins.add((3 + i) + "=" + lines.get(i));
        }
        double standby = within(0.003, 0.03);
        double run = within(0.25, 1.2);
        PortExpectation expects = new PortExpectation(
                Optional.of(new Range(0.97 * in, 1.03 * in)),
                Optional.of(new Range(0.3 * standby, 2 * standby)),
                Optional.of(new Range(0.6 * run, 1.6 * run)),
                Optional.of(new Range(run, 2.2 * run)),
                maybe(0.5));
        double[] at = next(9);
        sketch.connector("power port", 9, 7, at[0], at[1] + 2, Optional.of(expects), pins.toArray(String[]::new));
    }

    /** The chip that asks the charger for its voltage; returns the line by which it lets power in. */
    private String negotiator(String fused, String always, List<String> lines, double in) {
        String gate = name("G_");
        String own = name("V_PC");
        sketch.rail(own, 3.3, within(800, 4_000), 300_000, 0.4, 0.66);
        List<String> pins = new ArrayList<>(List.of("VIN=" + fused, "LDO=" + own, "GATE=" + gate, "GND=GND"));
        for (int i = 0; i < lines.size(); i++) {
            pins.add("L" + i + "=" + lines.get(i));
        }
        double[] at = next(4);
        sketch.chip(
                "port controller",
                Role.PORT_CONTROLLER,
                4,
                at[0],
                at[1],
                List.of(new Supply(fused, own, Optional.empty(), OptionalDouble.of(3.3))),
                pins.toArray(String[]::new));
        caps(own, 3.3, 1 + random.nextInt(2));
        return gate;
    }

    private String switched(String fused, double in, String gate) {
        String inner = rail(in, 1_500);
        double[] at = next(3);
        if (maybe(0.6)) {
            sketch.pass(fused, gate, inner, Gate.OnWhen.HIGH, at[0], at[1]);
            return inner;
        }
        String pulled = name("G_");
        sketch.pass(fused, pulled, inner, Gate.OnWhen.LOW, at[0], at[1]);
        double[] up = next(1);
        sketch.resistor("100k", fused, pulled, up[0], up[1]);
        String low = name("G_");
        double[] down = next(1);
        sketch.resistor("47k", pulled, low, down[0], down[1]);
        double[] fet = next(1.3);
        sketch.smallFet(gate, low, fet[0], fet[1]);
        return inner;
    }

    private String charger(String inner, double cell, String gate) {
        String out = rail(cell, 500);
        double[] at = next(4);
        sketch.chip(
                "charger",
                Role.CHARGER,
                4,
                at[0],
                at[1],
                List.of(new Supply(inner, out, Optional.empty(), OptionalDouble.of(cell))),
                "VIN=" + inner,
                "SYS=" + out,
                "SDA=" + name("S_"),
                "SCL=" + name("S_"),
                "GND=GND");
        return out;
    }

    private void battery(String main, double cell) {
        String bat = name("V_BAT");
        sketch.rail(bat, cell, 5_000, 900_000, 0.38, 0.75);
        double[] at = next(3);
        String gate = name("G_");
        sketch.pass(main, gate, bat, Gate.OnWhen.LOW, at[0], at[1]);
        double[] j = next(8);
        sketch.connector("battery connector", 8, 4, j[0], j[1], Optional.empty(), "1=" + bat, "2=GND");
    }

    private void converters(String main, String always) {
        List<String> enables = new ArrayList<>();
        List<String> outs = new ArrayList<>();
        List<Double> volts = new ArrayList<>();
        int count = 2 + random.nextInt(4);
        for (int i = 0; i < count; i++) {
            double nominal = new double[] {0.9, 1.1, 1.2, 1.8, 2.8, 3.1, 3.3, 5}[random.nextInt(8)];
            String out = rail(nominal, nominal < 1.15 ? within(4, 40) : 250);
            String enable = enables.isEmpty() || maybe(0.7) ? name("E_") : enables.get(0);
            enables.add(enable);
            String asked = enable;
            if (maybe(0.5)) {
                asked = name("E_");
                double[] r = next(1);
                sketch.resistor(maybe(0.5) ? "1k" : "100", enable, asked, r[0], r[1]);
            }
            double[] at = next(3);
            sketch.chip(
                    "step-down",
                    Role.REGULATOR,
                    3,
                    at[0],
                    at[1],
                    List.of(new Supply(main, out, Optional.of(asked), OptionalDouble.of(nominal))),
                    "IN=" + main,
                    "EN=" + asked,
                    "FB=" + out,
                    "GND=GND");
            caps(out, nominal, 2 + random.nextInt(4));
            outs.add(out);
            volts.add(nominal);
        }
        List<String> pins = new ArrayList<>(List.of("VDD=" + always, "GND=GND"));
        List<String> distinct = enables.stream().distinct().toList();
        for (int i = 0; i < distinct.size(); i++) {
            pins.add("O" + i + "=" + distinct.get(i));
        }
        double[] at = next(4);
        sketch.chip("sequencer", Role.OTHER, 4, at[0], at[1], List.of(), pins.toArray(String[]::new));
        loads(outs, volts);
    }

    private void loads(List<String> outs, List<Double> volts) {
        String line = name("D_");
        for (int i = 0; i < outs.size(); i++) {
            String out = outs.get(i);
            double size = volts.get(i) < 1.3 ? 9 : 4;
            String nextLine = name("D_");
            double[] at = next(size);
            sketch.chip(
                    "load",
                    Role.LOAD,
                    size,
                    at[0],
                    at[1],
                    List.of(),
                    "VDD=" + out,
                    "D0=" + line,
                    "D1=" + nextLine,
                    "D2=" + name("D_"),
                    "GND=GND");
            line = nextLine;
            if (volts.get(i) >= 2.5 && maybe(0.5)) {
                double[] j = next(6);
                sketch.connector(
                        "display connector", 6, 3, j[0], j[1], Optional.empty(), "1=" + out, "2=" + line, "3=GND");
            }
        }
    }
}
