package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;

/** What good devices of a kind drew at their ports: it takes the place of what is usual for the class. */
public final class GoodDraws {
    /** One device says less of what is usual than several do. */
    private static final double ALONE_SHARE = 0.4;

    private static final double AMONG_SHARE = 0.2;
    /** A meter's last digit: a device that sleeps at 1 mA may as well sleep at 6. */
    private static final double LEAST_SLACK_AMPS = 0.005;

    private GoodDraws() {}

    /** What the device does meanwhile. */
    public enum Phase {
        STANDBY,
        RUN,
        CHARGE
    }

    /** One draw of a good device. @param port the connector's reference */
    public record Good(String port, Phase phase, double amps) {
        public Good {
            Check.text("port", port);
            Check.finite("amps", amps);
        }
    }

    /**
     * What a device drew once its repair was proven: the last of each port and phase. A battery in and a device that is then
     * said to charge make it a charge; told to start, a run; else it stands by.
     *
     * @param repairSeq the entry of the repair
     * @param ports connectors that power comes in by; the first is meant where an entry names none
     */
    public static List<Good> after(List<String> ports, List<Observation> observations, int repairSeq) {
        Map<String, Good> last = new LinkedHashMap<>();
        for (int i = 0; i < observations.size(); i++) {
            if (observations.get(i) instanceof Power power
                    && power.seq() > repairSeq
                    && power.net().isEmpty()
                    && power.amps().isPresent()
                    && power.amps().getAsDouble() >= 0
                    && power.shape().map(s -> s == TraceShape.FLAT).orElse(true)) {
                Optional<String> port = power.port().or(() -> ports.stream().findFirst());
                Phase phase = phase(power, observations.subList(i + 1, observations.size()));
                port.filter(ports::contains)
                        .ifPresent(ref -> last.put(
                                ref + " " + phase,
                                new Good(ref, phase, power.amps().getAsDouble())));
            }
        }
        return List.copyOf(last.values());
    }

    private static Phase phase(Power power, List<Observation> later) {
        boolean in = power.battery().map(b -> b == BatteryState.IN).orElse(false);
        boolean charges = later.stream()
                .takeWhile(o -> !(o instanceof Power))
                .anyMatch(o -> o instanceof Run run && run.finding() == RunFinding.CHARGES);
        return in && charges ? Phase.CHARGE : power.state() == DeviceState.ON ? Phase.RUN : Phase.STANDBY;
    }

    /** The board with what was measured in the place of what its ports were said to draw; the same board when nothing was. */
    public static Board onto(Board board, List<Good> draws) {
        if (draws.isEmpty()) {
            return board;
        }
        Map<String, List<Good>> byPort = draws.stream().collect(Collectors.groupingBy(Good::port));
        List<Part> parts = new ArrayList<>();
        for (Part part : board.parts()) {
            List<Good> own = byPort.getOrDefault(part.ref(), List.of());
            parts.add(
                    own.isEmpty()
                            ? part
                            : PartEdit.of(part)
                                    .expects(Optional.of(measured(part, own)))
                                    .done());
        }
        return board.withParts(parts);
    }

    private static PortExpectation measured(Part part, List<Good> draws) {
        Optional<PortExpectation> said = part.expects();
        return new PortExpectation(
                said.flatMap(PortExpectation::volts),
                range(draws, Phase.STANDBY).or(() -> said.flatMap(PortExpectation::standbyAmps)),
                range(draws, Phase.RUN).or(() -> said.flatMap(PortExpectation::runAmps)),
                range(draws, Phase.CHARGE).or(() -> said.flatMap(PortExpectation::chargeAmps)),
                said.map(PortExpectation::reversible).orElse(false));
    }

    /** From the least to the most of them, with room for the next one. */
    public static Optional<Range> range(List<Good> draws, Phase phase) {
        double[] amps = draws.stream()
                .filter(d -> d.phase() == phase)
                .mapToDouble(Good::amps)
                .sorted()
                .toArray();
        if (amps.length == 0) {
            return Optional.empty();
        }
        double share = amps.length == 1 ? ALONE_SHARE : AMONG_SHARE;
        double least = amps[0];
        double most = amps[amps.length - 1];
        return Optional.of(new Range(
                Math.max(0, least - Math.max(share * least, LEAST_SLACK_AMPS)),
                most + Math.max(share * most, LEAST_SLACK_AMPS)));
    }
}
