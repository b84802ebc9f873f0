package ohmoscope.formats.layout;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;
import ohmoscope.formats.BundleException;

/**
 * IPC-D-356 and 356A: one record a pad, with its net, reference, pin and place. Parts' middles are those of their pads,
 * as the format has none.
 */
public final class Ipc356 implements BoardFormat {
    private static final double INCH_UNIT_MM = 0.00254;
    private static final double MM_UNIT_MM = 0.001;
    private static final int LONGEST_LINE = 4_000;

    private static final Pattern RECORD = Pattern.compile("(?m)^[34][1-9]7[^\\r\\n]{14,}X[+-]?\\d");
    private static final Pattern XY = Pattern.compile("X([+-]?\\d+)Y([+-]?\\d+)");
    private static final Pattern EDGE_PLACE = Pattern.compile("(?:X([+-]?\\d+))?(?:Y([+-]?\\d+))?");
    private static final Pattern ALIAS = Pattern.compile("^P\\s+(NNAME\\S*)\\s+(\\S.*)$");
    private static final Pattern ACCESS = Pattern.compile("A(\\d\\d)\\s*X");

    @Override
    public String name() {
        return "an IPC-D-356 netlist";
    }

    @Override
    public boolean recognises(String file, String head) {
        return RECORD.matcher(head).find() || head.startsWith("P  JOB") || head.contains("IPC-D-356");
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        Reading reading = new Reading(file);
        BufferedReader lines = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
        for (String line = lines.readLine(); line != null; line = lines.readLine()) {
            reading.line(line);
        }
        return reading.draft();
    }

    /** Pads of one reference. */
    private static final class Found {
        private final List<Pad> pads = new ArrayList<>();
        private boolean top;
        private boolean bottom;
    }

    /** One file. */
    private static final class Reading {
        private final String file;
        private final Drafting draft = new Drafting();
        private final Map<String, Found> parts = new LinkedHashMap<>();
        private final Map<String, String> aliases = new HashMap<>();
        private final Edges edges = new Edges();
        private final List<PointMm> corners = new ArrayList<>();
        private double unitMm = INCH_UNIT_MM;
        private int at;
        private boolean edge;

        Reading(String file) {
            this.file = file;
        }

        void line(String line) throws IOException {
            at++;
            if (line.length() > LONGEST_LINE) {
                throw fault("is longer than " + LONGEST_LINE + " characters");
            }
            if (line.startsWith("P")) {
                parameter(line);
            } else if (line.startsWith("389")) {
                edge = line.contains("BOARD_EDGE");
                edge(line.length() > 3 ? line.substring(3) : "");
            } else if (line.startsWith("089") && edge) {
                edge(line.substring(3));
            } else if (line.matches("^3[127]7.*")) {
                pad(line);
            } else if (line.matches("^\\d{3}.*") && !line.startsWith("999")) {
                draft.unused("records " + line.substring(0, 3));
            } else if (!line.isBlank() && !line.startsWith("C") && !line.startsWith("999")) {
                draft.unused("lines that are no record");
            }
        }

        private BundleException fault(String what) {
            return new BundleException(file, "line " + at, what);
        }

        private void parameter(String line) {
            String words = line.substring(1).strip().toUpperCase(Locale.ROOT);
            if (words.startsWith("UNITS")) {
                unitMm = words.matches("UNITS\\s+(?:CUST\\s*)?1|UNITS\\s+(?:SI|MM|METRIC)") ? MM_UNIT_MM : INCH_UNIT_MM;
            } else if (words.startsWith("JOB")) {
                draft.name = line.substring(1).strip().substring(3).strip();
            } else if (words.startsWith("REV")) {
                draft.revision = line.substring(1).strip().substring(3).strip();
            }
            Matcher alias = ALIAS.matcher(line);
            if (alias.matches()) {
                aliases.put(alias.group(1), alias.group(2).strip());
            }
        }

        private static String column(String line, int from, int to) {
            return line.length() < from
                    ? ""
                    : line.substring(from - 1, Math.min(to, line.length())).strip();
        }

        private void pad(String line) throws IOException {
            String net = column(line, 4, 17);
            String ref = column(line, 21, 26);
            String rest = line.length() > 26 ? line.substring(26) : "";
            String pin = rest.startsWith("-") ? column(line, 28, 31) : "";
            Matcher xy = XY.matcher(rest);
            if (!xy.find()) {
                throw fault("record " + line.substring(0, 3)
                        + " has no place: expected X and Y with digits from column 42 on");
            }
            String named = aliases.getOrDefault(net, net);
            boolean connected = !named.isBlank() && !named.equalsIgnoreCase("N/C");
            if (connected) {
                draft.net(named);
            }
            if (ref.isBlank() || ref.equals("VIA") || pin.isBlank()) {
                draft.unused(ref.equals("VIA") ? "vias" : "pads without a reference or a pin");
                return;
            }
            double x = unitMm * Long.parseLong(bounded(xy.group(1)));
            double y = unitMm * Long.parseLong(bounded(xy.group(2)));
            Found part = parts.computeIfAbsent(ref, k -> new Found());
            Matcher access = ACCESS.matcher(rest);
            String side = access.find() ? access.group(1) : "00";
            part.top |= side.equals("01");
            part.bottom |= !side.equals("01") && !side.equals("00");
            part.pads.add(new Pad(pin, connected ? Optional.of(named) : Optional.empty(), "", x, y));
        }

        private String bounded(String digits) throws IOException {
            if (digits.length() > 10) {
                throw fault("a place has more than ten digits: " + digits);
            }
            return digits;
        }

        /** Places that follow one another; one coordinate may be left out where it stays. */
        private void edge(String line) throws IOException {
            if (!edge) {
                draft.unused("records 389");
                return;
            }
            for (String chain : line.replace("BOARD_EDGE", "").split("\\s{2,}|\\s(?=X)")) {
                List<PointMm> points = new ArrayList<>();
                double x = 0;
                double y = 0;
                for (String place : chain.strip().split("\\s+|(?<=\\d)(?=X)")) {
                    Matcher matcher = EDGE_PLACE.matcher(place);
                    if (!place.isBlank() && matcher.matches()) {
                        x = matcher.group(1) == null ? x : unitMm * Long.parseLong(bounded(matcher.group(1)));
                        y = matcher.group(2) == null ? y : unitMm * Long.parseLong(bounded(matcher.group(2)));
                        points.add(new PointMm(x, y));
                    }
                }
                corners.addAll(points);
            }
        }

        Draft draft() throws IOException {
            if (parts.isEmpty()) {
                throw fault("the file ends, and no record of it (317, 327) had a reference and a pin");
            }
            if (corners.size() > 2) {
                edges.ring(corners);
                draft.outline = edges.outline();
            }
            parts.forEach((ref, found) -> draft.part(
                    new Draft.DraftPart(ref, "", "", Optional.of(middle(found)), Optional.empty(), found.pads, true)));
            return draft.of(file);
        }

        private static Place middle(Found found) {
            PointMm middle = Drafting.middle(found.pads).orElseThrow();
            return new Place(found.bottom && !found.top ? Side.BOTTOM : Side.TOP, middle.xMm(), middle.yMm(), 0);
        }
    }
}
