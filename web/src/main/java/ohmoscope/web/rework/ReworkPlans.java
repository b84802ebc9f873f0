package ohmoscope.web.rework;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.rework.Kit;
import ohmoscope.core.rework.Rework;
import ohmoscope.core.rework.ReworkPlan;
import org.springframework.stereotype.Component;

/**
 * How parts come off, the newest kept: a plan takes a second to work out, and is looked at again for each of its ways.
 * Two that ask for the same at once wait for one answer.
 */
@Component
class ReworkPlans {
    private static final double ROOM_C = 23;

    /** A plan keeps its board: a megabyte for a large one. */
    private static final int KEPT = 32;

    /** Everything that a plan depends on. */
    private record Asked(Board board, Part part, Kit kit, Set<String> gone, double gain) {}

    private final Cache<Asked, ReworkPlan> plans =
            Caffeine.newBuilder().maximumSize(KEPT).build();

    /**
     * @param gone references of what is not on the board any more
     * @param gain how much more heat this bench's air passes on than the literature says
     */
    ReworkPlan of(Board board, Part part, Kit kit, Set<String> gone, double gain) {
        return plans.get(
                new Asked(board, part, kit, Set.copyOf(gone), gain),
                asked -> Rework.plan(asked.board(), asked.part(), asked.kit(), asked.gone(), ROOM_C, asked.gain()));
    }
}
