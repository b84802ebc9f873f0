package ohmoscope.core.rework;

import java.util.Locale;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;

/**
 * How hot a part may get while another is worked on.
 *
 * @param celsius at its hottest place, or at its hottest joint
 * @param ofBody whether the body counts too, or only its joints
 */
public record HeatLimit(Why why, double celsius, boolean ofBody) {
    /** Why a part may not get hotter. */
    public enum Why {
        /** Marked as not to be overheated: underfill, glue, storage, a sensor. */
        SENSITIVE,
        /** Its plastic softens. */
        PLASTIC,
        /** A can of liquid or a polymer swells. */
        LIQUID,
        /** Its joints would melt, and it has too many to settle again by itself. */
        MOVES,
        /** Its joints would melt: it may be blown away, and settles again where it stands. */
        FLOATS,
        /** Its joints would melt, and it hangs upside down. */
        FALLS
    }

    private static final double SENSITIVE_C = 190;
    private static final double PLASTIC_C = 235;
    private static final double LIQUID_C = 200;
    /** A little below where the usual lead-free solder melts. */
    private static final double SOLID_C = 212;

    private static final int ENDS = 2;
    /** Surface tension holds what weighs no more than a body of this size. */
    private static final double LIGHT_MM2 = 12;

    /** @param upsideDown whether it hangs from the face that is not worked on */
    static HeatLimit of(Part part, boolean upsideDown) {
        if (part.sensitive()) {
            return new HeatLimit(Why.SENSITIVE, SENSITIVE_C, true);
        }
        if (part.kind() == PartKind.CONNECTOR || part.kind() == PartKind.SWITCH) {
            return new HeatLimit(Why.PLASTIC, PLASTIC_C, true);
        }
        String name = part.packageName().toLowerCase(Locale.ROOT);
        if (part.kind() == PartKind.CAPACITOR
                && (name.contains("elec") || name.contains("tant") || name.contains("poly"))) {
            return new HeatLimit(Why.LIQUID, LIQUID_C, true);
        }
        boolean heavy = part.wMm() * part.hMm() > LIGHT_MM2;
        if (upsideDown && heavy) {
            return new HeatLimit(Why.FALLS, SOLID_C, false);
        }
        boolean many = part.pins().size() > ENDS || heavy;
        return new HeatLimit(many ? Why.MOVES : Why.FLOATS, SOLID_C, false);
    }

    /** Whether a part's body counts, or only its joints: whichever face it is on. */
    static boolean countsBody(Part part) {
        return of(part, false).ofBody();
    }

    /** Whether a plan that goes beyond it is none that is called safe. */
    public boolean hard() {
        return why != Why.FLOATS;
    }
}
