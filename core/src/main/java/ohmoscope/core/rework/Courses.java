package ohmoscope.core.rework;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import ohmoscope.core.board.Part;

/**
 * How warm the part's last joint and each neighbour get under one nozzle, in time. Rises are in proportion to the air's own,
 * and what the preheater does adds to that: two runs tell of every setting.
 */
final class Courses {
    private final double stepS;
    /** {@code [sample][0]} the last joint, then the neighbours; kelvin for the air's whole rise. */
    private final List<double[]> air;
    /** The same for a kelvin of preheat, under air as cold as the room. */
    private final List<double[]> preheat;

    private Courses(double stepS, List<double[]> air, List<double[]> preheat) {
        this.stepS = stepS;
        this.air = air;
        this.preheat = preheat;
    }

    /**
     * @param seconds how long is looked
     * @param seen a neighbour's temperature as it counts against its limit, kelvin
     */
    static Courses of(
            HeatedBoard board,
            Heating.Air air,
            Part part,
            List<Part> neighbours,
            Set<String> screened,
            double seconds,
            double stepS,
            boolean withPreheat,
            BiFunction<HeatedBoard.Run, Part, Double> seen) {
        // A room at 0 °C: the air's rise is its setting.
        List<double[]> blown = course(board.heated(air, screened, 0, 0), part, neighbours, seconds, stepS, seen);
        List<double[]> kept = List.of();
        if (withPreheat) {
            // A room as hot as the air: it blows without heating.
            kept = course(board.heated(air, screened, air.jet().airC(), 1), part, neighbours, seconds, stepS, seen);
        }
        return new Courses(stepS, blown, kept);
    }

    private static List<double[]> course(
            HeatedBoard.Run run,
            Part part,
            List<Part> neighbours,
            double seconds,
            double stepS,
            BiFunction<HeatedBoard.Run, Part, Double> seen) {
        List<double[]> course = new ArrayList<>();
        while (run.seconds() < seconds) {
            run.advance(stepS);
            double[] now = new double[neighbours.size() + 1];
            now[0] = run.coolestK(part.ref());
            for (int i = 0; i < neighbours.size(); i++) {
                now[i + 1] = seen.apply(run, neighbours.get(i));
            }
            course.add(now);
        }
        return course;
    }

    int samples() {
        return air.size();
    }

    double seconds(int sample) {
        return (sample + 1) * stepS;
    }

    /**
     * Kelvin above the room.
     *
     * @param what 0 for the last joint, then the neighbours
     * @param share of the air's whole rise
     */
    double riseK(int sample, int what, double share, double preheatK) {
        double own = share * air.get(sample)[what];
        return preheatK > 0 ? own + preheatK * preheat.get(sample)[what] : own;
    }
}
