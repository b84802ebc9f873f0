package ohmoscope.formats;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.prove.RailInQuestion;

/**
 * Reads a bundle from a folder or a ZIP. Descriptions are read and checked at once; frames stay where they are and are
 * read, and checked, one by one when they are opened.
 */
public final class BundleReader {
    private static final String FORMAT = "ohmoscope-bundle";
    private static final int MAX_TRACE_BYTES = 32 << 20;

    private final BundleLimits limits;

    public BundleReader(BundleLimits limits) {
        this.limits = limits;
    }

    public BundleReader() {
        this(BundleLimits.DEFAULT);
    }

    /**
     * @throws BundleException naming the file and what is wrong in it
     */
    public Bundle read(Path path) throws IOException {
        return read(BundleFiles.of(path, limits));
    }

    private Bundle read(BundleFiles files) throws IOException {
        Board board;
        try (InputStream in = files.open("board.json")) {
            board = BoardJson.read(in, "board.json");
        }
        Faults faults = new Faults("bundle.json");
        Member root;
        try (InputStream in = files.open("bundle.json")) {
            root = Member.root(in, faults);
        }
        faults.attempt("", () -> BoardJson.requireFormat(root, FORMAT));
        faults.throwIfAny();
        Optional<Bundle.Job> job = faults.attempt("job", () -> job(root.object("job")));
        Optional<Optional<String>> rail = faults.attempt("", () -> root.optionalText("rail"));
        Optional<Optional<Injection>> injection = faults.attempt(
                "injection", () -> root.optionalObject("injection").map(InjectionJson::read));
        Optional<List<CaptureDraft>> drafts = faults.attempt("", () -> root.list("captures", CaptureDraft::read));
        Optional<List<Observation>> observations =
                faults.attempt("", () -> root.list("observations", ObservationJson::read));
        Optional<Optional<String>> supplyName = faults.attempt("", () -> root.optionalText("supply_log"));
        faults.throwIfAny();
        Optional<SupplyLog> supply = supply(files, supplyName.orElseThrow());
        List<Capture> captures = new ArrayList<>();
        List<CaptureDraft> list = drafts.orElseThrow();
        for (int i = 0; i < list.size(); i++) {
            captures.add(capture(files, list.get(i), "captures[" + i + "]"));
        }
        Map<String, String> traces = traces(files);
        Optional<Bundle> bundle = faults.attempt(
                "",
                () -> new Bundle(
                        job.orElseThrow(),
                        board,
                        RailInQuestion.of(
                                board,
                                rail.orElseThrow()
                                        .or(() -> injection.orElseThrow().map(Injection::net)),
                                observations.orElseThrow()),
                        injection.orElseThrow(),
                        supply,
                        captures,
                        observations.orElseThrow(),
                        traces));
        faults.throwIfAny();
        return bundle.orElseThrow();
    }

    private static Bundle.Job job(Member m) {
        Optional<Instant> opened = m.optionalText("opened").map(text -> {
            try {
                return Instant.parse(text);
            } catch (DateTimeParseException noTime) {
                throw new MemberException("job.opened", "must be a time such as 2026-03-01T09:30:00Z, was " + text);
            }
        });
        return new Bundle.Job(m.text("id"), m.optionalText("title").orElse(""), opened);
    }

    private static Optional<SupplyLog> supply(BundleFiles files, Optional<String> named) throws IOException {
        String name = named.orElse("supply.csv");
        if (named.isEmpty() && !files.has(name)) {
            return Optional.empty();
        }
        BundleFiles.requireInside("bundle.json", "supply_log", name);
        try (InputStream in = files.open(name)) {
            return Optional.of(CsvTables.supply(in, name));
        }
    }

    private static Capture capture(BundleFiles files, CaptureDraft draft, String path) throws IOException {
        BundleFiles.requireInside("bundle.json", path + ".frames", draft.frames());
        BundleFiles.requireInside("bundle.json", path + ".times", draft.times());
        List<Double> times;
        try (InputStream in = files.open(draft.times())) {
            times = CsvTables.times(in, draft.times());
        }
        Faults faults = new Faults("bundle.json");
        Optional<CaptureSpec> spec = faults.attempt(path, () -> draft.spec(times));
        faults.throwIfAny();
        if (!files.has(draft.frames())) {
            throw new BundleException(draft.frames(), "", "is missing from the bundle");
        }
        return new Capture(
                spec.orElseThrow(),
                PgmFrames.source(spec.orElseThrow(), draft.frames(), () -> files.open(draft.frames())));
    }

    private static Map<String, String> traces(BundleFiles files) throws IOException {
        Map<String, String> traces = new TreeMap<>();
        for (String name : files.in("traces")) {
            try (InputStream in = files.open("traces/" + name)) {
                byte[] bytes = in.readNBytes(MAX_TRACE_BYTES + 1);
                if (bytes.length > MAX_TRACE_BYTES) {
                    throw new BundleException("traces/" + name, "", "is larger than 32 MB");
                }
                traces.put(name, new String(bytes, StandardCharsets.UTF_8));
            }
        }
        return traces;
    }

    /** A capture as bundle.json has it, before its times are read. */
    private record CaptureDraft(
            String id,
            Side side,
            int width,
            int height,
            String frames,
            String times,
            double kelvinPerCount,
            double kelvinAtZero,
            OptionalDouble netdK,
            OptionalDouble emissivity,
            List<RegistrationPair> registration) {
        static CaptureDraft read(Member m) {
            return new CaptureDraft(
                    m.text("id"),
                    m.choice("side", Side.class),
                    m.integer("width"),
                    m.integer("height"),
                    m.text("frames"),
                    m.text("times"),
                    m.number("kelvin_per_count"),
                    m.optionalNumber("kelvin_at_zero").orElse(0),
                    m.optionalNumber("netd_k"),
                    m.optionalNumber("emissivity"),
                    RegistrationJson.read(m));
        }

        CaptureSpec spec(List<Double> timesS) {
            return new CaptureSpec(
                    id, side, width, height, kelvinPerCount, kelvinAtZero, netdK, emissivity, registration, timesS);
        }
    }
}
