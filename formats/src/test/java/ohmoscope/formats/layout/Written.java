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

    /** A component layer of one side, X3, in micrometres' thousandths. */
    static String gerber(Board board, Side side) {
        StringBuilder text = new StringBuilder("G04 made up*\n%TF.GenerationSoftware,made,up*%\n");
        text.append(line(
                "%%TF.FileFunction,Component,L%d,%s*%%", side == Side.TOP ? 1 : 4, side == Side.TOP ? "Top" : "Bot"));
        text.append("%FSLAX46Y46*%\n%MOMM*%\n%TA.AperFunction,ComponentMain*%\n%ADD10C,0.3*%\n");
        text.append(
                "%TA.AperFunction,ComponentOutline,Body*%\n%ADD11C,0.1*%\n%TA.AperFunction,ComponentPin*%\n%ADD12C,0*%\n%TD*%\n");
        for (Part part : board.parts()) {
            if (part.side() != side) {
                continue;
            }
            text.append(line("%%TO.C,%s*%%%n%%TO.CRot,%s*%%", part.ref(), part.rotDeg()));
            if (!part.value().isEmpty()) {
                text.append(line("%%TO.CVal,%s*%%", part.value()));
            }
            text.append(line("D10*%nX%dY%dD03*%nD11*", nano(part.xMm()), nano(part.yMm())));
            var corners = part.corners();
            text.append(line(
                    "X%dY%dD02*",
                    nano(corners.get(0).xMm()), nano(corners.get(0).yMm())));
            for (int i = 1; i <= 4; i++) {
                text.append(line(
                        "X%dY%dD01*",
                        nano(corners.get(i % 4).xMm()), nano(corners.get(i % 4).yMm())));
            }
            text.append("D12*\n");
            for (Pin pin : part.pins()) {
                text.append(line("%%TO.P,%s,%s*%%%n%%TO.N,%s*%%", part.ref(), pin.name(), pin.net()));
                text.append(line("X%dY%dD03*", nano(pin.xMm()), nano(pin.yMm())));
            }
            text.append("%TD*%\n");
        }
        return text.append("M02*\n").toString();
    }

    private static long nano(double mm) {
        return Math.round(mm * 1e6);
    }

    /** A package of its own for each part. */
    static String ipc2581(Board board) {
        StringBuilder text =
                new StringBuilder("<?xml version=\"1.0\"?>\n<IPC-2581 revision=\"C\">\n<Bom name=\"b\">\n");
        for (Part part : board.parts()) {
            text.append(line(
                    "<BomItem><RefDes name=\"%s\" populate=\"true\"/><Characteristics><Textual textualCharacteristicName=\"Value\" textualCharacteristicValue=\"%s\"/></Characteristics></BomItem>",
                    part.ref(), part.value()));
        }
        text.append("</Bom><Ecad><CadHeader units=\"MILLIMETER\"/><CadData>");
        text.append(
                "<Layer name=\"TOP\" layerFunction=\"CONDUCTOR\" side=\"TOP\"/><Layer name=\"BOT\" layerFunction=\"CONDUCTOR\" side=\"BOTTOM\"/>\n");
        text.append(line(
                "<Stackup overallThickness=\"%s\"/><Step name=\"%s\"><Profile><Polygon>",
                board.thicknessMm(), board.name()));
        var corners = board.outline().corners();
        for (int i = 0; i <= corners.size(); i++) {
            var c = corners.get(i % corners.size());
            text.append(line("<%s x=\"%s\" y=\"%s\"/>", i == 0 ? "PolyBegin" : "PolyStepSegment", c.xMm(), c.yMm()));
        }
        text.append("</Polygon></Profile>\n");
        for (Part part : board.parts()) {
            text.append(line("<Package name=\"P_%s\"><Outline><Polygon>", part.ref()));
            text.append(line("<PolyBegin x=\"%s\" y=\"%s\"/>", -part.wMm() / 2, -part.hMm() / 2));
            text.append(
                    line("<PolyStepSegment x=\"%s\" y=\"%s\"/></Polygon></Outline>", part.wMm() / 2, part.hMm() / 2));
            double angle = Math.toRadians(part.rotDeg());
            boolean mirror = part.side() == Side.BOTTOM;
            for (Pin pin : part.pins()) {
                double dx = pin.xMm() - part.xMm();
                double dy = pin.yMm() - part.yMm();
                double u = dx * Math.cos(angle) + dy * Math.sin(angle);
                double v = dy * Math.cos(angle) - dx * Math.sin(angle);
                text.append(line(
                        "<Pin number=\"%s\" type=\"SURFACE\"><Location x=\"%.9f\" y=\"%.9f\"/></Pin>",
                        pin.name(), mirror ? -u : u, v));
            }
            text.append("</Package>\n");
            text.append(line(
                    "<Component refDes=\"%s\" packageRef=\"P_%s\" layerRef=\"%s\"><Xform rotation=\"%s\" mirror=\"%s\"/><Location x=\"%s\" y=\"%s\"/></Component>",
                    part.ref(), part.ref(), mirror ? "BOT" : "TOP", part.rotDeg(), mirror, part.xMm(), part.yMm()));
        }
        for (Net net : board.nets()) {
            text.append(line("<LogicalNet name=\"%s\">", net.name()));
            for (Part part : board.parts()) {
                part.pins().stream()
                        .filter(p -> p.net().equals(net.name()))
                        .forEach(p ->
                                text.append(line("<PinRef componentRef=\"%s\" pin=\"%s\"/>", part.ref(), p.name())));
            }
            text.append("</LogicalNet>\n");
        }
        return text.append("</Step></CadData></Ecad></IPC-2581>\n").toString();
    }

    private static String line(String format, Object... values) {
        return String.format(Locale.ROOT, format, values).replace("\r", "") + "\n";
    }
}
