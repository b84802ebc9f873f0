package ohmoscope.web.live;

/** Hands at a bench: a stand-in's do what the page asks a technician for; where a technician stands, nothing is done. */
interface Hands {
    Hands TECHNICIAN = new Hands() {};

    /** The meter's probe is wanted on a net, or a part. */
    default void probe(String place) {}

    /** The charger is wanted in, or out. */
    default void charger(boolean in) {}
}
