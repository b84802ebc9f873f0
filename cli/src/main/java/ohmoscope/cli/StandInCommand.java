package ohmoscope.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.function.Consumer;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.StandInBoard;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.sim.BenchSetup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code standin bench}: a bench's instruments on loopback, with one board behind them, until it is stopped. */
@Command(
        name = "standin",
        description =
                "Stands in for a bench's supply, meter, thermal camera and inline meter, each on a port of loopback, with one board behind them.",
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

    @Option(
            names = "--fault",
            paramLabel = "REF=OHMS",
            description = "a short to ground, or REF=open for a part that does not conduct; may be given several times")
    private Map<String, String> faults = new TreeMap<>();

    @Option(names = "--net", paramLabel = "NET", description = "where the leads are; default: the first fault's rail")
    private Optional<String> net = Optional.empty();

    @Option(names = "--at", paramLabel = "REF", description = "the part on whose pad the hot lead sits")
    private Optional<String> at = Optional.empty();

    @Option(names = "--side", defaultValue = "TOP", description = "what the camera sees; default ${DEFAULT-VALUE}")
    private Side side;

    @Option(names = "--lead", paramLabel = "OHMS", defaultValue = "0.055", description = "default ${DEFAULT-VALUE}")
    private double leadOhms;

    @Option(names = "--seed", defaultValue = "1", description = "default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--supply-port", defaultValue = "5025", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int supplyPort;

    @Option(names = "--meter-port", defaultValue = "5026", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int meterPort;

    @Option(names = "--camera-port", defaultValue = "5027", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int cameraPort;

    @Option(names = "--inline-port", defaultValue = "5028", description = "default ${DEFAULT-VALUE}; 0 for any")
    private int inlinePort;

    @Option(
            names = "--hands-port",
            defaultValue = "5029",
            description = "PROBE place, LEAD part net, REMOVED part, FITTED part; default ${DEFAULT-VALUE}; 0 for any")
    private int handsPort;

    @Option(names = "--width", defaultValue = "160", description = "the camera's, pixels; default ${DEFAULT-VALUE}")
    private int width;

    @Option(names = "--height", defaultValue = "120", description = "default ${DEFAULT-VALUE}")
    private int height;

    @Option(names = "--fps", defaultValue = "9", description = "frames a second; default ${DEFAULT-VALUE}")
    private double framesPerSecond;

    @Option(names = "--shake", paramLabel = "PX", defaultValue = "0.03", description = "default ${DEFAULT-VALUE}")
    private double shakePx;

    @Option(names = "--lose", paramLabel = "N", defaultValue = "0", description = "each so many frames does not come")
    private int lostEvery;

    @Option(names = "--slip-after", paramLabel = "S", description = "seconds of current until the hot lead slips off")
    private Optional<Double> slipAfter = Optional.empty();

    @Option(names = "--burn", paramLabel = "WATTS", description = "so much heat burns the hardest short open")
    private Optional<Double> burn = Optional.empty();

    @Option(names = "--sag", paramLabel = "SHARE", description = "of the set volts, missing under load")
    private Optional<Double> sag = Optional.empty();

    @Option(names = "--run-away", paramLabel = "SHARE", description = "above what is set, after a second and a half")
    private Optional<Double> runAway = Optional.empty();

    @Option(names = "--creep", paramLabel = "OHMS", description = "the hot contact gets worse by so much a second")
    private Optional<Double> creep = Optional.empty();

    @Option(names = "--contact", paramLabel = "OHMS", description = "the hot lead sits badly, and warms")
    private Optional<Double> contact = Optional.empty();

    @Option(
            names = "--shows-times",
            paramLabel = "N",
            description = "the camera's emissivity is set too low: all looks so many times as warm")
    private Optional<Double> showsTimes = Optional.empty();

    @Option(names = "--hiccup", paramLabel = "S", description = "the output drops out each so many seconds")
    private Optional<Double> hiccup = Optional.empty();

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
        Map<String, Double> shorts = new TreeMap<>();
        Set<String> open = new TreeSet<>();
        for (Map.Entry<String, String> fault : faults.entrySet()) {
            if (fault.getValue().equalsIgnoreCase("open")) {
                open.add(fault.getKey());
            } else {
                shorts.put(fault.getKey(), ohms(fault));
            }
        }
        String feed = net.or(() -> shorts.keySet().stream().findFirst().map(ref -> StandInBoard.railOf(on, ref)))
                .orElseGet(() -> PowerTree.of(on).mainRail());
        Mishaps mishaps = mishaps();
        Vices vices = new Vices(latencyMillis, whole(garble), whole(dropAfter));
        StandInBench.Laid laid = new StandInBench.Laid(
                on,
                feed,
                at.orElseGet(() -> StandInBench.padFor(on, feed, shorts.keySet())),
                shorts,
                open,
                leadOhms,
                side,
                new BenchSetup.Camera(width, height, framesPerSecond, 0, 0.07, 0.3, 1, shakePx, 0.3),
                seed);
        StandInBench.Ports ports = new StandInBench.Ports(supplyPort, meterPort, cameraPort, inlinePort, handsPort);
        try (PrintWriter file = log.isPresent() ? writer(log.get()) : new PrintWriter(PrintWriter.nullWriter());
                StandInBench bench = new StandInBench(laid, mishaps, vices, lostEvery, ports, into(file))) {
            StandInBench.Ports served = bench.ports();
            spec.commandLine()
                    .getErr()
                    .println("leads on " + feed + ", at " + laid.feedRef() + "; on 127.0.0.1: supply " + served.supply()
                            + ", meter " + served.meter() + ", camera " + served.camera() + ", inline meter "
                            + served.inline() + ", hands " + served.hands());
            spec.commandLine().getErr().flush();
            new CountDownLatch(1).await();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        return 0;
    }

    private Mishaps mishaps() {
        Map<Mishaps.Kind, Double> all = new EnumMap<>(Mishaps.Kind.class);
        slipAfter.ifPresent(s -> all.put(Mishaps.Kind.SLIPS_AFTER_S, s));
        burn.ifPresent(w -> all.put(Mishaps.Kind.BURNS_AT_W, w));
        sag.ifPresent(s -> all.put(Mishaps.Kind.SAGS_BY_SHARE, s));
        hiccup.ifPresent(s -> all.put(Mishaps.Kind.HICCUPS_EVERY_S, s));
        runAway.ifPresent(s -> all.put(Mishaps.Kind.RUNS_AWAY_BY_SHARE, s));
        creep.ifPresent(o -> all.put(Mishaps.Kind.CREEPS_OHMS_PER_S, o));
        contact.ifPresent(o -> all.put(Mishaps.Kind.CONTACT_OHMS, o));
        showsTimes.ifPresent(n -> all.put(Mishaps.Kind.SHOWS_TIMES, n));
        return new Mishaps(all);
    }

    private double ohms(Map.Entry<String, String> fault) {
        try {
            return Double.parseDouble(fault.getValue());
        } catch (NumberFormatException neither) {
            throw new ParameterException(
                    spec.commandLine(),
                    "--fault " + fault.getKey() + ": expected ohms or open, was " + fault.getValue());
        }
    }

    private static OptionalDouble number(Optional<Double> given) {
        return given.isPresent() ? OptionalDouble.of(given.get()) : OptionalDouble.empty();
    }

    private static OptionalInt whole(Optional<Integer> given) {
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
