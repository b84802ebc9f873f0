package ohmoscope.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.function.Consumer;
import ohmoscope.bench.standin.LineServer;
import ohmoscope.bench.standin.StandInBoard;
import ohmoscope.bench.standin.StandInMeter;
import ohmoscope.bench.standin.StandInSupply;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.board.Board;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.PowerTree;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code standin bench}: a supply and a meter on loopback, with one board behind them, until it is stopped. */
@Command(
        name = "standin",
        description =
                "Stands in for a bench's supply and meter, each on a port of loopback, with one board behind them.",
        mixinStandardHelpOptions = true)
final class StandInCommand implements Callable<Integer> {
    /** What is stood in for. */
    enum What {
        BENCH
    }

    @Parameters(paramLabel = "WHAT", description = "${COMPLETION-CANDIDATES}")
    private What what;

    @Option(
            names = "--board",
            required = true,
            paramLabel = "FILE",
            description = "board.json, or one of the demo boards: tarn, beck, furrow, ridge")
    private String board;

    @Option(names = "--fault", paramLabel = "REF=OHMS", description = "a short to ground; may be given several times")
    private Map<String, Double> faults = new TreeMap<>();

    @Option(names = "--net", paramLabel = "NET", description = "where the leads are; default: the first fault's rail")
    private Optional<String> net = Optional.empty();

    @Option(names = "--lead", paramLabel = "OHMS", defaultValue = "0.055", description = "default ${DEFAULT-VALUE}")
    private double leadOhms;

    @Option(names = "--seed", defaultValue = "1", description = "default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--supply-port", defaultValue = "5025", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int supplyPort;

    @Option(names = "--meter-port", defaultValue = "5026", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int meterPort;

    @Option(names = "--latency", paramLabel = "MS", defaultValue = "0", description = "before each answer")
    private int latencyMillis;

    @Option(names = "--garble", paramLabel = "N", description = "each so many answers is spoilt")
    private Optional<Integer> garble = Optional.empty();

    @Option(names = "--drop-after", paramLabel = "N", description = "lines after which the connection is cut")
    private Optional<Integer> dropAfter = Optional.empty();

    @Option(names = "--log", paramLabel = "FILE", description = "each line and answer with its time")
    private Optional<Path> log = Optional.empty();

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        Board on = NamedBoard.of(board);
        List<Fault> shorts = new ArrayList<>();
        faults.forEach((ref, ohms) -> shorts.add(StandInBoard.shorted(on, ref, ohms)));
        String at = net.or(() -> shorts.stream().findFirst().map(f -> ((Fault.Bridge) f).netA()))
                .orElseGet(() -> PowerTree.of(on).mainRail());
        StandInBoard physics = new StandInBoard(on, at, shorts, leadOhms, seed);
        Vices vices = new Vices(latencyMillis, number(garble), number(dropAfter));
        try (PrintWriter file = log.isPresent() ? writer(log.get()) : new PrintWriter(PrintWriter.nullWriter());
                LineServer supply =
                        new LineServer("supply", supplyPort, new StandInSupply(physics), vices, into(file));
                LineServer meter = new LineServer("meter", meterPort, new StandInMeter(physics), vices, into(file))) {
            spec.commandLine()
                    .getErr()
                    .println("leads on " + at + "; supply 127.0.0.1:" + supply.port() + ", meter 127.0.0.1:"
                            + meter.port());
            spec.commandLine().getErr().flush();
            new CountDownLatch(1).await();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        return 0;
    }

    private static OptionalInt number(Optional<Integer> given) {
        return given.isPresent() ? OptionalInt.of(given.get()) : OptionalInt.empty();
    }

    private static PrintWriter writer(Path file) throws IOException {
        return new PrintWriter(Files.newBufferedWriter(file, StandardCharsets.UTF_8), true);
    }

    private static Consumer<String> into(PrintWriter file) {
        return line -> {
            synchronized (file) {
                file.println(line);
            }
        };
    }
}
