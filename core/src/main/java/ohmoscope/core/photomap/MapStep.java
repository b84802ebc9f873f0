package ohmoscope.core.photomap;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;

/** One step of somebody who maps a board; {@link PhotoMap#then} takes it. */
public sealed interface MapStep {
    /** A photograph is laid over a side. @param photo which, as its keeper counts them */
    record Square(Side side, long photo, Squared squared) implements MapStep {}

    /**
     * Two holes seen from both sides: the bottom's map is turned and shifted until they lie over each other.
     *
     * @param top the two holes on the top's map
     * @param bottom the same two on the bottom's
     */
    record Align(List<PointMm> top, List<PointMm> bottom) implements MapStep {
        public Align {
            top = List.copyOf(top);
            bottom = List.copyOf(bottom);
            if (top.size() != 2 || bottom.size() != 2) {
                throw new InvalidMember("holes", "must be two on each side");
            }
        }
    }

    /**
     * A part at its place: a new one, or one that the board knows and nobody had placed.
     *
     * @param ref empty for the next free one of its kind
     * @param packageName the package's common name, empty when unknown
     * @param net of a new part's first pin, empty when nobody knows yet
     * @param other of its second
     */
    record Put(
            Side side,
            String ref,
            PartKind kind,
            String packageName,
            PointMm at,
            double wMm,
            double hMm,
            double rotDeg,
            String net,
            String other)
            implements MapStep {
        public Put {
            Check.within("w_mm", wMm, 0.1, 200);
            Check.within("h_mm", hMm, 0.1, 200);
            Check.finite("rot_deg", rotDeg);
            Names.optional("ref", ref);
            Names.optional("net", net);
            Names.optional("other", other);
        }

        Put at(PointMm place) {
            return new Put(side, "", kind, packageName, place, wMm, hMm, rotDeg, net, other);
        }
    }

    /** Equal parts on a line. @param last where the last one is @param count with the first, 2 to 200 */
    record Row(Put first, PointMm last, int count) implements MapStep {
        public Row {
            Check.within("count", count, 2, 200);
        }
    }

    /** Pins that are on a net. */
    record Paint(String net, List<Touch> touches) implements MapStep {
        public Paint {
            Names.needed("net", net);
            touches = List.copyOf(touches);
        }
    }

    /** Where a part was touched with the brush. */
    record Touch(String ref, PointMm at) {}

    /** What a net is; one that is not there yet is added. */
    record OfNet(String net, NetKind kind, OptionalDouble volts) implements MapStep {
        public OfNet {
            Names.needed("net", net);
            Check.positive("volts", volts);
        }
    }

    /**
     * What is said of a part: another name, kind, value or turn.
     *
     * @param called empty to leave its name
     * @param turnDeg added to how it lies
     */
    record Say(String ref, String called, Optional<PartKind> kind, Optional<String> value, double turnDeg)
            implements MapStep {
        public Say {
            Names.optional("called", called);
            Check.finite("turn_deg", turnDeg);
        }
    }

    /** A part is not where it was put. */
    record Take(String ref) implements MapStep {}
}
