package ohmoscope.core.board;

/** What sort of part it is. */
public enum PartKind {
    CAPACITOR,
    RESISTOR,
    INDUCTOR,
    FERRITE,
    DIODE,
    TVS,
    TRANSISTOR,
    MOSFET,
    FUSE,
    IC,
    CONNECTOR,
    SHIELD,
    CRYSTAL,
    SWITCH,
    OTHER
}
