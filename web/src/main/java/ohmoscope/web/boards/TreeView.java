package ohmoscope.web.boards;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.GoodDraws;
import ohmoscope.core.evidence.GoodDraws.Phase;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.RailBox;
import ohmoscope.web.kit.RailWire;
import ohmoscope.web.kit.TreeDrawing;
import ohmoscope.web.store.BoardStore;

/**
 * A board's power tree and what it draws, to be put right by hand.
 *
 * @param before the version that this one was made from, for undo; empty for the first
 * @param after the newest version made from it, for taking an undo back
 */
record TreeView(
        long id,
        String name,
        int width,
        int height,
        List<RailBox> boxes,
        List<RailWire> wires,
        List<Made> made,
        List<Port> ports,
        Optional<Long> before,
        Optional<Long> after) {
    /** One thing that a part makes. */
    record Made(String part, String in, String out, String enable) {}

    /** A port and what a good device draws there, amperes. @param from where the figures come from */
    record Port(String ref, String what, String standby, String run, String charge, String from) {}

    static TreeView of(BoardStore.Row row, Board board, List<GoodDraws.Good> draws, List<BoardStore.Row> versions) {
        PowerTree tree = PowerTree.of(board);
        TreeDrawing drawing = TreeDrawing.of(board, tree);
        return new TreeView(
                row.id(),
                BoardNames.of(row.name(), row.revision()),
                drawing.width(),
                drawing.height(),
                drawing.boxes().stream().map(b -> box(board, b)).toList(),
                drawing.wires().stream().map(w -> RailWire.of(w, false)).toList(),
                board.parts().stream()
                        .flatMap(p -> p.supplies().stream()
                                .map(s -> new Made(
                                        p.ref(), s.in(), s.out(), s.enable().orElse(""))))
                        .toList(),
                Stream.concat(tree.inputs().stream(), tree.battery().stream())
                        .map(p -> port(p, draws))
                        .toList(),
                row.madeFrom(),
                versions.stream()
                        .filter(v -> v.madeFrom().map(from -> from == row.id()).orElse(false))
                        .map(BoardStore.Row::id)
                        .findFirst());
    }

    private static RailBox box(Board board, TreeDrawing.Box at) {
        long parts = board.partsOn(at.net()).count();
        var volts = board.net(at.net()).orElseThrow().nominalVolts();
        return new RailBox(
                at.net(),
                at.x(),
                at.y(),
                volts.isPresent() ? Eng.significant(volts.getAsDouble(), 2) + " V" : "volts not known",
                "",
                "",
                "plain",
                parts == 1 ? "1 part" : parts + " parts");
    }

    private static Port port(Part part, List<GoodDraws.Good> draws) {
        List<GoodDraws.Good> own =
                draws.stream().filter(d -> d.port().equals(part.ref())).toList();
        Optional<PortExpectation> said = part.expects();
        List<String> from = new ArrayList<>();
        if (said.isPresent()) {
            from.add("as its board says");
        }
        if (!own.isEmpty()) {
            from.add(own.size() == 1 ? "1 measured draw in its place" : own.size() + " measured draws in their place");
        }
        return new Port(
                part.ref(),
                part.value(),
                amps(own, Phase.STANDBY, said.flatMap(PortExpectation::standbyAmps)),
                amps(own, Phase.RUN, said.flatMap(PortExpectation::runAmps)),
                amps(own, Phase.CHARGE, said.flatMap(PortExpectation::chargeAmps)),
                from.isEmpty() ? "nobody has said" : String.join("; ", from));
    }

    private static String amps(List<GoodDraws.Good> own, Phase phase, Optional<Range> said) {
        return GoodDraws.range(own, phase)
                .or(() -> said)
                .map(r -> Eng.significant(r.low(), 2) + "–" + Eng.significant(r.high(), 2) + " A")
                .orElse("");
    }
}
