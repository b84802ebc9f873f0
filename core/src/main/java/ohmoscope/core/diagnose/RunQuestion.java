package ohmoscope.core.diagnose;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.circuit.PoweredTwin.Powered;
import ohmoscope.core.diagnose.Feeding.Fed;
import ohmoscope.core.evidence.Observation.RunFinding;

/**
 * A device that was seen to run: what it runs on stands. Which rails those are, the good board tells when it is fed from the
 * same charger and cell.
 */
final class RunQuestion implements Question {
    /** A device whose rails stand is seen to run, and one that lacks a rail is all the same: some rails are not needed for it. */
    private static final double STANDING_RUNS = 0.9;

    private static final double LACKING_RUNS = 0.06;
    /** Less of what the good board has there is not standing. */
    private static final double STANDS_SHARE = 0.7;

    private static final double LEAST_VOLTS = 0.5;

    private final Fed fed;
    private final List<Input> battery;
    private final BoardState state;
    private final Predictor predictor;
    private final String mainRail;

    private RunQuestion(Fed fed, List<Input> battery, BoardState state, Predictor predictor, String mainRail) {
        this.fed = fed;
        this.battery = List.copyOf(battery);
        this.state = state;
        this.predictor = predictor;
        this.mainRail = mainRail;
    }

    /** Whether a finding is one of a device that runs, whatever else it lacks. */
    static boolean runs(RunFinding finding) {
        return switch (finding) {
            case BOOTS, NO_PICTURE, FUNCTION_MISSING -> true;
            case DEAD, RESTARTS, CHARGES, SHOWS_CHARGING_ONLY, DOES_NOT_CHARGE -> false;
        };
    }

    /** Whether it says that the device does not run, and not only that it does not charge. */
    static boolean stops(RunFinding finding) {
        return finding == RunFinding.DEAD || finding == RunFinding.RESTARTS;
    }

    /** @param battery what the cell gives; empty where it is out @return empty where nobody said what it ran on */
    static Optional<RunQuestion> of(
            Fed fed, List<Input> battery, BoardState state, Predictor predictor, PowerTree tree) {
        return fed.inputs().isEmpty() && battery.isEmpty()
                ? Optional.empty()
                : Optional.of(new RunQuestion(fed, battery, state, predictor, tree.mainRail()));
    }

    private List<Input> inputs(List<Input> throughPort) {
        return Stream.concat(throughPort.stream(), battery.stream()).toList();
    }

    @Override
    public Set<String> nets() {
        return predictor.reach(inputs(fed.inputs()), state);
    }

    @Override
    public boolean underPower() {
        return true;
    }

    @Override
    public double of(List<Fault> faults) {
        Powered good = predictor.power(inputs(fed.inputs()), Map.of(), state, List.of());
        List<Input> inputs = inputs(predictor.through(fed, state, faults));
        Powered onCell = battery.isEmpty() ? good : predictor.power(battery, Map.of(), state, List.of());
        boolean stands = !inputs.isEmpty() && stands(good, onCell, predictor.power(inputs, Map.of(), state, faults));
        return Math.log(stands ? STANDING_RUNS : LACKING_RUNS);
    }

    private boolean stands(Powered good, Powered onCell, Powered powered) {
        Set<String> rails = new LinkedHashSet<>(good.running());
        rails.add(mainRail);
        return rails.stream()
                .filter(r -> good.volts(r) > LEAST_VOLTS)
                .allMatch(r -> powered.volts(r) >= STANDS_SHARE * enough(r, good, onCell));
    }

    /** A device that runs on its cell runs, whatever the port would give it. */
    private static double enough(String rail, Powered good, Powered onCell) {
        double cell = onCell.volts(rail);
        return cell > LEAST_VOLTS ? Math.min(cell, good.volts(rail)) : good.volts(rail);
    }

    @Override
    public double most() {
        return Math.log(STANDING_RUNS);
    }
}
