package ohmoscope.core.port;

/** One pin of a port. @param name as the kind numbers it */
public record PortPin(String name, Function function) {
    /** What it carries. */
    public enum Function {
        GND,
        POWER,
        /** Tells which way round the plug is, and asks for more than the first voltage. */
        CONFIG,
        DATA,
        TX,
        RX,
        /** A line beside the data. */
        SIDE,
        IDENTITY;

        public boolean line() {
            return this != GND && this != POWER;
        }
    }
}
