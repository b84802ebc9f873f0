package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Role;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Surroundings.Channel;
import ohmoscope.core.evidence.Observation.LookFinding;

/** A part that conducts a little where it should not at all. */
final class LeakFault extends FaultKind {
    /** Of the shorts of the same part. */
    private static final double LEAKS = 0.15;

    private static final double SMALL_FET = 0.6;
    private static final double SWITCH = 0.12;
    /** A gate that was punched through leaks to its source or drain. */
    private static final double GATE = 0.3;

    private static final double WET = 1.5;

    LeakFault() {
        super(Code.LEAKY);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return switch (part.kind()) {
            case CAPACITOR ->
                around.twoNets(part)
                        .map(n -> List.of(Surroundings.bridge(
                                code, part, n[0], n[1], LEAKS * ShortFault.capacitor(around, part, n[0]), Ladder.LEAK)))
                        .orElse(List.of());
            case MOSFET, TRANSISTOR ->
                around.channel(part).map(c -> transistor(around, part, c)).orElse(List.of());
            case IC ->
                around.ground().stream()
                        .flatMap(ground -> around.board().powerNets(part).stream()
                                .map(net -> Surroundings.bridge(
                                        code, part, net, ground, LEAKS * ShortFault.rail(part, net), Ladder.LEAK)))
                        .toList();
            default -> List.of();
        };
    }

    private List<Suspicion> transistor(Surroundings around, Part part, Channel channel) {
        boolean small = around.board().role(part) != Role.PASS;
        List<Suspicion> all = new ArrayList<>();
        all.add(Surroundings.bridge(code, part, channel.a(), channel.b(), small ? SMALL_FET : SWITCH, Ladder.FET_LEAK));
        channel.gate().filter(g -> around.kind(g) == NetKind.SIGNAL).ifPresent(gate -> {
            for (String end : List.of(channel.a(), channel.b())) {
                if (!around.board().isGround(end) || small) {
                    all.add(Surroundings.bridge(
                            code, part, gate, end, small ? SMALL_FET / 6 : GATE / 2, Ladder.GATE_LEAK));
                }
            }
        });
        return all;
    }

    @Override
    double look(LookFinding finding) {
        return Harm.seldomSeen(finding);
    }

    @Override
    double said(Account account, Suspicion suspicion) {
        return account.wet() ? WET : 1;
    }

    @Override
    boolean heats() {
        return true;
    }
}
