package ohmoscope.core.diagnose;

import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.circuit.PowerTree.Feed;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Power;

/** A board that does not ask for power, and does once a rail is held up from the bench: what makes that rail is at fault. */
final class Woken {
    private Woken() {}

    /** References on the way to the rail that was held; empty where nothing was woken. */
    static Set<String> of(Timeline timeline) {
        boolean ill = false;
        Optional<String> held = Optional.empty();
        Optional<String> woken = Optional.empty();
        for (Moment moment : timeline.moments()) {
            if (!(moment.observation() instanceof Power power)) {
                continue;
            }
            if (power.net().isPresent()) {
                held = power.net().filter(n -> timeline.board().net(n).isPresent());
                continue;
            }
            Draw draw = Draw.of(timeline.board(), timeline.tree(), power).orElse(Draw.UNCLEAR);
            if (draw == Draw.NORMAL && ill) {
                woken = held;
            }
            ill = draw == Draw.NO_NEGOTIATION || draw == Draw.STUCK || draw == Draw.NONE;
            held = Optional.empty();
        }
        return woken.map(net -> timeline.tree().pathTo(net).stream()
                        .map(Feed::part)
                        .map(p -> p.ref())
                        .collect(Collectors.toSet()))
                .orElse(Set.of());
    }
}
