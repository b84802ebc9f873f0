package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Draft.Body;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;
import ohmoscope.formats.BundleException;

/** IPC-2581: profile, packages with their pins, components, nets by pin, and what its own parts list says. */
public final class Ipc2581 implements BoardFormat {
    @Override
    public String name() {
        return "an IPC-2581 file";
    }

    @Override
    public boolean recognises(String file, String head) {
        return head.contains("<IPC-2581");
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        XMLInputFactory factory = XMLInputFactory.newFactory();
        // A file from elsewhere opens nothing and expands nothing.
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        try {
            XMLStreamReader xml = factory.createXMLStreamReader(in);
            Reading reading = new Reading(xml, file);
            while (xml.hasNext()) {
                reading.event(xml.next());
            }
            return reading.draft();
        } catch (XMLStreamException broken) {
            throw new BundleException(
                    file,
                    "line "
                            + (broken.getLocation() == null
                                    ? 1
                                    : broken.getLocation().getLineNumber()),
                    "is no XML from here on: it is cut short or damaged");
        }
    }

    /** A pin in its package's own axes. */
    private record PackagePin(String number, double xMm, double yMm) {}

    private static final class Package {
        private final List<PackagePin> pins = new ArrayList<>();
        private final List<PointMm> outline = new ArrayList<>();
    }

    private static final class Component {
        private String packageName = "";
        private String layer = "";
        private double xMm;
        private double yMm;
        private double turn;
        private boolean mirror;
    }

    /** One file. */
    private static final class Reading {
        private final XMLStreamReader xml;
        private final String file;
        private final Drafting draft = new Drafting();
        private final Map<String, Package> packages = new HashMap<>();
        private final Map<String, Component> components = new LinkedHashMap<>();
        private final Map<String, String> nets = new HashMap<>();
        private final Map<String, String> values = new HashMap<>();
        private final Map<String, Boolean> empty = new HashMap<>();
        private final Map<String, Side> sides = new HashMap<>();
        private final List<String> open = new ArrayList<>();
        private final List<PointMm> profile = new ArrayList<>();
        private double unitMm = 1;
        private int copper;
        private Optional<Package> inPackage = Optional.empty();
        private Optional<Component> inComponent = Optional.empty();
        private Optional<PackagePin> inPin = Optional.empty();
        private Optional<String> inNet = Optional.empty();
        private final List<String> inItem = new ArrayList<>();

        Reading(XMLStreamReader xml, String file) {
            this.xml = xml;
            this.file = file;
        }

        void event(int event) throws IOException {
            if (event == XMLStreamConstants.START_ELEMENT) {
                open.add(xml.getLocalName());
                start(xml.getLocalName());
            } else if (event == XMLStreamConstants.END_ELEMENT) {
                open.remove(open.size() - 1);
                end(xml.getLocalName());
            }
        }

        private String text(String attribute) {
            String value = xml.getAttributeValue(null, attribute);
            return value == null ? "" : value;
        }

        private double number(String attribute) throws IOException {
            String value = text(attribute);
            try {
                double number = value.isEmpty() ? 0 : Double.parseDouble(value);
                if (Double.isFinite(number)) {
                    return number;
                }
            } catch (NumberFormatException noNumber) {
                // Said below.
            }
            throw new BundleException(
                    file,
                    "line " + xml.getLocation().getLineNumber(),
                    attribute + " of " + xml.getLocalName() + " must be a number, was \"" + value + "\"");
        }

        private boolean in(String element) {
            return open.contains(element);
        }

        private void start(String element) throws IOException {
            switch (element) {
                case "CadHeader" ->
                    unitMm = switch (text("units")) {
                        case "INCH" -> 25.4;
                        case "MICRON" -> 0.001;
                        default -> 1.0;
                    };
                case "Step" -> draft.name = draft.name.isEmpty() ? text("name") : draft.name;
                case "Layer" -> layer();
                case "Stackup" -> {
                    double thickness = unitMm * number("overallThickness");
                    draft.thicknessMm = thickness > 0 ? OptionalDouble.of(thickness) : OptionalDouble.empty();
                }
                case "Package" -> inPackage = Optional.of(packages.computeIfAbsent(text("name"), k -> new Package()));
                case "Pin" -> inPin = inPackage.map(p -> new PackagePin(text("number"), 0, 0));
                case "Component" -> component();
                case "Xform" -> xform();
                case "Location" -> location();
                case "PolyBegin", "PolyStepSegment", "PolyStepCurve" -> corner();
                case "LogicalNet" -> inNet = Optional.of(text("name"));
                case "PinRef" -> inNet.ifPresent(n -> nets.put(text("componentRef") + "\t" + text("pin"), n));
                case "BomItem" -> inItem.clear();
                case "RefDes" -> {
                    inItem.add(text("name"));
                    empty.put(text("name"), text("populate").equalsIgnoreCase("false"));
                }
                case "Textual" -> value();
                default -> {}
            }
        }

        private void end(String element) {
            switch (element) {
                case "Package" -> inPackage = Optional.empty();
                case "Pin" -> {
                    inPackage.ifPresent(p -> inPin.ifPresent(p.pins::add));
                    inPin = Optional.empty();
                }
                case "Component" -> inComponent = Optional.empty();
                case "LogicalNet" -> inNet = Optional.empty();
                default -> {}
            }
        }

        private void layer() {
            String function = text("layerFunction");
            if (function.equals("CONDUCTOR")
                    || function.equals("SIGNAL")
                    || function.equals("PLANE")
                    || function.equals("MIXED")) {
                copper++;
            }
            sides.put(text("name"), text("side").equals("BOTTOM") ? Side.BOTTOM : Side.TOP);
        }

        private void component() {
            Component component = new Component();
            component.packageName = text("packageRef");
            component.layer = text("layerRef");
            inComponent = Optional.of(component);
            String part = text("part");
            if (!part.isEmpty()) {
                values.putIfAbsent(text("refDes"), part);
            }
            components.put(text("refDes"), component);
        }

        private void xform() throws IOException {
            double turn = number("rotation");
            boolean mirror = text("mirror").equals("true");
            inComponent.ifPresent(c -> {
                c.turn = turn;
                c.mirror = mirror;
            });
        }

        private void location() throws IOException {
            double x = unitMm * number("x");
            double y = unitMm * number("y");
            if (inPin.isPresent()) {
                inPin = inPin.map(p -> new PackagePin(p.number(), x, y));
            } else {
                inComponent.ifPresent(c -> {
                    c.xMm = x;
                    c.yMm = y;
                });
            }
        }

        private void corner() throws IOException {
            PointMm at = new PointMm(unitMm * number("x"), unitMm * number("y"));
            if (in("Profile") && !in("Cutout")) {
                profile.add(at);
            } else if (in("Outline") && inPin.isEmpty()) {
                inPackage.ifPresent(p -> p.outline.add(at));
            }
        }

        private void value() {
            String name = text("textualCharacteristicName").toLowerCase(java.util.Locale.ROOT);
            if (name.equals("value") || name.endsWith("_value") || name.equals("comment")) {
                inItem.forEach(ref -> values.put(ref, text("textualCharacteristicValue")));
            }
        }

        Draft draft() throws IOException {
            if (components.isEmpty()) {
                throw new BundleException(file, "", "holds no components (Ecad/CadData/Step/Component)");
            }
            if (profile.size() > 3 && profile.get(0).equals(profile.get(profile.size() - 1))) {
                profile.remove(profile.size() - 1);
            }
            draft.outline = profile;
            draft.copperLayers = copper > 0 ? OptionalInt.of(copper) : OptionalInt.empty();
            nets.values().forEach(draft::net);
            components.forEach(this::part);
            return draft.of(file);
        }

        private void part(String ref, Component component) {
            if (ref.isBlank()) {
                draft.unused("components without a reference");
                return;
            }
            Package type = packages.getOrDefault(component.packageName, new Package());
            double angle = Math.toRadians(component.turn);
            List<Pad> pads = new ArrayList<>();
            for (PackagePin pin : type.pins) {
                if (pin.number().isBlank()) {
                    continue;
                }
                double x = component.mirror ? -pin.xMm() : pin.xMm();
                pads.add(new Pad(
                        pin.number(),
                        Optional.ofNullable(nets.get(ref + "\t" + pin.number())).filter(n -> !n.isBlank()),
                        "",
                        component.xMm + x * Math.cos(angle) - pin.yMm() * Math.sin(angle),
                        component.yMm + x * Math.sin(angle) + pin.yMm() * Math.cos(angle)));
            }
            Side side = component.mirror || sides.getOrDefault(component.layer, Side.TOP) == Side.BOTTOM
                    ? Side.BOTTOM
                    : Side.TOP;
            draft.part(new Draft.DraftPart(
                    ref,
                    values.getOrDefault(ref, ""),
                    component.packageName,
                    Optional.of(new Place(side, component.xMm, component.yMm, component.turn)),
                    body(type),
                    pads,
                    !empty.getOrDefault(ref, false)));
        }

        private static Optional<Body> body(Package type) {
            if (type.outline.isEmpty()) {
                return Optional.empty();
            }
            double w = type.outline.stream().mapToDouble(PointMm::xMm).max().orElse(0)
                    - type.outline.stream().mapToDouble(PointMm::xMm).min().orElse(0);
            double h = type.outline.stream().mapToDouble(PointMm::yMm).max().orElse(0)
                    - type.outline.stream().mapToDouble(PointMm::yMm).min().orElse(0);
            return w > 0 && h > 0 ? Optional.of(new Body(w, h)) : Optional.empty();
        }
    }
}
