package ohmoscope.formats.layout;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;

/** Boards written as other programs write them, so that they can be read back. */
final class Written {
    private Written() {}

    /** @param version of the format: 4 has modules and texts, from 8 on there are footprints and properties */
    static String kicad(Board board, int version) {
        StringBuilder text = new StringBuilder("(kicad_pcb (version 2024) (host made up)\n");
        text.append(line("  (general (thickness %s))", board.thicknessMm()));
        text.append(line("  (title_block (title \"%s\") (rev \"%s\"))", board.name(), board.revision()));
        text.append(
                "  (layers (0 F.Cu signal) (1 In1.Cu power) (2 In2.Cu power) (31 B.Cu signal) (44 Edge.Cuts user))\n");
        Map<String, Integer> numbers = new HashMap<>();
        text.append("  (net 0 \"\")\n");
        for (Net net : board.nets()) {
            numbers.put(net.name(), numbers.size() + 1);
            text.append(line("  (net %d \"%s\")", numbers.size(), net.name()));
        }
        var corners = board.outline().corners();
        for (int i = 0; i < corners.size(); i++) {
            var a = corners.get(i);
            var b = corners.get((i + 1) % corners.size());
            text.append(line(
                    "  (gr_line (start %s %s) (end %s %s) (layer \"Edge.Cuts\"))",
                    a.xMm(), -a.yMm(), b.xMm(), -b.yMm()));
        }
        for (Part part : board.parts()) {
            text.append(footprint(part, numbers, version));
        }
        return text.append("  (segment (start 1 1) (end 2 2) (net 1))\n  (zone (net 1) (polygon (pts (xy 0 0))))\n)\n")
                .toString();
    }

    private static String footprint(Part part, Map<String, Integer> numbers, int version) {
        String layer = part.side() == Side.TOP ? "F" : "B";
        StringBuilder text = new StringBuilder();
        text.append(
                version < 6
                        ? line(
                                "  (module %s (layer %s.Cu)",
                                part.packageName().isEmpty() ? "\"\"" : part.packageName(), layer)
                        : line("  (footprint \"lib:%s\" (layer \"%s.Cu\")", part.packageName(), layer));
        text.append(line("    (at %s %s %s)", part.xMm(), -part.yMm(), part.rotDeg()));
        text.append(
                version < 8
                        ? line(
                                "    (fp_text reference %s (at 0 0) (layer F.SilkS))%n    (fp_text value \"%s\" (at 0 0))",
                                part.ref(), part.value())
                        : line(
                                "    (property \"Reference\" \"%s\")%n    (property \"Value\" \"%s\")",
                                part.ref(), part.value()));
        text.append(line(
                "    (fp_line (start %s %s) (end %s %s) (layer \"%s.Fab\"))",
                -part.wMm() / 2, -part.hMm() / 2, part.wMm() / 2, part.hMm() / 2, layer));
        double angle = Math.toRadians(part.rotDeg());
        for (Pin pin : part.pins()) {
            double dx = pin.xMm() - part.xMm();
            double dy = pin.yMm() - part.yMm();
            double u = dx * Math.cos(angle) + dy * Math.sin(angle);
            double v = -(dy * Math.cos(angle) - dx * Math.sin(angle));
            text.append(line(
                    "    (pad \"%s\" smd rect (at %.9f %.9f %s) (size 0.5 0.5) (layers F.Cu) (net %d \"%s\"))",
                    pin.name(), u, v, part.rotDeg(), numbers.get(pin.net()), pin.net()));
        }
        return text.append("  )\n").toString();
    }

    private static String line(String format, Object... values) {
        return String.format(Locale.ROOT, format, values).replace("\r", "") + "\n";
    }
}
