package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/** What good boards of a kind were read at: it fills in what the board's own data does not tell. */
public final class GoodReadings {
    /** One reading says less of what is usual than several do. */
    private static final double ALONE_SHARE = 0.12;

    private static final double AMONG_SHARE = 0.06;
    private static final double OHMS_WIDER = 2.5;

    /**
     * One reading of a good board, to ground, unpowered.
     *
     * @param value in the unit of its mode
     * @param redOnGround which lead rested on ground; in diode mode the other way round reads another junction
     * @param point the part or test point under the probe; empty when only the net was named
     * @param meter what it was read with; empty when nobody said
     */
    public record Good(
            String net,
            ReadMode mode,
            double value,
            boolean redOnGround,
            Optional<String> point,
            Optional<String> meter) {
        public Good(String net, ReadMode mode, double value) {
            this(net, mode, value, true, Optional.empty(), Optional.empty());
        }

        /** As this reading was taken. */
        private static Good of(String net, Read read) {
            return new Good(
                    net,
                    read.mode(),
                    read.value().orElseThrow(),
                    read.lead().map(l -> !l.startsWith("black")).orElse(true),
                    read.ref(),
                    Optional.empty());
        }
    }

    private GoodReadings() {}

    /**
     * What a board reads once its repair is proven: the last unpowered reading to ground of each net in each mode, taken
     * after the repair.
     *
     * @param repairSeq the entry of the repair
     */
    public static List<Good> after(Board board, List<Observation> observations, int repairSeq) {
        Map<String, Good> last = new LinkedHashMap<>();
        for (Observation observation : observations) {
            if (observation instanceof Read read
                    && read.seq() > repairSeq
                    && read.power().isEmpty()
                    && (read.mode() == ReadMode.DIODE || read.mode() == ReadMode.OHMS)
                    && read.value().isPresent()
                    && read.value().getAsDouble() >= 0) {
                ReadPoint point = ReadPoint.of(board, read);
                if (point.to().isEmpty()
                        && point.net().isPresent()
                        && !board.isGround(point.net().get())) {
                    String net = point.net().get();
                    last.put(net + " " + read.mode(), Good.of(net, read));
                }
            }
        }
        return List.copyOf(last.values());
    }

    /** The board with a range for each net that has none of its own; the same board when nothing is added. */
    public static Board onto(Board board, List<Good> readings) {
        return onto(board, readings, false);
    }

    /** @param guessed whether the board's own ranges are those of its class: what was measured then takes their place */
    public static Board onto(Board board, List<Good> readings, boolean guessed) {
        if (readings.isEmpty()) {
            return board;
        }
        Map<String, List<Good>> byNet = new HashMap<>();
        readings.forEach(
                g -> byNet.computeIfAbsent(g.net(), n -> new ArrayList<>()).add(g));
        List<Net> nets = board.nets().stream()
                .map(n -> byNet.containsKey(n.name()) ? filled(n, byNet.get(n.name()), guessed) : n)
                .toList();
        return board.withNets(nets);
    }

    private static Net filled(Net net, List<Good> readings, boolean guessed) {
        Optional<Range> ohms = first(net.expect().flatMap(Expectation::ohms), range(readings, ReadMode.OHMS), guessed);
        Optional<Range> diode =
                first(net.expect().flatMap(Expectation::diodeVolts), range(readings, ReadMode.DIODE), guessed);
        return new Net(net.name(), net.kind(), net.nominalVolts(), Optional.of(new Expectation(ohms, diode)));
    }

    private static Optional<Range> first(Optional<Range> own, Optional<Range> measured, boolean guessed) {
        return guessed ? measured.or(() -> own) : own.or(() -> measured);
    }

    private static Optional<Range> range(List<Good> readings, ReadMode mode) {
        double[] values = readings.stream()
                .filter(g -> g.mode() == mode && (mode == ReadMode.OHMS || g.redOnGround()))
                .mapToDouble(Good::value)
                .sorted()
                .toArray();
        if (values.length == 0) {
            return Optional.empty();
        }
        double share = (values.length == 1 ? ALONE_SHARE : AMONG_SHARE) * (mode == ReadMode.OHMS ? OHMS_WIDER : 1);
        return Optional.of(new Range(values[0] * (1 - share), values[values.length - 1] * (1 + share)));
    }

    /** Whether a reading can be kept as one of a good board. */
    public static Optional<Good> of(Observation.Read read, Optional<String> net) {
        OptionalDouble value = read.value();
        boolean kind = read.mode() == ReadMode.DIODE || read.mode() == ReadMode.OHMS;
        boolean toGround =
                read.across().isEmpty() && read.to().isEmpty() && read.power().isEmpty();
        return kind && toGround && value.isPresent() ? net.map(n -> Good.of(n, read)) : Optional.empty();
    }
}
