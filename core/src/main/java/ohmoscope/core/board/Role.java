package ohmoscope.core.board;

/** What a part does on its rail. */
public enum Role {
    /** Power to ground. */
    BYPASS,
    /** A fuse, inductor, ferrite or sense resistor that carries a rail. */
    SERIES,
    /** A MOSFET that switches a rail. */
    PASS,
    REGULATOR,
    CHARGER,
    PORT_CONTROLLER,
    LOAD,
    CONNECTOR,
    CLAMP,
    /** Sets the gate or enable of another part. */
    DRIVE,
    OTHER
}
