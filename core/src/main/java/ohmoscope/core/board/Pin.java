package ohmoscope.core.board;

/** One pad of a part, at its place on the board. */
public record Pin(String name, String net, double xMm, double yMm) {
    public Pin {
        Check.text("name", name);
        Check.text("net", net);
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
    }
}
