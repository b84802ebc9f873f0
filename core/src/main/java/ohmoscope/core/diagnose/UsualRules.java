package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;

/**
 * What was wrong with others of the model is tried first, by the one reading that tells: it costs a minute, and where it is
 * not the fault the usual order goes on. Nothing is taken off for having been the fault of another board.
 */
final class UsualRules extends PlanRules {
    /** One case may be chance. */
    private static final long LEAST_CASES = 2;

    /** Below that the board itself has spoken against it. */
    private static final double LEAST_PROBABILITY = 0.01;
    /** What one in five had is not worth a minute of its own. */
    private static final double LEAST_SHARE = 0.2;

    private static final int MOST = 2;
    private static final double LEAST_GOOD_VOLTS = 0.15;

    UsualRules(Situation situation) {
        super(situation);
    }

    /** What can be tried with the power off. */
    void unpowered() {
        usual().forEach(h -> {
            switch (h.code()) {
                case SHORT, LEAKY -> rail(h).ifPresent(net -> add(Step.of(Action.READ, net, Reason.USUAL_FAULT)));
                case OPEN -> {
                    if (twoEnds(h.target()) && !readAcross(h.target())) {
                        add(Step.of(Action.READ, h.target(), Reason.USUAL_FAULT).how(Step.Probe.ACROSS));
                    }
                }
                case DAMAGED_PORT -> {
                    if (!looked(h.target())) {
                        add(Step.of(Action.LOOK, h.target(), Reason.USUAL_FAULT));
                    }
                }
                default -> {}
            }
        });
    }

    /** What needs the power on, where it was on and did no harm. */
    void underPower() {
        if (!powered()) {
            return;
        }
        usual().forEach(h -> {
            switch (h.code()) {
                case DEAD_CONTROLLER ->
                    Stream.concat(made(h.target()), fed(h.target()))
                            .filter(net -> book.powered(net).isEmpty())
                            .distinct()
                            .limit(2)
                            .forEach(net -> add(Step.of(Action.READ, net, Reason.USUAL_FAULT)
                                    .how(Step.Probe.UNDER_POWER)));
                case NO_ENABLE -> {
                    if (book.powered(h.target()).isEmpty()) {
                        add(Step.of(Action.READ, h.target(), Reason.USUAL_FAULT).how(Step.Probe.UNDER_POWER));
                    }
                }
                default -> {}
            }
        });
    }

    private List<Hypothesis> usual() {
        return experience.stream()
                .filter(t -> t.cases() >= LEAST_CASES && t.share() > LEAST_SHARE)
                .map(t -> new Hypothesis(t.code(), t.target(), diagnosis.probability(t.code(), t.target())))
                .filter(h -> h.probability() > LEAST_PROBABILITY)
                .sorted(Comparator.comparingDouble((Hypothesis h) -> -h.probability()))
                .limit(MOST)
                .toList();
    }

    /** The net that it would pull down, where nobody has read it. */
    private Optional<String> rail(Hypothesis h) {
        return diagnosis.likeliest(h.code(), h.target()).stream()
                .flatMap(v -> v.faults().stream())
                .filter(Bridge.class::isInstance)
                .map(Bridge.class::cast)
                .flatMap(b -> Stream.of(b.netA(), b.netB()))
                .filter(net -> !board.isGround(net))
                .filter(net -> book.unpowered(net).isEmpty() && tells(net))
                .filter(net -> Survey.place(board, timeline, net).isPresent())
                .findFirst();
    }

    /** A good core rail reads so low that one reading by itself only misleads. */
    private boolean tells(String net) {
        return board.net(net)
                .flatMap(Net::expect)
                .flatMap(Expectation::diodeVolts)
                .map(good -> good.low() > LEAST_GOOD_VOLTS)
                .orElse(true);
    }

    private Stream<String> made(String ref) {
        return board.part(ref).map(Part::supplies).stream()
                .flatMap(List::stream)
                .map(s -> s.out());
    }

    private Stream<String> fed(String ref) {
        return board.part(ref).stream().flatMap(p -> tree.supplies(board, p).stream());
    }
}
