package ohmoscope.formats;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.TreeMap;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.locate.LocateInput.Capture;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Writes a bundle as the contract says, frame by frame. The same bundle gives the same bytes. */
public final class BundleWriter {
    private BundleWriter() {}

    /** @param out left open */
    public static void zip(Bundle bundle, OutputStream out) throws IOException {
        ZipOutputStream zip = new ZipOutputStream(new BufferedOutputStream(out, 1 << 16));
        zip.setLevel(Deflater.BEST_SPEED);
        FileTime stamp = FileTime.from(bundle.job().opened().orElse(Instant.parse("2000-01-01T00:00:00Z")));
        write(bundle, (name, body) -> {
            ZipEntry entry = new ZipEntry(name);
            entry.setLastModifiedTime(stamp);
            zip.putNextEntry(entry);
            body.to(zip);
            zip.closeEntry();
        });
        zip.finish();
        zip.flush();
    }

    /** @param folder made when missing */
    public static void folder(Bundle bundle, Path folder) throws IOException {
        write(bundle, (name, body) -> {
            Path file = folder.resolve(name);
            Files.createDirectories(file.getParent());
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16)) {
                body.to(out);
            }
        });
    }

    private interface Body {
        void to(OutputStream out) throws IOException;
    }

    private interface Sink {
        void file(String name, Body body) throws IOException;
    }

    private static void write(Bundle bundle, Sink sink) throws IOException {
        sink.file("bundle.json", out -> out.write(Fields.bytes(description(bundle))));
        sink.file("board.json", out -> out.write(BoardJson.write(bundle.board())));
        if (bundle.supplyLog().isPresent()) {
            byte[] csv = CsvTables.write(bundle.supplyLog().get()).getBytes(StandardCharsets.UTF_8);
            sink.file("supply.csv", out -> out.write(csv));
        }
        for (var trace : new TreeMap<>(bundle.traces()).entrySet()) {
            sink.file(
                    "traces/" + trace.getKey(),
                    out -> out.write(trace.getValue().getBytes(StandardCharsets.UTF_8)));
        }
        for (Capture capture : bundle.captures()) {
            CaptureSpec spec = capture.spec();
            byte[] times = CsvTables.write(spec.timesS()).getBytes(StandardCharsets.UTF_8);
            sink.file(folderOf(spec) + "times.csv", out -> out.write(times));
            sink.file(folderOf(spec) + "frames.pgm", out -> frames(capture, out));
        }
    }

    private static void frames(Capture capture, OutputStream out) throws IOException {
        CaptureSpec spec = capture.spec();
        char[] counts = new char[spec.pixels()];
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            while (cursor.next(counts)) {
                PgmFrames.write(out, spec.width(), spec.height(), counts);
            }
        }
    }

    private static String folderOf(CaptureSpec spec) {
        return "captures/" + spec.id() + "/";
    }

    private static ObjectNode description(Bundle bundle) {
        ObjectNode root = Fields.object();
        root.put("format", "ohmoscope-bundle").put("version", 1);
        ObjectNode job = root.putObject("job");
        job.put("id", bundle.job().id()).put("title", bundle.job().title());
        bundle.job().opened().ifPresent(t -> job.put("opened", t.toString()));
        bundle.statedRail().ifPresent(r -> root.put("rail", r));
        bundle.injection().ifPresent(i -> root.set("injection", InjectionJson.node(i)));
        if (bundle.supplyLog().isPresent()) {
            root.put("supply_log", "supply.csv");
        }
        ArrayNode captures = root.putArray("captures");
        bundle.captures().forEach(c -> captures.add(capture(c.spec())));
        ArrayNode observations = root.putArray("observations");
        for (Observation observation : bundle.observations()) {
            observations.add(ObservationJson.node(observation));
        }
        return root;
    }

    private static ObjectNode capture(CaptureSpec spec) {
        ObjectNode node = Fields.object();
        node.put("id", spec.id());
        Fields.word(node, "side", spec.side());
        node.put("width", spec.width()).put("height", spec.height());
        node.put("frames", folderOf(spec) + "frames.pgm").put("times", folderOf(spec) + "times.csv");
        Fields.number(node, "kelvin_per_count", spec.kelvinPerCount());
        Fields.number(node, "kelvin_at_zero", spec.kelvinAtZero());
        Fields.number(node, "netd_k", spec.netdK());
        Fields.number(node, "emissivity", spec.emissivity());
        node.set("registration", RegistrationJson.node(spec.registration()));
        return node;
    }
}
