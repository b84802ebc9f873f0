package ohmoscope.perf;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.TimeUnit;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.PoweredTwin;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Level;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/**
 * The circuit twin on about 300 nets; advice on a 250-part board with 60 entries, and on one of 5,000 nets and parts with
 * 2,000 entries.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(
        value = 1,
        jvmArgs = {"-Xmx512m"})
public class AdviseBenchmark {
    private static final int PARTS = 250;
    private static final int NETS = 300;
    private static final int ENTRIES = 60;
    private static final int LARGE = 5_000;
    private static final int LARGE_ENTRIES = 2_000;

    private Advisor advisor;
    private List<Observation> entries;
    private Twin twin;
    private Advisor large;
    private List<Observation> longLog;
    private String mainRail;

    @Setup(Level.Trial)
    public void board() {
        Board board = grown(DemoBoards.tarn(), PARTS, NETS);
        advisor = new Advisor(board);
        mainRail = advisor.tree().mainRail();
        twin = new Twin(board);
        entries = entries(board, ENTRIES);
        Board vast = grown(DemoBoards.tarn(), LARGE, LARGE);
        large = new Advisor(vast);
        longLog = entries(vast, LARGE_ENTRIES);
    }

    /** The demo charger with more capacitors on its main rail and, on that rail, pull-ups of lines of their own. */
    private static Board grown(Board tarn, int mostParts, int mostNets) {
        List<Part> parts = new ArrayList<>(tarn.parts());
        List<Net> nets = new ArrayList<>(tarn.nets());
        for (int i = 0; parts.size() < mostParts; i++) {
            String line = "X" + i;
            double x = 10 + i % 80;
            double y = 10 + i / 80;
            if (nets.size() < mostNets) {
                nets.add(new Net(line, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty()));
            }
            parts.add(Part.of(
                    "RX" + i,
                    PartKind.RESISTOR,
                    Side.TOP,
                    x,
                    y,
                    1,
                    0.5,
                    List.of(new Pin("1", "VMAIN", x, y), new Pin("2", line, x + 0.5, y))));
        }
        while (nets.size() < mostNets) {
            nets.add(new Net("Y" + nets.size(), NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty()));
        }
        return new Board(
                tarn.name(),
                tarn.revision(),
                tarn.outline(),
                tarn.thicknessMm(),
                tarn.copperLayers(),
                tarn.copperUm(),
                nets,
                parts,
                tarn.testPoints(),
                tarn.fiducials());
    }

    private static List<Observation> entries(Board board, int count) {
        EntryLine line = new EntryLine(board);
        List<String> rails = board.nets().stream()
                .filter(n ->
                        n.kind() == NetKind.POWER || count > ENTRIES && n.name().startsWith("X"))
                .map(Net::name)
                .toList();
        List<Observation> entries = new ArrayList<>();
        for (int i = 1; i <= count; i++) {
            String rail = rails.get(i % rails.size());
            String text = i % 10 == 0
                    ? "look " + board.parts().get(i % board.parts().size()).ref() + " clean"
                    : rail + " d " + (rail.equals("VMAIN") ? 0.003 : 0.45);
            entries.add(((EntryLine.Parsed.Entry) line.parse(text, i)).observation());
        }
        return entries;
    }

    /** One reading of the board with a fault: two solves, for the ends of what is usual. */
    @Benchmark
    public Band unpoweredReading() {
        Fault fault = new Fault.Bridge("C22", "VMAIN", "GND", 0.05);
        return twin.read(new Meter(Meter.Mode.DIODE_VOLTS, mainRail, "GND", true), BoardState.WHOLE, List.of(fault));
    }

    /** The whole board under power, switches and converters settled. */
    @Benchmark
    public PoweredTwin.Powered poweredBoard() {
        return new PoweredTwin(twin)
                .solve(List.of(new PoweredTwin.Input("VBUS", 12, 3)), BoardState.WHOLE, List.of(), java.util.Map.of());
    }

    @Benchmark
    public Advice advise() {
        return advisor.advise(Optional.of("VMAIN"), "got hot while charging", entries);
    }

    @Benchmark
    public Advice adviseOnALongLog() {
        return large.advise(Optional.of("VMAIN"), "got hot while charging", longLog);
    }
}
