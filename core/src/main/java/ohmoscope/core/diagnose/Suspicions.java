package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/** Every fault a board may come in with, of every {@link FaultKind}, and those of parts that were put in. */
final class Suspicions {
    /** One new part in some is no better than the old one, or not well soldered. */
    private static final double AS_FITTED = 0.12;

    private Suspicions() {}

    static List<Suspicion> of(BoardIndex board, PowerTree tree) {
        Surroundings around = Surroundings.of(board, tree);
        List<Suspicion> all = new ArrayList<>();
        board.parts().forEach(part -> FaultKind.ALL.forEach(kind -> all.addAll(kind.of(around, part))));
        FaultKind.ALL.forEach(kind -> all.addAll(kind.of(around)));
        return all;
    }

    /**
     * A part that was put in: a dud, joints that do not hold, solder between its pins.
     *
     * @param down nets that read low at some time: the part that was there before may have shorted those of its own
     */
    static List<Suspicion> asFitted(BoardIndex board, PowerTree tree, Part part, Set<String> down) {
        List<Fault> before = new ArrayList<>();
        part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> down.contains(n) && !board.isGround(n) && board.isGround(board.ground()))
                .forEach(n -> {
                    for (int i = 0; i < Ladder.CHIP.size(); i++) {
                        before.add(new Bridge(part.ref(), n, board.ground(), Ladder.CHIP.ohms(i)));
                    }
                });
        return asFitted(board, tree, part).stream()
                .map(s -> new Suspicion(s.code(), s.target(), s.prior(), beside(s.variants(), before)))
                .toList();
    }

    /** Each form by itself, and after each fault of the part that was there before. */
    private static List<Variant> beside(List<Variant> fitted, List<Fault> before) {
        List<Variant> all = new ArrayList<>();
        for (Variant variant : fitted) {
            double share = variant.weight() / (before.size() + 1);
            all.add(new Variant(variant.faults(), share));
            for (Fault fault : before) {
                List<Fault> both = new ArrayList<>(variant.faults());
                both.add(fault);
                all.add(new Variant(both, share));
            }
        }
        return all;
    }

    private static List<Suspicion> asFitted(BoardIndex board, PowerTree tree, Part part) {
        List<Suspicion> all = new ArrayList<>();
        List<String> nets = part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> !board.isGround(n))
                .toList();
        boolean port = tree.isInput(part.ref());
        if (board.isGround(board.ground())) {
            List<Variant> bridges = new ArrayList<>();
            for (String net : nets) {
                for (int i = 0; i < Ladder.CHIP.size(); i++) {
                    bridges.add(new Variant(
                            List.of(new Bridge(part.ref(), net, board.ground(), Ladder.CHIP.ohms(i), true)),
                            Ladder.CHIP.weight(i) / nets.size()));
                }
            }
            if (!bridges.isEmpty()) {
                all.add(new Suspicion(port ? Code.DAMAGED_PORT : Code.SHORT, part.ref(), AS_FITTED, bridges));
            }
        }
        if (part.pairedWith().isPresent()) {
            all.add(PairFault.asFitted(part));
        }
        switch (part.kind()) {
            case IC ->
                all.add(new Suspicion(
                        Code.DEAD_CONTROLLER,
                        part.ref(),
                        AS_FITTED,
                        List.of(new Variant(List.of(new Dead(part.ref(), true)), 1))));
            case CAPACITOR -> {}
            default ->
                all.add(new Suspicion(
                        port ? Code.DAMAGED_PORT : Code.OPEN,
                        part.ref(),
                        AS_FITTED,
                        List.of(new Variant(List.of(new Open(part.ref(), Open.NOTHING_OHMS, true)), 1))));
        }
        return all;
    }
}
