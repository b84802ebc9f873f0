package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.diagnose.Feeding.Fed;

/**
 * A device that was seen to charge its cell, or not to: its charger works on what the port brings, and the way from there to
 * the cell conducts, or one of these is not so.
 *
 * @param chargers the outputs of chargers that work on the good board fed like that
 * @param onTheWay parts between these and the cell
 * @param gates of those that are switches
 */
record ChargeQuestion(
        boolean charges,
        Fed fed,
        BoardState state,
        Predictor predictor,
        Set<String> chargers,
        Set<String> onTheWay,
        Set<String> gates)
        implements Question {
    /** Estimated: a charger that could may rest, as with a cell that is full or warm. */
    private static final double ABLE_CHARGES = 0.95;
    /** Estimated: a charge that is read off a screen may be none. */
    private static final double UNABLE_CHARGES = 0.03;

    ChargeQuestion {
        chargers = Set.copyOf(chargers);
        onTheWay = Set.copyOf(onTheWay);
        gates = Set.copyOf(gates);
    }

    /** @return empty where the good board, fed like that, would not charge either, as far as its data say */
    static Optional<ChargeQuestion> of(
            boolean charges, Fed fed, BoardState state, Predictor predictor, Timeline timeline) {
        BoardIndex board = timeline.board();
        Set<String> running =
                predictor.power(fed.inputs(), Map.of(), state, List.of()).running();
        Set<String> outs = board.parts().stream()
                .filter(p -> board.role(p) == Role.CHARGER)
                .flatMap(p -> p.supplies().stream())
                .map(Supply::out)
                .filter(running::contains)
                .collect(Collectors.toSet());
        Set<String> cell = timeline.tree().battery().stream()
                .flatMap(b -> board.powerNets(b).stream())
                .collect(Collectors.toSet());
        Set<String> between = board.parts().stream()
                .filter(p -> p.pins().stream().anyMatch(pin -> cell.contains(pin.net()))
                        && p.pins().stream().anyMatch(pin -> outs.contains(pin.net()) && !cell.contains(pin.net())))
                .map(Part::ref)
                .collect(Collectors.toSet());
        Set<String> gates = between.stream()
                .flatMap(ref -> board.part(ref).orElseThrow().gate().stream())
                .map(Gate::net)
                .collect(Collectors.toSet());
        return outs.isEmpty()
                ? Optional.empty()
                : Optional.of(new ChargeQuestion(charges, fed, state, predictor, outs, between, gates));
    }

    @Override
    public Set<String> nets() {
        return predictor.reach(fed.inputs(), state);
    }

    @Override
    public Optional<Set<String>> opened() {
        return Optional.empty();
    }

    @Override
    public boolean underPower() {
        return true;
    }

    @Override
    public double of(List<Fault> faults) {
        double p = able(faults) ? ABLE_CHARGES : UNABLE_CHARGES;
        return Math.log(charges ? p : 1 - p);
    }

    private boolean able(List<Fault> faults) {
        boolean cut = faults.stream()
                .anyMatch(f -> f instanceof Open && onTheWay.contains(f.target()) && predictor.present(f, state)
                        || f instanceof Inactive && gates.contains(f.target()));
        List<Input> inputs = predictor.through(fed, state, faults);
        return !cut
                && !inputs.isEmpty()
                && predictor.power(inputs, Map.of(), state, faults).running().containsAll(chargers);
    }

    @Override
    public double most() {
        return Math.log(charges ? ABLE_CHARGES : 1 - UNABLE_CHARGES);
    }
}
