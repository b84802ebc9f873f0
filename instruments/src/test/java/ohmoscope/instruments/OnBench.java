package ohmoscope.instruments;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.concurrent.CopyOnWriteArrayList;
import ohmoscope.bench.standin.LineServer;
import ohmoscope.bench.standin.StandInBoard;
import ohmoscope.bench.standin.StandInMeter;
import ohmoscope.bench.standin.StandInSupply;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;

/** A supply and a meter on loopback, on VMAIN of a board with a capacitor of 50 mΩ. */
final class OnBench implements AutoCloseable {
    static final double FAULT_OHMS = 0.05;
    static final double LEAD_OHMS = 0.04;
    static final Vices NONE = Vices.NONE;

    final List<String> log = new CopyOnWriteArrayList<>();
    final StandInSupply supply;
    final LineServer supplyServer;
    final LineServer meterServer;

    OnBench(Vices supplyVices, Vices meterVices, boolean shorted) {
        Board board = PowerFixtures.board();
        Map<String, Double> faults = shorted ? Map.of("C3", FAULT_OHMS) : Map.of();
        StandInBoard physics = new StandInBoard(board, "VMAIN", faults, LEAD_OHMS, 7);
        supply = new StandInSupply(physics);
        supplyServer = new LineServer("supply", 0, supply, supplyVices, log::add);
        meterServer = new LineServer("meter", 0, new StandInMeter(physics), meterVices, log::add);
    }

    OnBench() {
        this(NONE, NONE, true);
    }

    static Vices late(int millis) {
        return new Vices(millis, OptionalInt.empty(), OptionalInt.empty());
    }

    static Dialect dialect(Dialect.Kind kind) {
        return Dialects.shipped().stream()
                .filter(d -> d.kind() == kind)
                .findFirst()
                .orElseThrow();
    }

    Address supplyAddress() {
        return new Address("127.0.0.1", supplyServer.port());
    }

    Place supplyPlace() {
        return new Place.Tcp(supplyAddress());
    }

    GuardedSupply guarded(Duration limit) {
        return guarded(GuardedSupply.SILENCE, limit);
    }

    GuardedSupply guarded(Duration silence, Duration limit) {
        return new GuardedSupply(supplyPlace(), dialect(Dialect.Kind.SUPPLY), System::nanoTime, silence, limit);
    }

    Address meterAddress() {
        return new Address("127.0.0.1", meterServer.port());
    }

    ScpiSupply supply(Duration patience) {
        return new ScpiSupply(
                new LineWire(supplyPlace(), patience, Duration.ZERO), dialect(Dialect.Kind.SUPPLY), System::nanoTime);
    }

    ScpiMeter meter() {
        return new ScpiMeter(
                new LineWire(new Place.Tcp(meterAddress()), Duration.ofSeconds(5), Duration.ZERO),
                dialect(Dialect.Kind.METER),
                System::nanoTime);
    }

    @Override
    public void close() {
        supplyServer.close();
        meterServer.close();
    }
}
