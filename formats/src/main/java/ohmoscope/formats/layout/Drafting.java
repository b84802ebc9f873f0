package ohmoscope.formats.layout;

import java.util.ArrayList;
import java.util.DoubleSummaryStatistics;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.layout.Draft;

/** A draft while its file is read. */
final class Drafting {
    String name = "";
    String revision = "";
    List<PointMm> outline = List.of();
    OptionalDouble thicknessMm = OptionalDouble.empty();
    OptionalInt copperLayers = OptionalInt.empty();
    OptionalDouble copperUm = OptionalDouble.empty();
    private final Set<String> nets = new LinkedHashSet<>();
    private final List<Draft.DraftPart> parts = new ArrayList<>();
    private final Map<String, Integer> unused = new TreeMap<>();

    void net(String net) {
        if (!net.isBlank()) {
            nets.add(net);
        }
    }

    void part(Draft.DraftPart part) {
        parts.add(part);
    }

    void unused(String what) {
        unused.merge(what, 1, Integer::sum);
    }

    /** The middle of the rectangle round some pads; empty where there are none. */
    static Optional<PointMm> middle(List<Draft.Pad> pads) {
        DoubleSummaryStatistics x = pads.stream().mapToDouble(Draft.Pad::xMm).summaryStatistics();
        DoubleSummaryStatistics y = pads.stream().mapToDouble(Draft.Pad::yMm).summaryStatistics();
        return pads.isEmpty()
                ? Optional.empty()
                : Optional.of(new PointMm((x.getMin() + x.getMax()) / 2, (y.getMin() + y.getMax()) / 2));
    }

    Draft of(String file) {
        return new Draft(
                file, name, revision, outline, thicknessMm, copperLayers, copperUm, List.copyOf(nets), parts, unused);
    }
}
