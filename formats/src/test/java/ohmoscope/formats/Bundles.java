package ohmoscope.formats;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.prove.RailInQuestion;

/** A small good bundle, and ways to spoil it. */
final class Bundles {
    static final int WIDTH = 24;
    static final int HEIGHT = 18;
    static final int FRAMES = 5;

    private Bundles() {}

    static List<char[]> frames() {
        Random random = new Random(11);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] frame = new char[WIDTH * HEIGHT];
            for (int i = 0; i < frame.length; i++) {
                frame[i] = (char) (29_000 + random.nextInt(900));
            }
            frames.add(frame);
        }
        return frames;
    }

    static Bundle good() {
        CaptureSpec spec = Fixtures.capture(WIDTH, HEIGHT, FRAMES, Fixtures.corners(40, 30, 0.5));
        Injection injection = new Injection(
                "VIN",
                Optional.of(new ProbePlace(5, 20, Side.TOP, Optional.of("C7"))),
                Optional.of(new ProbePlace(38, 2, Side.TOP, Optional.empty())),
                OptionalDouble.of(1),
                OptionalDouble.of(2),
                OptionalDouble.of(0.045),
                OptionalDouble.of(0.005));
        List<Observation> observations = new ArrayList<>();
        observations.add(Fixtures.diode(1, "VSYS", 0.003));
        observations.add(new Observation.Look(3, "C3", Observation.LookFinding.CRACKED));
        observations.add(Fixtures.removed(4, "C3"));
        return new Bundle(
                new Bundle.Job("K-1", "Test hunt", Optional.of(Instant.parse("2026-03-01T09:30:00Z"))),
                Fixtures.board(),
                RailInQuestion.stated("VSYS"),
                Optional.of(injection),
                Optional.of(Fixtures.log(0.1, 0.3, 0.5, 0.2, 2)),
                List.of(new Capture(spec, Fixtures.frames(frames()))),
                observations,
                Map.of("p1.csv", "t_s,volts\n0,5\n"));
    }

    /** The good bundle as a folder. */
    static Path folder(Path parent) throws IOException {
        Path folder = Files.createTempDirectory(parent, "bundle");
        BundleWriter.folder(good(), folder);
        return folder;
    }

    /** One file of a folder with a piece of text replaced. */
    static void replace(Path folder, String file, String old, String fresh) throws IOException {
        String text = Files.readString(folder.resolve(file));
        if (!text.contains(old)) {
            throw new IllegalArgumentException(file + " does not contain " + old);
        }
        Files.writeString(folder.resolve(file), text.replace(old, fresh));
    }

    /** A ZIP of some names and texts. */
    static Path zip(Path file, Map<String, String> entries) throws IOException {
        try (OutputStream out = Files.newOutputStream(file);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (var entry : entries.entrySet()) {
                zip.putNextEntry(new ZipEntry(entry.getKey()));
                zip.write(entry.getValue().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return file;
    }
}
