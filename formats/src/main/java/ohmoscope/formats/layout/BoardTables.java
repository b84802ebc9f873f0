package ohmoscope.formats.layout;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.TestPoint;
import org.apache.commons.csv.CSVFormat;

/** A board as others read it: centroid table and netlist with places. */
public final class BoardTables {
    private static final int NET_COLUMNS = 14;

    private BoardTables() {}

    /** Millimetres and degrees in board axes, one line a part. */
    public static String centroid(Board board) {
        StringBuilder text = new StringBuilder("Ref,Val,Package,PosX (mm),PosY (mm),Rot,Side\n");
        for (Part part : board.parts()) {
            text.append(CSVFormat.DEFAULT.format(
                            part.ref(),
                            part.value(),
                            part.packageName(),
                            decimal(part.xMm()),
                            decimal(part.yMm()),
                            decimal(part.rotDeg()),
                            part.side() == Side.TOP ? "top" : "bottom"))
                    .append('\n');
        }
        return text.toString();
    }

    private static String decimal(double value) {
        return String.format(Locale.ROOT, "%.4f", value);
    }

    /** IPC-D-356A in micrometres; nets with names that are too long stand under an alias. */
    public static String ipc356(Board board) {
        StringBuilder text = new StringBuilder("P  JOB   " + board.name().replaceAll("\\s+", " ") + "\n");
        text.append("P  UNITS CUST 1\n");
        Map<String, String> names = new HashMap<>();
        int longNames = 0;
        for (ohmoscope.core.board.Net net : board.nets()) {
            if (net.name().length() > NET_COLUMNS || net.name().contains(" ")) {
                String alias = "NNAME" + ++longNames;
                names.put(net.name(), alias);
                text.append("P  ").append(alias).append("  ").append(net.name()).append('\n');
            }
        }
        for (Part part : board.parts()) {
            for (Pin pin : part.pins()) {
                record(text, names, pin.net(), part.ref(), pin.name(), part.side(), pin.xMm(), pin.yMm());
            }
        }
        for (TestPoint point : board.testPoints()) {
            record(text, names, point.net(), point.ref(), "1", point.side(), point.xMm(), point.yMm());
        }
        return text.append("999\n").toString();
    }

    private static void record(
            StringBuilder text,
            Map<String, String> names,
            String net,
            String ref,
            String pin,
            Side side,
            double xMm,
            double yMm) {
        text.append(String.format(
                        Locale.ROOT,
                        "327%-14.14s   %-6.6s-%-4.4s             A%02d X%s Y%s X%04dY%04dR000 S0%n",
                        names.getOrDefault(net, net),
                        ref,
                        pin,
                        side == Side.TOP ? 1 : 2,
                        micrometres(xMm),
                        micrometres(yMm),
                        0,
                        0)
                .replace(" X", "X")
                .replace(" Y", "Y")
                .replace("\r", ""));
    }

    private static String micrometres(double mm) {
        return String.format(Locale.ROOT, "%+07d", Math.round(mm * 1000));
    }
}
