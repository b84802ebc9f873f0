package ohmoscope.core.locate.model;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TemporalBasis;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.EdgeSnap;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.Projection;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.GrownBasis;
import ohmoscope.core.locate.capture.MovieTime;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.capture.Reflections;
import ohmoscope.core.locate.capture.StillPictures;
import ohmoscope.core.locate.capture.WireFinder;

/** Turns one capture into a {@link CaptureModel}: scan, compress, place on the board, weigh. */
public final class CapturePreparer {
    /** Camera pixels are binned until one covers about this. */
    private static final double TARGET_PITCH_MM = 0.28;

    private static final int MIN_PIXELS = 50;
    /** From here on it matters which frame the pairs were clicked in. */
    private static final double SHAKEN_PX = 0.35;

    /** Farther than so many times its root mean square a camera hardly ever shakes. */
    private static final double SHAKES = 2.5;

    /** How sharply the picture's edges place the board, one sigma, pixels. */
    private static final double SNAPPED_PX = 0.7;

    /** Finer pictures are binned once more: heat has no finer shape than this gives. */
    private static final int MOST_PIXELS = 20_000;

    private static final double MAX_PATCH_PIXELS = 150;
    /** Bodies from this size on hide where under them the heat starts. */
    private static final double LID_MM2 = 9;
    /** A body matters to the weights from this many pixels on. */
    private static final double BODY_PIXELS = 1.2;
    /** Round the hot tip the lead itself is in the picture. */
    private static final double TIP_MM = 2.5;

    /**
     * @param wireK how far the lead's warming stands above its surroundings, kelvin; 0 when no warm lead was seen
     * @param model empty when nothing was switched while the camera looked, or no pixel lies on the board
     * @param sampling of the model, where the capture may get some more frames
     */
    public record Prepared(
            FrameScan scan,
            Registration registration,
            double wireK,
            Optional<CaptureModel> model,
            Optional<Sampling> sampling) {
        /** Of a capture that is whole. */
        public Prepared(FrameScan scan, Registration registration, double wireK, Optional<CaptureModel> model) {
            this(scan, registration, wireK, model, Optional.empty());
        }
    }

    private final Board board;
    private final SlabParameters slab;
    private final Waveform waveform;
    private final Optional<Injection> injection;
    private final LocateSettings settings;
    private final Scans scans;

    /** How a capture with some more frames is weighed. */
    public enum Weights {
        /** As it was before. */
        KEPT,
        /** As one that nothing has been fitted to. */
        ANEW
    }

    /** Looks a capture's frames through. */
    @FunctionalInterface
    public interface Scans {
        /** @throws IOException when frames cannot be read */
        FrameScan of(Capture capture) throws IOException;

        /** Whether a capture may get some more frames, so that what its frames came to is kept. */
        default boolean grow() {
            return false;
        }

        /** Each by itself, from its first frame on. */
        static Scans whole() {
            return capture -> FrameScan.of(capture.spec(), capture.frames());
        }
    }

    public CapturePreparer(
            Board board,
            SlabParameters slab,
            Waveform waveform,
            Optional<Injection> injection,
            LocateSettings settings,
            Scans scans) {
        this.board = board;
        this.slab = slab;
        this.waveform = waveform;
        this.injection = injection;
        this.settings = settings;
        this.scans = scans;
    }

    public Prepared prepare(Capture capture) throws IOException {
        CaptureSpec spec = capture.spec();
        FrameScan scan = scans.of(capture);
        Registration registration = registration(spec, scan);
        double[] times = spec.times();
        if (waveform.silent()) {
            return new Prepared(scan, registration, 0, Optional.empty());
        }
        double[][] basis = TemporalBasis.of(slab, waveform, times, scan.segment());
        if (basis.length == 0) {
            return new Prepared(scan, registration, 0, Optional.empty());
        }
        Homography map = registration.homography();
        double pitch = map.pitchMm(spec.width() / 2.0, spec.height() / 2.0);
        int bin = Math.max(1, (int) Math.floor(TARGET_PITCH_MM / pitch));
        Projection movie = Projection.of(spec, capture.frames(), scan, basis, bin);
        Optional<WireFinder.Wire> wire = injection
                .flatMap(Injection::at)
                .filter(at -> at.side() == spec.side())
                .flatMap(at -> new WireFinder(movie)
                        .from(
                                (map.xPx(at.xMm(), at.yMm()) + 0.5) / bin - 0.5,
                                (map.yPx(at.xMm(), at.yMm()) + 0.5) / bin - 0.5,
                                pitch * bin));
        float[][] still = StillPictures.of(scan.baseline(), spec.width(), movie, wire);
        double pixelMm = pitch * bin;
        float[] patch = new float[movie.width() * movie.height()];
        float[] error = relativeErrors(spec, movie, map, pixelMm, wire, patch);
        int[] kept = IntStream.range(0, error.length)
                .filter(p -> error[p] < Float.POSITIVE_INFINITY)
                .toArray();
        double wireK = wire.filter(WireFinder.Wire::clear)
                .map(w -> Math.max(0, w.riseK()))
                .orElse(0.0);
        if (kept.length < MIN_PIXELS) {
            return new Prepared(scan, registration, wireK, Optional.empty());
        }
        Pixels pixels = pixels(spec, movie, map, pixelMm, kept, patch, error, still);
        Reflections.Turned turned = Reflections.turn(movie, basis, patch);
        CaptureModel model = CaptureModel.of(
                spec.side(),
                pixels,
                picked(turned.movie(), kept),
                movie.noiseK(),
                new MovieTime(waveform, times, turned.basis()),
                pixelMm,
                board.outline(),
                settings,
                MOST_PIXELS);
        Optional<Sampling> sampling = scans.grow()
                ? Optional.of(Sampling.of(capture, scan, bin, kept, pixels.bins(MOST_PIXELS)))
                : Optional.empty();
        return new Prepared(scan, registration, wireK, Optional.of(model), sampling);
    }

    /**
     * The same capture with some more frames: those alone are looked at; where the board lies in the picture, and what is
     * hidden, stays.
     *
     * @param before as it was prepared, with its sampling
     * @param model its model then
     * @return empty when the new frames leave too little of what was made of the earlier ones
     */
    public Optional<Prepared> grown(Prepared before, CaptureModel model, Capture capture, Weights weights)
            throws IOException {
        CaptureSpec spec = capture.spec();
        FrameScan scan = scans.of(capture);
        if (before.sampling().isEmpty() || !goesOn(before.scan().segment(), scan.segment())) {
            return Optional.empty();
        }
        Sampling sampling = before.sampling().get();
        double[] times = spec.times();
        double[][] wanted = TemporalBasis.of(slab, waveform, times, scan.segment());
        Optional<GrownBasis> basis = GrownBasis.of(model.time().basis(), wanted, sampling.block());
        if (basis.isEmpty()) {
            return Optional.empty();
        }
        Sampling.Later later = sampling.later(capture, scan, basis.get().rows());
        float[] data = sampling.in(basis.get(), later);
        MovieTime time = new MovieTime(waveform, times, basis.get().rows());
        return Optional.of(new Prepared(
                scan,
                before.registration(),
                before.wireK(),
                Optional.of(weights == Weights.KEPT ? model.grown(data, time) : model.grownAnew(data, time, settings)),
                Optional.of(sampling.with(later))));
    }

    /** Whether a movie's frames belong together as they did when it had fewer. */
    private static boolean goesOn(List<Integer> before, List<Integer> now) {
        return now.size() >= before.size() && now.subList(0, before.size()).equals(before);
    }

    /**
     * The clicked pairs' map; where they contradict each other, or nobody knows which of a shaken camera's frames was
     * clicked, what the picture's own edges make of it.
     */
    private Registration registration(CaptureSpec spec, FrameScan scan) {
        Registration clicked = Registration.fit(spec.registration());
        if (!clicked.doubtful() && scan.shakePx() < SHAKEN_PX) {
            return clicked;
        }
        EdgeSnap edges =
                EdgeSnap.from(scan.baseline(), spec.width(), spec.height(), board, spec.side(), spec.registration());
        EdgeSnap.Snapped snapped = clicked.doubtful()
                ? edges.snap(spec.registration())
                : edges.slide(spec.registration(), SHAKES * scan.shakePx() + SNAPPED_PX, SHAKES * scan.turn());
        return snapped.usable() ? clicked.mapped(snapped.pairs(), SNAPPED_PX) : clicked;
    }

    private Pixels pixels(
            CaptureSpec spec,
            Projection movie,
            Homography map,
            double pitch,
            int[] kept,
            float[] patch,
            float[] error,
            float[][] still) {
        int w = movie.width();
        List<Part> lids =
                bodies(spec, pitch).stream().filter(CapturePreparer::isLid).toList();
        Pixels pixels = new Pixels(kept.length, movie.height(), w, still.length);
        IntStream.range(0, kept.length).parallel().forEach(i -> {
            int p = kept[i];
            int column = p % w;
            int row = p / w;
            pixels.xMm()[i] = (float) map.xMm(movie.xPx(column), movie.yPx(row));
            pixels.yMm()[i] = (float) map.yMm(movie.xPx(column), movie.yPx(row));
            pixels.row()[i] = row;
            pixels.column()[i] = column;
            pixels.patch()[i] = patch[p];
            pixels.lid()[i] = lid(lids, pixels.xMm()[i], pixels.yMm()[i]);
            pixels.boardError()[i] = error[p];
            for (int m = 0; m < still.length; m++) {
                pixels.still()[m][i] = still[m][p];
            }
        });
        return pixels;
    }

    /** @return {@code [component · pixels + pixel]} */
    private static float[] picked(Projection movie, int[] kept) {
        int k = movie.components();
        float[] data = new float[kept.length * k];
        for (int i = 0; i < kept.length; i++) {
            for (int j = 0; j < k; j++) {
                data[j * kept.length + i] = movie.values()[kept[i] * k + j];
            }
        }
        return data;
    }

    /** Whether a body is so large that it hides where under it the heat starts. */
    public static boolean isLid(Part part) {
        return part.wMm() * part.hMm() > LID_MM2;
    }

    private static int lid(List<Part> lids, double xMm, double yMm) {
        for (int l = 0; l < lids.size(); l++) {
            if (lids.get(l).covers(xMm, yMm, 0)) {
                return l;
            }
        }
        return -1;
    }

    /** For each pixel how far the slab model may be off, relative; infinite where it says nothing. Fills {@code patch}. */
    private float[] relativeErrors(
            CaptureSpec spec,
            Projection movie,
            Homography map,
            double pitch,
            Optional<WireFinder.Wire> wire,
            float[] patch) {
        int w = movie.width();
        int h = movie.height();
        Outline.Inside inside = board.outline().inside();
        Optional<ProbePlace> tip = injection.flatMap(Injection::at).filter(at -> at.side() == spec.side());
        float[] error = new float[w * h];
        float[] xMm = new float[w * h];
        float[] yMm = new float[w * h];
        boolean[] onBoard = new boolean[w * h];
        IntStream.range(0, h).parallel().forEach(row -> {
            for (int column = 0; column < w; column++) {
                int p = row * w + column;
                double x = map.xMm(movie.xPx(column), movie.yPx(row));
                double y = map.yMm(movie.xPx(column), movie.yPx(row));
                xMm[p] = (float) x;
                yMm[p] = (float) y;
                onBoard[p] = inside.test(x, y);
            }
        });
        IntStream.range(0, h).parallel().forEach(row -> {
            for (int column = 0; column < w; column++) {
                int p = row * w + column;
                boolean edge = row == 0 || column == 0 || row == h - 1 || column == w - 1;
                boolean hidden = wire.isPresent() && wire.get().hides(column, row);
                // Where a neighbour is off the board, so is some of this pixel's light.
                boolean seen = !edge && !hidden && onBoard[p - 1] && onBoard[p + 1] && onBoard[p - w] && onBoard[p + w];
                boolean underTip = tip.isPresent()
                        && Math.hypot(
                                        xMm[p] - tip.get().xMm(),
                                        yMm[p] - tip.get().yMm())
                                < TIP_MM;
                double usual = underTip ? Math.max(settings.boardError(), settings.bodyError()) : settings.boardError();
                error[p] = seen ? (float) usual : Float.POSITIVE_INFINITY;
            }
        });
        for (Part part : bodies(spec, pitch)) {
            double across = Math.hypot(part.wMm(), part.hMm()) / 2 + pitch;
            boolean can = part.kind() == PartKind.SHIELD;
            float pixels = (float) Math.min(MAX_PATCH_PIXELS, Math.max(1, part.wMm() * part.hMm() / (pitch * pitch)));
            for (int p : near(movie, map, part, across)) {
                if (error[p] < Float.POSITIVE_INFINITY && part.covers(xMm[p], yMm[p], pitch / 2)) {
                    error[p] = can ? Float.POSITIVE_INFINITY : error[p];
                    patch[p] = Math.max(patch[p], pixels);
                }
            }
        }
        for (int p = 0; p < error.length; p++) {
            patch[p] = error[p] < Float.POSITIVE_INFINITY ? patch[p] : -1;
        }
        return error;
    }

    /** Pixels of the box in the picture that a circle round a part falls into. */
    private static int[] near(Projection movie, Homography map, Part part, double radiusMm) {
        double left = Double.POSITIVE_INFINITY;
        double right = Double.NEGATIVE_INFINITY;
        double top = Double.POSITIVE_INFINITY;
        double bottom = Double.NEGATIVE_INFINITY;
        for (int corner = 0; corner < 4; corner++) {
            double x = part.xMm() + (corner % 2 == 0 ? -radiusMm : radiusMm);
            double y = part.yMm() + (corner / 2 == 0 ? -radiusMm : radiusMm);
            double column = (map.xPx(x, y) + 0.5) / movie.binPx() - 0.5;
            double row = (map.yPx(x, y) + 0.5) / movie.binPx() - 0.5;
            left = Math.min(left, column);
            right = Math.max(right, column);
            top = Math.min(top, row);
            bottom = Math.max(bottom, row);
        }
        int w = movie.width();
        int fromColumn = (int) Math.max(0, Math.floor(left));
        int toColumn = (int) Math.min(w - 1.0, Math.ceil(right));
        int fromRow = (int) Math.max(0, Math.floor(top));
        int toRow = (int) Math.min(movie.height() - 1.0, Math.ceil(bottom));
        if (toColumn < fromColumn || toRow < fromRow) {
            return new int[0];
        }
        return IntStream.rangeClosed(fromRow, toRow)
                .flatMap(row -> IntStream.rangeClosed(row * w + fromColumn, row * w + toColumn))
                .toArray();
    }

    private List<Part> bodies(CaptureSpec spec, double pitch) {
        List<Part> bodies = new ArrayList<>();
        for (Part part : board.parts()) {
            if (part.side() == spec.side() && part.wMm() * part.hMm() > BODY_PIXELS * pitch * pitch) {
                bodies.add(part);
            }
        }
        return bodies;
    }
}
