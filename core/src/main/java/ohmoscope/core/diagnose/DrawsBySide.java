package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.evidence.Observation.Power;

/**
 * What a reversible port drew each way round.
 *
 * @param ports ports that were tried more than one way in the present circuit, with those of them that work one way only
 * @param because numbers of the entries
 */
record DrawsBySide(Map<String, Boolean> ports, List<Integer> because) {
    static DrawsBySide of(Timeline timeline) {
        Map<String, Map<String, Draw>> byPort = new LinkedHashMap<>();
        List<Integer> because = new ArrayList<>();
        timeline.current(Power.class).forEach(power -> {
            Optional<Draw> draw = Draw.of(timeline.board(), timeline.tree(), power);
            if (draw.isPresent() && power.orientation().isPresent()) {
                String port = power.port()
                        .orElseGet(() -> timeline.tree().inputs().stream()
                                .map(p -> p.ref())
                                .findFirst()
                                .orElse(""));
                byPort.computeIfAbsent(port, k -> new LinkedHashMap<>())
                        .put(power.orientation().get(), draw.get());
                because.add(power.seq());
            }
        });
        Map<String, Boolean> ports = new LinkedHashMap<>();
        byPort.forEach((port, draws) -> {
            if (draws.size() > 1) {
                boolean works = draws.containsValue(Draw.NORMAL);
                boolean fails = draws.values().stream().anyMatch(d -> d != Draw.NORMAL && d != Draw.UNCLEAR);
                boolean flows = draws.values().stream().anyMatch(d -> d != Draw.NONE);
                boolean nothing = draws.containsValue(Draw.NONE);
                ports.put(port, works && fails || flows && nothing);
            }
        });
        return new DrawsBySide(ports, because);
    }

    boolean oneSideOnly() {
        return ports.containsValue(true);
    }
}
