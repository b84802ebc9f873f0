package ohmoscope.bench.standin;

import java.util.List;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.Twin;

/**
 * The board on the bench: the supply's leads on one net and ground, the meter's on the same net. One for all instruments,
 * and safe for their threads.
 */
public final class StandInBoard {
    private static final double NOISE_SHARE = 0.002;
    private static final double OVER_RANGE_OHMS = 40e6;
    private static final double OVER_RANGE_DIODE_VOLTS = 2.9;

    private final Twin twin;
    private final String net;
    private final String ground;
    private final List<Fault> faults;
    private final double leadOhms;
    private final Random random;
    private Setting setting = new Setting(0, 1e-3, false);
    private Twin.Injected flowing = new Twin.Injected(0, 0);

    /** What the supply's terminals are driven with. */
    private record Setting(double volts, double limitAmps, boolean on) {}

    /**
     * @param net where the leads are
     * @param leadOhms both supply leads, above 0
     * @throws InvalidMember where the board does not have the net
     */
    public StandInBoard(Board board, String net, List<Fault> faults, double leadOhms, long seed) {
        if (board.net(net).map(n -> n.kind() == NetKind.GROUND).orElse(true)) {
            throw new InvalidMember("net", "must be a net of the board that is not ground, was " + net);
        }
        this.twin = new Twin(board);
        this.net = net;
        this.ground = ground(board);
        this.faults = List.copyOf(faults);
        this.leadOhms = leadOhms;
        this.random = new Random(seed);
    }

    /** A short from a part's power net to ground. @throws InvalidMember where a part is not on the board, or has none */
    public static Fault shorted(Board board, String ref, double ohms) {
        var part = board.part(ref)
                .orElseThrow(() -> new InvalidMember("fault", "names " + ref + ", which this board does not have"));
        String power = part.pins().stream()
                .map(p -> p.net())
                .filter(n -> board.net(n).map(x -> x.kind() == NetKind.POWER).orElse(false))
                .findFirst()
                .orElseThrow(() -> new InvalidMember("fault", "names " + ref + ", which is on no power net"));
        return new Fault.Bridge(ref, power, ground(board), ohms);
    }

    private static String ground(Board board) {
        return board.nets().stream()
                .filter(n -> n.kind() == NetKind.GROUND)
                .findFirst()
                .orElseThrow(() -> new InvalidMember("board", "has no ground"))
                .name();
    }

    /** Drives the terminals. @return volts and amperes at them */
    synchronized Twin.Injected drive(double volts, double limitAmps, boolean on) {
        Setting now = new Setting(volts, limitAmps, on);
        if (!now.equals(setting)) {
            setting = now;
            flowing = on && volts > 0
                    ? twin.inject(net, volts, limitAmps, leadOhms, BoardState.WHOLE, faults)
                    : new Twin.Injected(0, 0);
        }
        return flowing;
    }

    /** What a display shows of it. */
    synchronized double noisy(double value, double least) {
        return value + random.nextGaussian() * Math.max(least, NOISE_SHARE * Math.abs(value));
    }

    /** Volts at the meter's leads: the board's end of the supply's. */
    synchronized double volts() {
        return setting.on() ? noisy(Math.max(0, flowing.volts() - flowing.amps() * leadOhms), 2e-4) : noisy(0, 2e-4);
    }

    /** Unpowered; a board that is fed gives nonsense, as it does. Empty for over-range. */
    synchronized OptionalDouble read(Meter.Mode mode) {
        if (setting.on()) {
            return OptionalDouble.of(Math.abs(noisy(mode == Meter.Mode.OHMS ? 1e3 : 0.5, 0.2)));
        }
        Band band = twin.read(new Meter(mode, net, ground, true), BoardState.WHOLE, faults);
        double middle = band.middle();
        double most = mode == Meter.Mode.OHMS ? OVER_RANGE_OHMS : OVER_RANGE_DIODE_VOLTS;
        return Double.isFinite(middle) && middle < most
                ? OptionalDouble.of(Math.max(0, noisy(middle, mode == Meter.Mode.OHMS ? 0.003 : 2e-4)))
                : OptionalDouble.empty();
    }
}
