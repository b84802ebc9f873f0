package ohmoscope.web.kit;

import ohmoscope.core.prove.Joints.Joint;
import ohmoscope.core.prove.Joints.Kind;

/** What is asked of a joint, and what came of it, in words. */
public final class JointWords {
    private JointWords() {}

    /** Where the two probes go. */
    public static String where(String ref, Joint joint) {
        return joint.kind() == Kind.HOLDS
                ? ref + "." + joint.pin() + " to another place of " + joint.to()
                : ref + "." + joint.pin() + " (" + joint.net() + ") to " + joint.to();
    }

    public static String good(Joint joint) {
        return joint.kind() == Kind.HOLDS ? "beeps" : "silent";
    }

    /** Empty while nobody has asked. */
    public static String shown(Joint joint) {
        return switch (joint.state()) {
            case WANTED -> "";
            case RIGHT -> good(joint);
            case WRONG -> joint.kind() == Kind.HOLDS ? "silent: the leg does not hold" : "beeps: solder joins them";
        };
    }

    /** Why it is asked. */
    public static String why(Joint joint) {
        return joint.kind() == Kind.HOLDS
                ? "A leg that only lies on its pad works until it is knocked."
                : "Solder between two legs is a new short where the old one was.";
    }
}
