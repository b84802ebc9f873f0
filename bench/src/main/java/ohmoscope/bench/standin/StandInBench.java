package ohmoscope.bench.standin;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.LiveScene;

/**
 * A whole bench on loopback: supply, meter, camera and inline meter, each a server of its own, with one board behind them;
 * and a fifth that stands for the technician's hands, who puts the probe down and takes parts off.
 */
public final class StandInBench implements AutoCloseable {
    private static final long HAND_MS = 350;

    private final StandInBoard board;
    private final LiveScene scene;
    private final StandInSupply supply;
    private final LineServer supplyServer;
    private final LineServer meterServer;
    private final LineServer hands;
    private final StandInCamera camera;
    private final StandInInline inline;

    /**
     * What lies on the bench.
     *
     * @param net where the leads are
     * @param feedRef the part on whose pad the hot lead sits
     * @param shorts ohms to ground by part reference
     * @param open parts that do not conduct
     */
    public record Laid(
            Board board,
            String net,
            String feedRef,
            Map<String, Double> shorts,
            Set<String> open,
            double leadOhms,
            Side side,
            BenchSetup.Camera camera,
            long seed) {
        /** The same board with other faults. */
        public Laid with(Map<String, Double> otherShorts, Set<String> otherOpen) {
            return new Laid(board, net, feedRef, otherShorts, otherOpen, leadOhms, side, camera, seed);
        }
    }

    /** Ports of loopback; 0 for any. */
    public record Ports(int supply, int meter, int camera, int inline, int hands) {
        public static final Ports ANY = new Ports(0, 0, 0, 0, 0);
    }

    /**
     * @param vices of the lines of supply and meter
     * @param lostEvery each so many frames does not come; 0 for never
     * @param log hears each line and answer with its time
     */
    public StandInBench(Laid laid, Mishaps mishaps, Vices vices, int lostEvery, Ports ports, Consumer<String> log) {
        LongSupplier clock = System::nanoTime;
        String faulty = laid.shorts().keySet().stream()
                .findFirst()
                .map(ref -> StandInBoard.railOf(laid.board(), ref))
                .orElse(laid.net());
        scene = new LiveScene(
                laid.board(),
                laid.shorts(),
                laid.feedRef(),
                laid.net(),
                faulty,
                new BenchSetup.View(laid.side(), Optional.empty()),
                laid.camera(),
                laid.leadOhms(),
                laid.seed());
        board = new StandInBoard(
                laid.board(),
                laid.net(),
                laid.shorts(),
                laid.open(),
                laid.leadOhms(),
                mishaps,
                Optional.of(scene),
                clock,
                laid.seed());
        supply = new StandInSupply(board);
        List<AutoCloseable> open = new ArrayList<>();
        try {
            supplyServer = kept(open, new LineServer("supply", ports.supply(), supply, vices, log));
            meterServer = kept(open, new LineServer("meter", ports.meter(), new StandInMeter(board), vices, log));
            hands = kept(open, new LineServer("hands", ports.hands(), hand(), Vices.NONE, log));
            camera = kept(open, new StandInCamera(board, scene, mishaps, lostEvery, ports.camera()));
            inline = kept(open, new StandInInline(board, ports.inline()));
        } catch (RuntimeException taken) {
            open.forEach(LineServer::quietly);
            throw taken;
        }
    }

    private static <T extends AutoCloseable> T kept(List<AutoCloseable> open, T one) {
        open.add(one);
        return one;
    }

    /** A part on whose pad the hot lead can sit, clear of the faults; any part of the net where none is clear. */
    public static String padFor(Board board, String net, Set<String> faulty) {
        Map<String, Double> suspects = faulty.stream().collect(Collectors.toMap(ref -> ref, ref -> 1.0));
        return InjectionPlaces.of(board, net, new BoardIndex(board).ground(), suspects).hot().stream()
                .map(InjectionPlaces.Place::ref)
                .findFirst()
                .or(() -> board.partsOn(net).map(Part::ref).findFirst())
                .orElseThrow(() -> new InvalidMember("net", "has no part for the lead to sit on: " + net));
    }

    /** PROBE place or across ref, LEAD ref net, REMOVED ref, FITTED ref, CHARGER in or out. */
    private Function<String, Optional<String>> hand() {
        return line -> {
            String[] words = line.split("\\s+", 2);
            String what = words.length > 1 ? words[1] : "";
            boolean done = switch (words[0].toUpperCase(Locale.ROOT)) {
                case "PROBE" -> board.probe(what);
                case "LEAD" -> lead(what);
                case "REMOVED" -> board.remove(what);
                case "FITTED" -> board.fit(what);
                case "CHARGER" -> board.charger(what.equalsIgnoreCase("in"));
                default -> false;
            };
            return Optional.of(done ? "done" : "cannot");
        };
    }

    private boolean lead(String words) {
        String[] refAndNet = words.split("\\s+");
        return refAndNet.length == 2 && board.lead(refAndNet[0], refAndNet[1]);
    }

    /** They set the hot lead on a part's pad. @return whether the part has one on this net */
    public boolean lead(String ref, String net) {
        return board.lead(ref, net);
    }

    public Ports ports() {
        return new Ports(supplyServer.port(), meterServer.port(), camera.port(), inline.port(), hands.port());
    }

    /** The hands take a part off. @return whether the board has it */
    public boolean remove(String ref) {
        return board.remove(ref);
    }

    /** They put a good one in its place. @return whether the board has such a place */
    public boolean fit(String ref) {
        return board.fit(ref);
    }

    /** They put the charger in, or take it out. @return whether there is a port for it */
    public boolean charger(boolean in) {
        return board.charger(in);
    }

    /** They lift the probe and, after a moment, put it down where it is wanted. */
    public void put(String place) {
        board.probe("");
        LineServer.daemon("hands", () -> {
                    try {
                        TimeUnit.MILLISECONDS.sleep(HAND_MS);
                        board.probe(place);
                    } catch (InterruptedException stopped) {
                        Thread.currentThread().interrupt();
                    }
                })
                .start();
    }

    /** Pairs as somebody would click them on the camera's picture. */
    public List<RegistrationPair> clickedPairs() {
        return scene.clickedPairs();
    }

    /** Whether the output is on, as the board feels it. */
    public boolean outputOn() {
        return supply.on();
    }

    /** Pulls the cables of supply and meter out for a moment; who calls again is served. */
    public void pullCables() {
        supplyServer.hangUp();
        meterServer.hangUp();
    }

    /** Likewise the camera's. */
    public void pullCamera() {
        camera.hangUp();
    }

    @Override
    public void close() {
        List.of(supplyServer, meterServer, hands, camera, inline).forEach(LineServer::quietly);
    }
}
