package ohmoscope.core.diagnose;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Thresholds;

/** Everything on a shorted rail reads short; where several parts of one were read, the lowest is nearest to the short. */
final class Lowest {
    /** What a firm probe's contact still adds or takes, ohms, and the meter's own share. */
    private static final double CONTACT_OHMS = 0.1;

    private static final double METER_SHARE = 0.15;

    private Lowest() {}

    /**
     * The part that stands out as the lowest of those that were read on a net, in ohms, as the board is now.
     *
     * @return its reference; empty where fewer than two were read, or two are as low
     */
    static Optional<String> on(String net, Timeline timeline) {
        Map<String, Double> ohms = new LinkedHashMap<>();
        timeline.current(Read.class)
                .filter(r -> r.mode() == ReadMode.OHMS
                        && r.power().isEmpty()
                        && r.across().isEmpty()
                        && r.to().map(timeline.board()::isGround).orElse(true)
                        && r.value().isPresent()
                        && timeline.netOf(r).map(net::equals).orElse(false))
                .forEach(r -> r.ref()
                        .filter(ref -> timeline.board().part(ref).isPresent())
                        .ifPresent(ref -> ohms.put(ref, r.value().getAsDouble())));
        List<Map.Entry<String, Double>> rising =
                ohms.entrySet().stream().sorted(Map.Entry.comparingByValue()).toList();
        if (rising.size() < 2) {
            return Optional.empty();
        }
        double lowest = rising.get(0).getValue();
        double next = rising.get(1).getValue();
        boolean standsOut = next - lowest > Math.max(CONTACT_OHMS, METER_SHARE * lowest);
        return standsOut && lowest < Thresholds.LOW_OHMS
                ? Optional.of(rising.get(0).getKey())
                : Optional.empty();
    }
}
