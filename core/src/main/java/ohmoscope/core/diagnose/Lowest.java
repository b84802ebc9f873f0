package ohmoscope.core.diagnose;

import java.util.Collections;
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

    /** Along the copper under a current: what a hand and a meter differ by, one sigma. */
    private static final double HAND_VOLTS = 3e-4;

    private static final double LOWEST_VOLTS = 8;
    private static final double LEAST = 0.05;

    private Lowest() {}

    /**
     * What millivolts under injection say of the parts that they were read at: lowest at the short.
     *
     * @return a likelihood ratio by reference; empty where fewer than two were read on one net
     */
    static Map<String, Double> byMillivolts(Timeline timeline) {
        Map<String, Map<String, Double>> byNet = new LinkedHashMap<>();
        timeline.current(Read.class)
                .filter(r -> timeline.underInjection(r) && r.across().isEmpty())
                .forEach(r -> timeline.netOf(r)
                        .ifPresent(net -> r.ref()
                                .filter(ref -> timeline.board().part(ref).isPresent())
                                .ifPresent(ref -> byNet.computeIfAbsent(net, k -> new LinkedHashMap<>())
                                        .put(ref, r.value().getAsDouble()))));
        Map<String, Double> ratios = new LinkedHashMap<>();
        byNet.values().stream().filter(read -> read.size() > 1).forEach(read -> {
            double lowest = Collections.min(read.values());
            read.forEach((ref, volts) -> {
                double z = (volts - lowest) / HAND_VOLTS;
                ratios.put(ref, Math.max(LEAST, LOWEST_VOLTS * Math.exp(-z * z / 2)));
            });
        });
        return ratios;
    }

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
