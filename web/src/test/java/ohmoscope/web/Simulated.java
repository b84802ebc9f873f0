package ohmoscope.web;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleWriter;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;

/** Small simulated jobs for tests: a capacitor of the logger's battery rail is shorted. */
public final class Simulated {
    /** The fourth capacitor of the row beside the modem. */
    public static final String CULPRIT = DemoBoards.beck()
            .partsOn("VBAT")
            .filter(p -> p.packageName().equals("0603") && p.side() == Side.TOP)
            .skip(3)
            .findFirst()
            .orElseThrow()
            .ref();

    private Simulated() {}

    public static Bundle job(String number) {
        return job(number, List.of(side()));
    }

    /** @param sides one capture each */
    public static Bundle job(String number, List<Side> sides) {
        BenchSetup setup = new BenchSetup(
                DemoBoards.beck(),
                number,
                "Logger found silent",
                Instant.parse("2026-02-03T10:00:00Z"),
                Map.of(CULPRIT, 0.08),
                "VBAT",
                "C28",
                "VBAT",
                new BenchSetup.Supply(1, 2.5, 0.05, 4, 1),
                sides.stream()
                        .map(s -> new BenchSetup.View(s, Optional.empty()))
                        .toList(),
                new BenchSetup.Camera(80, 60, 8, 1.5, 0.06, 0.2, 1, 0.03, 0.2),
                21);
        Bundle made = BenchSimulator.run(setup).bundle();
        List<Observation> observations = new ArrayList<>();
        observations.add(new Observation.Read(
                0,
                ReadMode.DIODE,
                Optional.of("VBAT"),
                Optional.of("C28"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(0.004),
                Optional.empty(),
                Optional.empty()));
        observations.addAll(made.observations());
        return new Bundle(
                made.job(),
                made.board(),
                made.railInQuestion(),
                made.injection(),
                made.supplyLog(),
                made.captures(),
                observations,
                Map.of("port.csv", "t_s,amps\n0,0.1\n"));
    }

    public static Path zip(Path folder, String number) throws IOException {
        Path file = folder.resolve(number + ".zip");
        try (OutputStream out = Files.newOutputStream(file)) {
            BundleWriter.zip(job(number), out);
        }
        return file;
    }

    public static Side side() {
        return DemoBoards.beck().part(CULPRIT).orElseThrow().side();
    }
}
