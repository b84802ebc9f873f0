package ohmoscope.core.board;

/** A place made for a probe. */
public record TestPoint(String ref, String net, Side side, double xMm, double yMm) {
    public TestPoint {
        Check.text("ref", ref);
        Check.text("net", net);
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
    }
}
