package ohmoscope.cli;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.formats.BundleWriter;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code simulate}: makes a bundle from a board and a fault. */
@Command(
        name = "simulate",
        description =
                "Makes a bundle: a board with a fault under a simulated supply and camera. Same seed, same bytes.",
        mixinStandardHelpOptions = true)
final class SimulateCommand implements Callable<Integer> {
    @Option(
            names = "--board",
            required = true,
            paramLabel = "FILE",
            description = "board.json, or one of the demo boards: tarn, beck, furrow, ridge")
    private String board;

    @Option(
            names = "--fault",
            paramLabel = "REF=OHMS",
            description = "a short to ground; may be given several times; none: injected into ground")
    private Map<String, Double> faults = new TreeMap<>();

    @Option(names = "--rail", paramLabel = "NET", description = "default: the power net of the first fault")
    private Optional<String> rail = Optional.empty();

    @Option(
            names = "--at",
            paramLabel = "REF",
            description = "part whose pad is fed; default: another part of the rail")
    private Optional<String> at = Optional.empty();

    @Option(names = "--feed", paramLabel = "NET", description = "net that is fed; default: the rail")
    private Optional<String> feed = Optional.empty();

    @Option(names = "--set", paramLabel = "VOLTS", defaultValue = "1.0", description = "default ${DEFAULT-VALUE}")
    private double setVolts;

    @Option(names = "--limit", paramLabel = "AMPS", defaultValue = "2.0", description = "default ${DEFAULT-VALUE}")
    private double limitAmps;

    @Option(names = "--lead", paramLabel = "OHMS", defaultValue = "0.055", description = "default ${DEFAULT-VALUE}")
    private double leadOhms;

    @Option(names = "--seconds", defaultValue = "8", description = "power on, in all; default ${DEFAULT-VALUE}")
    private double seconds;

    @Option(names = "--pulses", defaultValue = "1", description = "in how many bursts; default ${DEFAULT-VALUE}")
    private int pulses;

    @Option(names = "--side", split = ",", description = "sides looked at, in order; default: the fault's")
    private List<Side> sides = new ArrayList<>();

    @Option(names = "--close", paramLabel = "REF", description = "look closely at this part")
    private Optional<String> close = Optional.empty();

    @Option(names = "--size", defaultValue = "160x120", description = "camera pixels; default ${DEFAULT-VALUE}")
    private String size;

    @Option(names = "--fps", defaultValue = "9", description = "frames a second; default ${DEFAULT-VALUE}")
    private double fps;

    @Option(names = "--baseline", defaultValue = "2.2", description = "seconds before power; default ${DEFAULT-VALUE}")
    private double baseline;

    @Option(names = "--netd", defaultValue = "0.07", description = "camera noise, kelvin; default ${DEFAULT-VALUE}")
    private double netdK;

    @Option(names = "--drift", defaultValue = "0.3", description = "camera drift, kelvin; default ${DEFAULT-VALUE}")
    private double driftK;

    @Option(
            names = "--rezero",
            defaultValue = "1",
            description = "how often the camera re-zeroes; default ${DEFAULT-VALUE}")
    private int rezeroes;

    @Option(names = "--shake", defaultValue = "0.03", description = "tremor, pixels; default ${DEFAULT-VALUE}")
    private double shakePx;

    @Option(
            names = "--turn",
            defaultValue = "0",
            description = "turning of the hand, degrees; default ${DEFAULT-VALUE}")
    private double turnDegrees;

    @Option(
            names = "--reflection",
            defaultValue = "0.3",
            description = "changing reflections, kelvin; default ${DEFAULT-VALUE}")
    private double reflectionK;

    @Option(names = "--seed", defaultValue = "1", description = "default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--id", description = "job number; default S- and the seed")
    private Optional<String> id = Optional.empty();

    @Option(
            names = "--kind",
            defaultValue = "simulated",
            description = "kind noted in the truth; default ${DEFAULT-VALUE}")
    private String kind;

    @Option(names = "--out", required = true, paramLabel = "PATH", description = "ZIP (ends in .zip) or folder")
    private Path out;

    @Option(names = "--truth", paramLabel = "FILE", description = "add what truly happened to this truth.json")
    private Optional<Path> truth = Optional.empty();

    @Override
    public Integer call() throws Exception {
        Board made = NamedBoard.of(board);
        String net = rail.orElseGet(() -> faultNet(made));
        String jobId = id.orElse("S-" + seed);
        List<BenchSetup.View> views = (sides.isEmpty() ? List.of(faultSide(made)) : sides)
                .stream().map(side -> new BenchSetup.View(side, close)).toList();
        String fedNet = feed.orElse(faults.isEmpty() ? ground(made) : net);
        BenchSetup setup = new BenchSetup(
                made,
                jobId,
                "Simulated hunt on " + made.name(),
                Instant.parse("2026-01-01T09:00:00Z"),
                faults,
                net,
                at.orElseGet(() -> otherPart(made, fedNet)),
                fedNet,
                new BenchSetup.Supply(setVolts, limitAmps, leadOhms, seconds, pulses),
                views,
                camera(),
                seed);
        BenchSimulator.Run run = BenchSimulator.run(setup);
        if (out.toString().endsWith(".zip")) {
            try (OutputStream zip = Files.newOutputStream(out)) {
                BundleWriter.zip(run.bundle(), zip);
            }
        } else {
            BundleWriter.folder(run.bundle(), out);
        }
        if (truth.isPresent()) {
            String name = out.getFileName().toString().replaceFirst("\\.zip$", "");
            new TruthFile(truth.get()).note(name, kind, made, run.truth());
        }
        return 0;
    }

    private BenchSetup.Camera camera() {
        String[] sizes = size.split("x");
        try {
            return new BenchSetup.Camera(
                    Integer.parseInt(sizes[0]),
                    Integer.parseInt(sizes[1]),
                    fps,
                    baseline,
                    netdK,
                    driftK,
                    rezeroes,
                    shakePx,
                    turnDegrees,
                    reflectionK);
        } catch (NumberFormatException | ArrayIndexOutOfBoundsException noSize) {
            throw new InvalidMember("size", "must be like 160x120, was " + size);
        }
    }

    private Part fault(Board made) {
        String ref = faults.keySet().iterator().next();
        return made.part(ref)
                .orElseThrow(
                        () -> new InvalidMember("fault", "names the part " + ref + ", which the board does not have"));
    }

    private String faultNet(Board made) {
        if (faults.isEmpty()) {
            throw new InvalidMember("rail", "is missing: without a fault it must be given");
        }
        return fault(made).pins().stream()
                .map(Pin::net)
                .filter(n -> made.net(n).orElseThrow().kind() == NetKind.POWER)
                .findFirst()
                .orElseThrow(() -> new InvalidMember("fault", "is on no power net"));
    }

    private Side faultSide(Board made) {
        return faults.isEmpty() ? Side.TOP : fault(made).side();
    }

    private static String ground(Board made) {
        return made.nets().stream()
                .filter(n -> n.kind() == NetKind.GROUND)
                .findFirst()
                .orElseThrow(() -> new InvalidMember("nets", "has no ground"))
                .name();
    }

    /** The largest part on the net that is not at fault. */
    private String otherPart(Board made, String net) {
        return made.partsOn(net)
                .filter(p -> !faults.containsKey(p.ref()))
                .reduce((a, b) -> b.wMm() * b.hMm() > a.wMm() * a.hMm() ? b : a)
                .orElseThrow(() -> new InvalidMember("at", "is missing, and the rail has no other part"))
                .ref();
    }
}
