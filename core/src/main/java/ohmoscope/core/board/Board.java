package ohmoscope.core.board;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A board as its file describes it. References are unique over parts and test points; every net that a pin, supply,
 * gate or test point names exists.
 *
 * <p>Lookups walk the lists: O(parts). Code that looks up in a loop keeps a map of its own.
 */
public record Board(
        String name,
        String revision,
        Outline outline,
        double thicknessMm,
        int copperLayers,
        double copperUm,
        List<Net> nets,
        List<Part> parts,
        List<TestPoint> testPoints,
        List<Fiducial> fiducials) {
    /** Far more than any board in a bench's hands has; what is larger is no board. */
    public static final int MOST_NETS = 20_000;

    public static final int MOST_PARTS = 20_000;
    /** Connectors stand out over a board's edge, but their middle hardly by more. */
    private static final double BESIDE_MM = 6;

    public static final int MOST_PINS = 200_000;

    public Board {
        Check.atMost("nets", nets.size(), MOST_NETS);
        Check.atMost("parts", parts.size(), MOST_PARTS);
        Check.atMost("testpoints", testPoints.size(), MOST_PARTS);
        Check.atMost("fiducials", fiducials.size(), MOST_PARTS);
        Check.atMost("pins", parts.stream().mapToInt(p -> p.pins().size()).sum(), MOST_PINS);
        Check.within("thickness_mm", thicknessMm, 0.05, 10);
        Check.within("copper_layers", copperLayers, 1, 64);
        Check.within("copper_um", copperUm, 1, 1000);
        nets = List.copyOf(nets);
        parts = List.copyOf(parts);
        testPoints = List.copyOf(testPoints);
        fiducials = List.copyOf(fiducials);
        Set<String> netNames = new HashSet<>();
        for (int i = 0; i < nets.size(); i++) {
            if (!netNames.add(nets.get(i).name())) {
                throw new InvalidMember(
                        "nets[" + i + "].name", "stands twice: " + nets.get(i).name());
            }
        }
        Set<String> refs = new HashSet<>();
        for (int i = 0; i < parts.size(); i++) {
            checkPart(parts.get(i), i, refs, netNames);
        }
        for (int i = 0; i < testPoints.size(); i++) {
            TestPoint point = testPoints.get(i);
            requireNew(refs, "testpoints[" + i + "].ref", point.ref());
            requireNet(netNames, "testpoints[" + i + "].net", point.net());
        }
    }

    public Board called(String otherName, String otherRevision) {
        return new Board(
                otherName,
                otherRevision,
                outline,
                thicknessMm,
                copperLayers,
                copperUm,
                nets,
                parts,
                testPoints,
                fiducials);
    }

    public Board withNets(List<Net> others) {
        return new Board(
                name, revision, outline, thicknessMm, copperLayers, copperUm, others, parts, testPoints, fiducials);
    }

    public Board withParts(List<Part> others) {
        return new Board(
                name, revision, outline, thicknessMm, copperLayers, copperUm, nets, others, testPoints, fiducials);
    }

    private static void checkPart(Part part, int index, Set<String> refs, Set<String> netNames) {
        String path = "parts[" + index + "] (" + part.ref() + ")";
        requireNew(refs, path + ".ref", part.ref());
        for (int p = 0; p < part.pins().size(); p++) {
            requireNet(
                    netNames, path + ".pins[" + p + "].net", part.pins().get(p).net());
        }
        for (int s = 0; s < part.supplies().size(); s++) {
            Supply supply = part.supplies().get(s);
            requireNet(netNames, path + ".supplies[" + s + "].in", supply.in());
            requireNet(netNames, path + ".supplies[" + s + "].out", supply.out());
            int at = s;
            supply.enable().ifPresent(e -> requireNet(netNames, path + ".supplies[" + at + "].enable", e));
        }
        part.gate().ifPresent(g -> requireNet(netNames, path + ".gate.net", g.net()));
    }

    private static void requireNew(Set<String> refs, String member, String ref) {
        if (!refs.add(ref)) {
            throw new InvalidMember(
                    member, "stands twice: " + ref + ". Give each part and test point its own reference");
        }
    }

    private static void requireNet(Set<String> names, String member, String net) {
        if (!names.contains(net)) {
            throw new InvalidMember(member, "names the net " + net + ", which is not in nets");
        }
    }

    public Optional<Net> net(String netName) {
        return nets.stream().filter(n -> n.name().equals(netName)).findFirst();
    }

    public Optional<Part> part(String ref) {
        return parts.stream().filter(p -> p.ref().equals(ref)).findFirst();
    }

    public Optional<TestPoint> testPoint(String ref) {
        return testPoints.stream().filter(t -> t.ref().equals(ref)).findFirst();
    }

    /**
     * Whether somebody has put the part on the board. A part that is known to be there, but not where, stands beside the
     * edge: nothing can be seen on it.
     */
    public boolean placed(Part part) {
        return part.xMm() > outline.minXMm() - BESIDE_MM
                && part.xMm() < outline.maxXMm() + BESIDE_MM
                && part.yMm() > outline.minYMm() - BESIDE_MM
                && part.yMm() < outline.maxYMm() + BESIDE_MM;
    }

    /** Parts with a pin on the net, in the file's order. */
    public Stream<Part> partsOn(String net) {
        return parts.stream().filter(p -> p.touches(net));
    }

    public boolean isGround(String netName) {
        return net(netName).map(n -> n.kind() == NetKind.GROUND).orElse(false);
    }

    /** The stated role, or the one that kind and nets imply. */
    public Role role(Part part) {
        return part.statedRole()
                .orElseGet(() -> Roles.implied(n -> net(n).orElseThrow().kind(), part));
    }
}
