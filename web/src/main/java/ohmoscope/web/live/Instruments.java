package ohmoscope.web.live;

import java.io.FileInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.LongSupplier;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.instrument.InlineMeter;
import ohmoscope.core.instrument.Meter;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.instruments.Dialect;
import ohmoscope.instruments.Dialects;
import ohmoscope.instruments.FolderCamera;
import ohmoscope.instruments.GuardedSupply;
import ohmoscope.instruments.LineMeter;
import ohmoscope.instruments.LineWire;
import ohmoscope.instruments.Place;
import ohmoscope.instruments.ScpiMeter;
import ohmoscope.instruments.StreamCamera;
import ohmoscope.web.store.BenchStore.Entered;

/**
 * A bench's instruments, each as it was entered; none is called before it is used.
 *
 * @param supply behind its watchdog
 */
public record Instruments(
        Optional<GuardedSupply> supply,
        Optional<Meter> meter,
        Optional<ThermalCamera> camera,
        Optional<InlineMeter> inline)
        implements AutoCloseable {
    /** The longest that an output may be on at a stretch, whatever happens. */
    public static final Duration HARD_LIMIT = Duration.ofSeconds(45);

    /** A watchdog that barks first has to be waked anew before anything can be asked. */
    private static final Duration GRACE = Duration.ofMillis(80);

    private static final Duration FRAME_PATIENCE = Duration.ofSeconds(2);
    private static final Duration INLINE_PATIENCE = Duration.ofSeconds(2);
    private static final Duration LINE_SILENCE = Duration.ofSeconds(3);
    /** A file grows when its program likes. */
    private static final Duration FILE_SILENCE = Duration.ofHours(1);

    /**
     * @param clock the bench's one clock, nanoseconds
     * @param silence after which the bench itself switches off; the watchdog of a supply, where it does not, a little later
     * @throws InvalidMember for an address or dialect that is none, or an address beyond this machine that nobody meant
     */
    public static Instruments of(List<Entered> entered, Path dialects, LongSupplier clock, Duration silence)
            throws IOException {
        Optional<GuardedSupply> supply = Optional.empty();
        Optional<Meter> meter = Optional.empty();
        Optional<ThermalCamera> camera = Optional.empty();
        Optional<InlineMeter> inline = Optional.empty();
        List<Dialect> known = Dialects.with(dialects);
        for (Entered one : entered) {
            Place place = place(one);
            switch (one.role()) {
                case SUPPLY -> {
                    Dialect dialect = dialect(known, Dialect.Kind.SUPPLY, one.dialect());
                    supply = Optional.of(new GuardedSupply(place, dialect, clock, silence.plus(GRACE), HARD_LIMIT));
                }
                case METER -> {
                    Dialect dialect = dialect(known, Dialect.Kind.METER, one.dialect());
                    LineWire wire = new LineWire(
                            place, Duration.ofMillis(dialect.answerMillis()), Duration.ofMillis(dialect.paceMillis()));
                    meter = Optional.of(new ScpiMeter(wire, dialect, clock));
                }
                case CAMERA -> camera = Optional.of(camera(one, place, clock));
                case INLINE ->
                    inline = Optional.of(new LineMeter(
                            place.toString(),
                            () -> lines(place),
                            place instanceof Place.Disk ? FILE_SILENCE : LINE_SILENCE,
                            clock));
            }
        }
        return new Instruments(supply, meter, camera, inline);
    }

    /** @throws InvalidMember for no address, or one beyond this machine that nobody meant */
    static Place place(Entered entered) {
        Place place = Place.of(entered.address());
        if (!place.here() && !entered.beyond()) {
            throw new InvalidMember("address", place + " is beyond this machine: tick that it is meant, where it is");
        }
        return place;
    }

    static Dialect dialect(List<Dialect> known, Dialect.Kind kind, String name) {
        return known.stream()
                .filter(d -> d.kind() == kind && (name.isEmpty() || d.name().equals(name)))
                .findFirst()
                .orElseThrow(() -> new InvalidMember("dialect", "is none that is known: " + name));
    }

    private static ThermalCamera camera(Entered entered, Place place, LongSupplier clock) {
        ThermalCamera.Scale scale = new ThermalCamera.Scale(entered.kelvinPerCount(), entered.kelvinAtZero());
        if (place instanceof Place.Tcp tcp) {
            return new StreamCamera(tcp.address(), FRAME_PATIENCE, scale, clock);
        }
        if (place instanceof Place.Disk disk) {
            return new FolderCamera(disk.path(), FRAME_PATIENCE, scale, clock);
        }
        throw new InvalidMember("address", "of a camera must be host:port or disk:/folder, was " + place);
    }

    private static InputStream lines(Place place) throws IOException {
        if (place instanceof Place.Disk disk) {
            FileInputStream file = new FileInputStream(disk.path().toFile());
            file.skipNBytes(file.available());
            return file;
        }
        return LineMeter.from(place, INLINE_PATIENCE);
    }

    @Override
    public void close() {
        supply.ifPresent(GuardedSupply::close);
        meter.ifPresent(Meter::close);
        camera.ifPresent(ThermalCamera::close);
        inline.ifPresent(InlineMeter::close);
    }
}
