package ohmoscope.web.live;

/** Hands at a bench: a stand-in's do what the page asks a technician for; where a technician stands, nothing is done. */
interface Hands {
    Hands TECHNICIAN = new Hands() {};

    /** The hot lead is wanted on a part's pad on a net. */
    default void lead(String ref, String net) {}

    /** The meter's probe is wanted on a net, a part, or {@code across} one. */
    default void probe(String place) {}

    /** The charger is wanted in, or out. */
    default void charger(boolean in) {}
}
