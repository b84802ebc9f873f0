package ohmoscope.bench.demo;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Supplier;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.formats.Bundle;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSetup.Camera;
import ohmoscope.sim.BenchSetup.Supply;
import ohmoscope.sim.BenchSetup.View;
import ohmoscope.sim.BenchSimulator;

/** The jobs on a made-up bench: with frames, decided before, and begun with little. */
public final class DemoJobs {
    private static final View TOP = new View(Side.TOP, Optional.empty());
    private static final View BOTTOM = new View(Side.BOTTOM, Optional.empty());

    private DemoJobs() {}

    /** A job that is made when it is asked for: simulating one takes a second or two. */
    public record Demo(String id, Supplier<Bundle> bundle) {}

    public static List<Demo> all() {
        List<Demo> all = new ArrayList<>(EvidenceJobs.all());
        all.addAll(imaged());
        all.addAll(StartJobs.all());
        all.add(LiveJob.demo());
        return all;
    }

    private static List<Demo> imaged() {
        Board tarn = Rails.TARN.of(DemoBoards.tarn());
        Board beck = Rails.BECK.of(DemoBoards.beck());
        Board furrow = Rails.FURROW.of(DemoBoards.furrow());
        Board ridge = Rails.RIDGE.of(DemoBoards.ridge());
        Board fell = Rails.FELL.of(DemoBoards.fell());
        Camera stand = Camera.STAND;
        return List.of(
                demo(
                        tarn,
                        "K-0417",
                        "Dive light died on the boat, warm near the charge port",
                        "2026-11-23T09:31:00Z",
                        Map.of("C22", 0.031),
                        "VMAIN",
                        "R4",
                        "VMAIN",
                        new Supply(0.5, 2.2, 0.055, 8, 1),
                        List.of(TOP),
                        stand,
                        417,
                        survey("VMAIN", 0.004, "V5A", 0.48, "C22", "J1")),
                demo(
                        beck,
                        "K-0418",
                        "Logger drains its cell in an hour",
                        "2026-11-23T11:05:00Z",
                        Map.of("U4", 0.62),
                        "VLICELL",
                        "C25",
                        "VLICELL",
                        new Supply(1.0, 1.2, 0.06, 8, 1),
                        List.of(TOP, BOTTOM),
                        stand,
                        418,
                        survey("VLICELL", 0.06, "VLOG", 0.44, "U4", "J1")),
                demo(
                        furrow,
                        "K-0419",
                        "Counter does not charge after a wash",
                        "2026-11-23T14:20:00Z",
                        Map.of("C74", 0.35),
                        "VSEED",
                        "C12",
                        "VSEED",
                        new Supply(1.0, 1.8, 0.05, 9, 1),
                        List.of(TOP, BOTTOM),
                        stand,
                        419,
                        survey("VSEED", 0.02, "V5S", 0.47, "C12", "J1")),
                demo(
                        ridge,
                        "K-0420",
                        "Radio dead, came from a colleague's bench",
                        "2026-11-24T08:50:00Z",
                        Map.of("C64", 0.09),
                        "VBATT",
                        "C6",
                        "VBATT",
                        new Supply(0.6, 2.4, 0.06, 10, 1),
                        List.of(TOP),
                        stand,
                        420,
                        survey("VBATT", 0.008, "V3R", 0.41, "C6", "J1")),
                demo(
                        tarn,
                        "K-0421",
                        "Charger gets hot, light stays dark",
                        "2026-11-24T10:10:00Z",
                        Map.of("C40", 0.012),
                        "VMAIN",
                        "F1",
                        "VBUS_F",
                        new Supply(0.8, 3.0, 0.06, 8, 1),
                        List.of(TOP),
                        stand,
                        421,
                        survey("VMAIN", 0.002, "VLAMP", 0.45, "C40", "J1")),
                demo(
                        beck,
                        "K-0422",
                        "Logger silent since the flood",
                        "2026-11-24T13:40:00Z",
                        Map.of(),
                        "VLICELL",
                        "C73",
                        "GND",
                        new Supply(0.2, 2.0, 0.05, 8, 1),
                        List.of(TOP),
                        stand,
                        422,
                        survey("VLICELL", 0.03, "VLOG", 0.42, "C73", "J1")),
                demo(
                        furrow,
                        "K-0423",
                        "Seed counter blinks and goes out",
                        "2026-11-24T16:15:00Z",
                        Map.of("C60", 0.06),
                        "VSEED",
                        "C12",
                        "VSEED",
                        new Supply(0.1, 0.5, 0.06, 8, 4),
                        List.of(BOTTOM),
                        new Camera(160, 120, 9, 2.2, 0.06, 0.25, 1, 0.03, 0.2),
                        423,
                        survey("VSEED", 0.007, "V5S", 0.49, "C60", "J1")),
                demo(
                        ridge,
                        "K-0424",
                        "Radio charges to nothing, hand-held look",
                        "2026-11-25T08:05:00Z",
                        Map.of("D1", 0.22),
                        "VCLIP",
                        "C1",
                        "VCLIP",
                        new Supply(0.8, 2.0, 0.05, 8, 1),
                        List.of(TOP),
                        new Camera(160, 120, 9, 2.2, 0.07, 0.3, 1, 0.8, 0.2).turned(0.25),
                        424,
                        survey("VCLIP", 0.02, "VBATT", 0.44, "D1", "J1")),
                demo(
                        fell,
                        "K-0431",
                        "Telephone dead after a fall, warm at the back",
                        "2026-11-25T09:50:00Z",
                        Map.of("C97", 0.04),
                        "VPH",
                        "C85",
                        "VPH",
                        new Supply(0.8, 2.6, 0.055, 9, 1),
                        List.of(TOP, BOTTOM),
                        stand,
                        431,
                        survey("VPH", 0.003, "V2P8", 0.41, "C97", "J1")));
    }

    /** The lamp that is mapped from photographs, as the camera saw the whole of it. */
    static Bundle simulated(Board board, String id, String culprit) {
        return demo(
                        board,
                        id,
                        "Head lamp dead in the box, only photographs of its board",
                        "2026-11-25T10:40:00Z",
                        Map.of(culprit, 0.05),
                        "VCELL",
                        "F1",
                        "VDOCK_F",
                        new Supply(0.8, 2.2, 0.055, 8, 1),
                        List.of(TOP),
                        Camera.STAND,
                        434,
                        survey("VCELL", 0.005, "VBEAM", 0.44, culprit, "J1"))
                .bundle()
                .get();
    }

    private static Demo demo(
            Board board,
            String id,
            String title,
            String opened,
            Map<String, Double> faults,
            String rail,
            String feedRef,
            String feedNet,
            Supply supply,
            List<View> views,
            Camera camera,
            long seed,
            List<Observation> before) {
        return new Demo(id, () -> {
            BenchSetup setup = new BenchSetup(
                    board,
                    id,
                    title,
                    Instant.parse(opened),
                    faults,
                    rail,
                    feedRef,
                    feedNet,
                    supply,
                    views,
                    camera,
                    seed);
            return withEvidence(
                    SimulatedOnce.of(id, () -> BenchSimulator.run(setup).bundle()), before);
        });
    }

    private static Bundle withEvidence(Bundle bundle, List<Observation> before) {
        List<Observation> all = new ArrayList<>(before);
        Observation.Inject inject = (Observation.Inject) bundle.observations().get(0);
        all.add(new Observation.Inject(
                before.size() + 1,
                inject.net(),
                inject.ref(),
                inject.setVolts(),
                inject.limitAmps(),
                inject.volts(),
                inject.amps(),
                inject.leadOhms(),
                inject.shape(),
                inject.power()));
        return new Bundle(
                bundle.job(),
                bundle.board(),
                bundle.railInQuestion(),
                bundle.injection(),
                bundle.supplyLog(),
                bundle.captures(),
                all,
                bundle.traces());
    }

    /** Power from outside, a look at the port, the bad rail and a good one in diode mode. */
    private static List<Observation> survey(
            String bad, double badVolts, String good, double goodVolts, String at, String port) {
        return List.of(
                new Power(
                        1,
                        PowerSource.CHARGER,
                        Optional.of(port),
                        Optional.empty(),
                        Optional.of("a"),
                        Optional.of(Observation.BatteryState.OUT),
                        OptionalDouble.of(5.08),
                        OptionalDouble.of(1.94),
                        Observation.DeviceState.OFF,
                        Optional.of(Observation.TraceShape.FLAT),
                        Optional.empty()),
                new Observation.Look(2, port, LookFinding.CLEAN),
                read(3, good, goodVolts, Optional.empty()),
                read(4, bad, badVolts, Optional.of(at)));
    }

    private static Observation read(int seq, String net, double volts, Optional<String> ref) {
        return new Read(
                seq,
                ReadMode.DIODE,
                Optional.of(net),
                ref,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(volts),
                Optional.of("red-on-ground"),
                Optional.empty());
    }
}
