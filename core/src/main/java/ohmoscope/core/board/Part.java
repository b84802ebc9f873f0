package ohmoscope.core.board;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;

/**
 * One part as placed.
 *
 * @param ref reference, unique on the board
 * @param statedRole the role the board's file gives; {@link Board#role} works it out where this is empty
 * @param value as printed in the parts list, empty when unknown
 * @param packageName the package's common name, empty when unknown
 * @param xMm centre of the body, board axes
 * @param rotDeg counter-clockwise seen from the top
 * @param wMm body width before rotation
 * @param hMm body height before rotation
 * @param resistanceOhms DC resistance of a series or pass part when on
 * @param sensitive must not be overheated when a neighbour is reworked
 * @param pairedWith the part without which this one does not work
 */
public record Part(
        String ref,
        PartKind kind,
        Optional<Role> statedRole,
        String value,
        OptionalDouble voltsRated,
        String packageName,
        Side side,
        double xMm,
        double yMm,
        double rotDeg,
        double wMm,
        double hMm,
        OptionalDouble heightMm,
        List<Pin> pins,
        OptionalDouble resistanceOhms,
        boolean sensitive,
        List<Supply> supplies,
        Optional<Gate> gate,
        Optional<PortExpectation> expects,
        Optional<String> pairedWith,
        Optional<Storey> storey) {
    /** A little more than one, so that rounding leaves no corner out. */
    private static final double CIRCLE = 1 + 1e-9;

    public Part {
        Check.text("ref", ref);
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
        Check.finite("rot_deg", rotDeg);
        Check.positive("w_mm", wMm);
        Check.positive("h_mm", hMm);
        Check.within("w_mm", wMm, 0, 500);
        Check.within("h_mm", hMm, 0, 500);
        Check.positive("volts_rated", voltsRated);
        Check.positive("height_mm", heightMm);
        resistanceOhms.ifPresent(r -> Check.notNegative("resistance", r));
        pins = List.copyOf(pins);
        supplies = List.copyOf(supplies);
    }

    /** A part with the members that every part has; the rest empty. */
    public static Part of(
            String ref, PartKind kind, Side side, double xMm, double yMm, double wMm, double hMm, List<Pin> pins) {
        return new Part(
                ref,
                kind,
                Optional.empty(),
                "",
                OptionalDouble.empty(),
                "",
                side,
                xMm,
                yMm,
                0,
                wMm,
                hMm,
                OptionalDouble.empty(),
                pins,
                OptionalDouble.empty(),
                false,
                List.of(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /**
     * The net that a probe on this part meets: its named pin's, else its first power net, else its first net that is not
     * ground.
     *
     * @param kind what a net is, by its name
     */
    public Optional<String> probed(Optional<String> pin, Function<String, NetKind> kind) {
        return pins.stream()
                .filter(p -> pin.map(p.name()::equals).orElse(false))
                .map(Pin::net)
                .findFirst()
                .or(() -> first(kind, NetKind.POWER))
                .or(() -> first(kind, NetKind.SIGNAL));
    }

    private Optional<String> first(Function<String, NetKind> kind, NetKind wanted) {
        return pins.stream().map(Pin::net).filter(n -> kind.apply(n) == wanted).findFirst();
    }

    public boolean touches(String net) {
        for (Pin pin : pins) {
            if (pin.net().equals(net)) {
                return true;
            }
        }
        return false;
    }

    /** The body's four corners, once round. */
    public List<PointMm> corners() {
        double angle = Math.toRadians(rotDeg);
        List<PointMm> corners = new ArrayList<>();
        for (double[] c : new double[][] {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}) {
            double along = c[0] * wMm / 2;
            double across = c[1] * hMm / 2;
            corners.add(new PointMm(
                    xMm + along * Math.cos(angle) - across * Math.sin(angle),
                    yMm + along * Math.sin(angle) + across * Math.cos(angle)));
        }
        return corners;
    }

    /** Whether the place lies on the body, grown by {@code marginMm} all round. */
    public boolean covers(double placeXMm, double placeYMm, double marginMm) {
        double dx = placeXMm - xMm;
        double dy = placeYMm - yMm;
        double halfW = wMm / 2 + marginMm;
        double halfH = hMm / 2 + marginMm;
        // Beyond the corners' circle: most places are, and need no sine.
        if (dx * dx + dy * dy > CIRCLE * (halfW * halfW + halfH * halfH)) {
            return false;
        }
        return Math.abs(alongMm(placeXMm, placeYMm)) <= halfW && Math.abs(acrossMm(placeXMm, placeYMm)) <= halfH;
    }

    /** How far a place is from the body's rim, millimetres; 0 on it. */
    public double besideMm(double placeXMm, double placeYMm) {
        return Math.hypot(
                Math.max(0, Math.abs(alongMm(placeXMm, placeYMm)) - wMm / 2),
                Math.max(0, Math.abs(acrossMm(placeXMm, placeYMm)) - hMm / 2));
    }

    /** How far a place lies from the middle along the body's width, as it is turned. */
    public double alongMm(double placeXMm, double placeYMm) {
        double angle = Math.toRadians(rotDeg);
        return (placeXMm - xMm) * Math.cos(angle) + (placeYMm - yMm) * Math.sin(angle);
    }

    /** The same along its height on the board. */
    public double acrossMm(double placeXMm, double placeYMm) {
        double angle = Math.toRadians(rotDeg);
        return (placeYMm - yMm) * Math.cos(angle) - (placeXMm - xMm) * Math.sin(angle);
    }
}
