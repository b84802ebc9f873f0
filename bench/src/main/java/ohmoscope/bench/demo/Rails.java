package ohmoscope.bench.demo;

import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Supply;
import ohmoscope.core.board.TestPoint;

/**
 * What a demo board's rails are called: boards are drafted from the same blocks, and each maker's drawing has names of its
 * own.
 *
 * @param names by the name that the draft has; what is not among them stays
 */
record Rails(Map<String, String> names) {
    /** Tarn's: what its blocks do not name themselves. */
    static final Rails TARN = new Rails(Map.of("VIN", "VBUS_S"));

    /** Beck's. */
    static final Rails BECK = new Rails(Map.ofEntries(
            Map.entry("VBUS", "VSUN"),
            Map.entry("VBUS_F", "VSUN_F"),
            Map.entry("VIN", "VSUN_S"),
            Map.entry("VBAT", "VLICELL"),
            Map.entry("V3A", "VLOG"),
            Map.entry("VCORE", "VMCU")));

    /** Furrow's. */
    static final Rails FURROW = new Rails(Map.ofEntries(
            Map.entry("VBUS", "VHITCH"),
            Map.entry("VBUS_F", "VHITCH_F"),
            Map.entry("VIN", "VHITCH_S"),
            Map.entry("VSYS", "VSEED"),
            Map.entry("V5A", "V5S"),
            Map.entry("V3A", "V3S"),
            Map.entry("VCORE", "VDSP")));

    /** Ridge's. */
    static final Rails RIDGE = new Rails(Map.ofEntries(
            Map.entry("VBUS", "VCLIP"),
            Map.entry("VBUS_F", "VCLIP_F"),
            Map.entry("VIN", "VCLIP_S"),
            Map.entry("VBAT", "VBATT"),
            Map.entry("V5A", "V5R"),
            Map.entry("V3A", "V3R"),
            Map.entry("VCORE", "VRIG")));

    /** Heron's. */
    static final Rails HERON = new Rails(Map.ofEntries(
            Map.entry("JACK", "VJACK"),
            Map.entry("VIN_F", "VJACK_F"),
            Map.entry("VMID", "VJACK_M"),
            Map.entry("VIN_S", "VJACK_S"),
            Map.entry("VMAIN", "VDECK"),
            Map.entry("CHVDD", "VCHIP"),
            Map.entry("VCELL", "VCELLS"),
            Map.entry("V5A", "V5D"),
            Map.entry("V3A", "V3D"),
            Map.entry("VCORE", "VGFX")));

    /** Otter's. */
    static final Rails OTTER = new Rails(Map.ofEntries(
            Map.entry("VBUS", "VPLUG"),
            Map.entry("VBUSF", "VPLUG_F"),
            Map.entry("VCHG", "VPLUG_S"),
            Map.entry("VSYS", "VSLATE"),
            Map.entry("VBAT", "VBAT2S"),
            Map.entry("V3AON", "V3KEEP"),
            Map.entry("V33", "V3T"),
            Map.entry("VCORE", "VTAB"),
            Map.entry("PLDO", "V3PD")));

    /** Gill's. */
    static final Rails GILL = new Rails(Map.ofEntries(Map.entry("VIN", "VDOCK_S")));

    /** Fell's. */
    static final Rails FELL = new Rails(Map.ofEntries(Map.entry("VIN", "VPORT_S")));

    private static final String ENABLES = "EN_";

    Rails {
        names = Map.copyOf(names);
    }

    /** The board with its rails called so. */
    Board of(Board draft) {
        return new Board(
                draft.name(),
                draft.revision(),
                draft.outline(),
                draft.thicknessMm(),
                draft.copperLayers(),
                draft.copperUm(),
                draft.nets().stream()
                        .map(n -> new Net(called(n.name()), n.kind(), n.nominalVolts(), n.expect()))
                        .toList(),
                draft.parts().stream().map(this::of).toList(),
                draft.testPoints().stream()
                        .map(t -> new TestPoint(t.ref(), called(t.net()), t.side(), t.xMm(), t.yMm()))
                        .toList(),
                draft.fiducials());
    }

    private Part of(Part part) {
        return PartEdit.of(part)
                .pins(part.pins().stream()
                        .map(p -> new Pin(p.name(), called(p.net()), p.xMm(), p.yMm()))
                        .toList())
                .supplies(part.supplies().stream()
                        .map(s -> new Supply(
                                called(s.in()), called(s.out()), s.enable().map(this::called), s.nominalVolts()))
                        .toList())
                .gate(part.gate().map(g -> new Gate(called(g.net()), g.onWhen())))
                .done();
    }

    /** An enable goes by the rail that it enables. */
    private String called(String net) {
        return net.startsWith(ENABLES)
                ? ENABLES + called(net.substring(ENABLES.length()))
                : Optional.ofNullable(names.get(net)).orElse(net);
    }
}
