package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Draft.Body;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;
import ohmoscope.formats.BundleException;

/**
 * One layer of a Gerber set that says what it shows: a component layer (X3: places, bodies, pins, values), a copper layer
 * with pin and net attributes (X2), or the profile. Plain artwork without attributes holds no parts.
 */
public final class GerberLayer implements BoardFormat {
    private static final int LONGEST_COMMAND = 1 << 16;
    private static final Pattern COORDINATE = Pattern.compile("([XYIJ])([+-]?\\d{1,12})");
    private static final Pattern FORMAT = Pattern.compile("FS[LTD]?[AI]X(\\d)(\\d)Y(\\d)(\\d)");
    private static final Pattern ESCAPE = Pattern.compile("\\\\u([0-9A-Fa-f]{4})");
    private static final Pattern SELECT = Pattern.compile("(?:G54)?D(?!0[123]$)(\\d{2,9})");
    private static final Pattern APERTURE = Pattern.compile("ADD(\\d{1,9}).*");

    @Override
    public String name() {
        return "a Gerber X2 or X3 layer with attributes";
    }

    @Override
    public boolean recognises(String file, String head) {
        return head.contains("%FS") && head.contains("%MO") || head.contains("%TF.FileFunction");
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        return new Reading(file).read(new InputStreamReader(in, StandardCharsets.UTF_8));
    }

    /** What is known of one part while its layer is read. */
    private static final class Found {
        private Optional<PointMm> main = Optional.empty();
        private double turn;
        private String value = "";
        private String packageName = "";
        private boolean fitted = true;
        private final List<Pad> pads = new ArrayList<>();
        private final List<PointMm> outline = new ArrayList<>();
    }

    /** One file. */
    private static final class Reading {
        private final String file;
        private final Drafting draft = new Drafting();
        private final Edges edges = new Edges();
        private final Map<String, String> attributes = new HashMap<>();
        private final Map<Integer, String> apertures = new HashMap<>();
        private final Map<String, Found> parts = new LinkedHashMap<>();
        private String apertureFunction = "";
        private String using = "";
        private String function = "";
        private Side side = Side.TOP;
        private double unitMm = 1;
        private int decimals = 6;
        private double xMm;
        private double yMm;
        private String draws = "G01";
        private int line = 1;

        Reading(String file) {
            this.file = file;
        }

        Draft read(Reader in) throws IOException {
            StringBuilder command = new StringBuilder();
            boolean extended = false;
            char[] buffer = new char[1 << 16];
            for (int n = in.read(buffer); n > 0; n = in.read(buffer)) {
                for (int i = 0; i < n; i++) {
                    char c = buffer[i];
                    if (c == '\n') {
                        line++;
                    } else if (c == '%') {
                        extended = !extended;
                    } else if (c == '*') {
                        command(command.toString(), extended);
                        command.setLength(0);
                    } else if (c >= ' ') {
                        if (command.length() >= LONGEST_COMMAND) {
                            throw new BundleException(file, "line " + line, "a command is longer than a layer has any");
                        }
                        command.append(c);
                    }
                }
            }
            return draft();
        }

        private void command(String text, boolean extended) {
            if (text.startsWith("G04")) {
                // Attributes may stand in remarks, for programs that do not know them.
                int at = text.indexOf("#@!");
                if (at >= 0) {
                    attribute(text.substring(at + 3).strip());
                }
            } else if (extended) {
                extended(text);
            } else {
                operation(text);
            }
        }

        private void extended(String text) {
            Matcher format = FORMAT.matcher(text);
            Matcher aperture = APERTURE.matcher(text);
            if (format.lookingAt()) {
                decimals = Integer.parseInt(format.group(2));
            } else if (text.startsWith("MO")) {
                unitMm = text.startsWith("MOIN") ? 25.4 : 1;
            } else if (aperture.matches()) {
                apertures.put(Integer.parseInt(aperture.group(1)), apertureFunction);
            } else {
                attribute(text);
            }
        }

        private void attribute(String text) {
            if (text.length() < 2 || text.charAt(0) != 'T') {
                return;
            }
            String[] fields = text.substring(2).split(",", -1);
            String name = fields[0];
            switch (text.charAt(1)) {
                case 'F' -> {
                    if (name.equals(".FileFunction") && fields.length > 1) {
                        function = fields[1];
                        boolean bottom = text.contains(",Bot");
                        side = bottom ? Side.BOTTOM : Side.TOP;
                    } else if (name.equals(".ProjectId") && fields.length > 1) {
                        draft.name = unescaped(fields[1]);
                        draft.revision = fields.length > 3 ? unescaped(fields[3]) : "";
                    }
                }
                case 'A' -> apertureFunction = name.equals(".AperFunction") ? rest(text) : apertureFunction;
                case 'O' -> object(name, rest(text));
                case 'D' -> {
                    if (name.isEmpty()) {
                        attributes.clear();
                        apertureFunction = "";
                    } else if (name.equals(".AperFunction")) {
                        apertureFunction = "";
                    } else {
                        attributes.remove(name);
                    }
                }
                default -> {}
            }
        }

        private static String rest(String text) {
            int comma = text.indexOf(',');
            return comma < 0 ? "" : text.substring(comma + 1);
        }

        /** A backslash and u with four digits stands for a character that has a meaning of its own. */
        private static String unescaped(String text) {
            return ESCAPE.matcher(text)
                    .replaceAll(m -> Matcher.quoteReplacement(String.valueOf((char) Integer.parseInt(m.group(1), 16))));
        }

        private void object(String name, String value) {
            attributes.put(name, value);
            Optional<Found> part = part();
            switch (name) {
                case ".CRot" -> part.ifPresent(p -> p.turn = number(value));
                case ".CVal" -> part.ifPresent(p -> p.value = unescaped(value));
                case ".CFtp" -> part.ifPresent(p -> p.packageName = unescaped(value));
                case ".CPgN" ->
                    part.filter(p -> p.packageName.isEmpty()).ifPresent(p -> p.packageName = unescaped(value));
                case ".CMnt" -> part.ifPresent(p -> p.fitted = !value.startsWith("Other"));
                default -> {}
            }
        }

        private static double number(String text) {
            try {
                double value = Double.parseDouble(text);
                return Double.isFinite(value) ? value : 0;
            } catch (NumberFormatException noNumber) {
                return 0;
            }
        }

        private Optional<Found> part() {
            return Optional.ofNullable(attributes.get(".C"))
                    .map(Reading::unescaped)
                    .filter(ref -> !ref.isBlank())
                    .map(ref -> parts.computeIfAbsent(ref, k -> new Found()));
        }

        private void operation(String text) {
            Matcher select = SELECT.matcher(text);
            if (select.matches()) {
                using = apertures.getOrDefault(Integer.parseInt(select.group(1)), "");
                return;
            }
            if (text.startsWith("G01") || text.startsWith("G02") || text.startsWith("G03")) {
                draws = text.substring(0, 3);
            }
            double x = xMm;
            double y = yMm;
            double i = 0;
            double j = 0;
            Matcher matcher = COORDINATE.matcher(text);
            while (matcher.find()) {
                double value = unitMm * Long.parseLong(matcher.group(2)) / Math.pow(10, decimals);
                switch (matcher.group(1)) {
                    case "X" -> x = value;
                    case "Y" -> y = value;
                    case "I" -> i = value;
                    default -> j = value;
                }
            }
            if (text.endsWith("D03")) {
                flash(new PointMm(x, y));
            } else if (text.endsWith("D01")) {
                stroke(new PointMm(xMm, yMm), new PointMm(x, y), i, j);
            }
            xMm = x;
            yMm = y;
        }

        private void flash(PointMm at) {
            if (using.startsWith("ComponentMain")) {
                part().ifPresent(p -> p.main = Optional.of(at));
            } else if (attributes.containsKey(".P")) {
                pin(at);
            } else if (function.equals("Copper")) {
                draft.unused("flashes without a pin");
            }
        }

        private void pin(PointMm at) {
            String[] fields = attributes.get(".P").split(",", -1);
            String ref = unescaped(fields[0]);
            String pin = fields.length > 1 ? unescaped(fields[1]) : "";
            if (ref.isBlank() || pin.isBlank()) {
                return;
            }
            Optional<String> net = Optional.ofNullable(attributes.get(".N"))
                    .map(n -> unescaped(n.split(",", -1)[0]))
                    .filter(n -> !n.isBlank() && !n.equals("N/C"));
            net.ifPresent(draft::net);
            List<Pad> pads = parts.computeIfAbsent(ref, k -> new Found()).pads;
            if (pads.stream().noneMatch(p -> p.name().equals(pin) && at.distanceMm(p.xMm(), p.yMm()) < 1e-3)) {
                pads.add(new Pad(pin, net, fields.length > 2 ? unescaped(fields[2]) : "", at.xMm(), at.yMm()));
            }
        }

        private void stroke(PointMm from, PointMm to, double i, double j) {
            if (function.equals("Profile")) {
                if (draws.equals("G01")) {
                    edges.line(from, to);
                } else {
                    arc(from, to, i, j);
                }
            } else if (using.startsWith("ComponentOutline") && !using.endsWith("Courtyard")) {
                part().ifPresent(p -> {
                    p.outline.add(from);
                    p.outline.add(to);
                });
            }
        }

        private void arc(PointMm from, PointMm to, double i, double j) {
            PointMm centre = new PointMm(from.xMm() + i, from.yMm() + j);
            double begin = Math.atan2(from.yMm() - centre.yMm(), from.xMm() - centre.xMm());
            double end = Math.atan2(to.yMm() - centre.yMm(), to.xMm() - centre.xMm());
            boolean left = draws.equals("G03");
            double sweep = end - begin;
            while (left && sweep <= 1e-9) {
                sweep += 2 * Math.PI;
            }
            while (!left && sweep >= -1e-9) {
                sweep -= 2 * Math.PI;
            }
            edges.arc(centre, Math.hypot(i, j), begin, sweep);
        }

        private Draft draft() throws IOException {
            draft.outline = edges.outline();
            if (function.isEmpty()) {
                throw new BundleException(
                        file,
                        "",
                        "has no attribute .FileFunction: plain artwork says nothing of parts; export it as X2 or X3");
            }
            if (parts.isEmpty() && draft.outline.isEmpty()) {
                draft.unused("layer " + function + " without parts");
            }
            parts.forEach((ref, found) -> {
                Optional<PointMm> middle = found.main.or(() -> Drafting.middle(found.pads));
                draft.part(new Draft.DraftPart(
                        ref,
                        found.value,
                        found.packageName,
                        middle.map(m -> new Place(side, m.xMm(), m.yMm(), found.turn)),
                        body(found),
                        found.pads,
                        found.fitted));
            });
            return draft.of(file);
        }

        private static Optional<Body> body(Found found) {
            if (found.outline.isEmpty()) {
                return Optional.empty();
            }
            double angle = Math.toRadians(found.turn);
            double[] u = found.outline.stream()
                    .mapToDouble(p -> p.xMm() * Math.cos(angle) + p.yMm() * Math.sin(angle))
                    .toArray();
            double[] v = found.outline.stream()
                    .mapToDouble(p -> p.yMm() * Math.cos(angle) - p.xMm() * Math.sin(angle))
                    .toArray();
            double w = spread(u);
            double h = spread(v);
            return w > 0 && h > 0 ? Optional.of(new Body(w, h)) : Optional.empty();
        }

        private static double spread(double[] values) {
            return java.util.Arrays.stream(values).max().orElse(0)
                    - java.util.Arrays.stream(values).min().orElse(0);
        }
    }
}
