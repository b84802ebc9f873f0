package ohmoscope.core.layout;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;

/**
 * What one file says of a board. Anything may be missing; nothing in it is guessed.
 *
 * @param file where it is from
 * @param name the board's own name, empty when the file has none
 * @param outline the board's edge, once round; empty when the file has none
 * @param nets in the file's order, each once
 * @param unused what the file holds and a board has no place for, with how many
 */
public record Draft(
        String file,
        String name,
        String revision,
        List<PointMm> outline,
        OptionalDouble thicknessMm,
        OptionalInt copperLayers,
        OptionalDouble copperUm,
        List<String> nets,
        List<DraftPart> parts,
        Map<String, Integer> unused) {
    public Draft {
        Check.text("file", file);
        Check.atMost("nets", nets.size(), Board.MOST_NETS);
        Check.atMost("parts", parts.size(), Board.MOST_PARTS);
        outline = List.copyOf(outline);
        nets = List.copyOf(nets);
        parts = List.copyOf(parts);
        unused = Map.copyOf(unused);
    }

    /** How much of the board is in it: who has most is believed first. */
    int weight() {
        return parts.stream().mapToInt(p -> 1 + 2 * p.pads().size()).sum();
    }

    /**
     * One part as far as the file knows it.
     *
     * @param value as printed, empty when unknown
     * @param packageName a footprint's name, empty when unknown
     * @param place empty where the file only lists it
     * @param body before rotation; empty when the file does not draw it
     * @param fitted false where the file says that the place stays empty
     */
    public record DraftPart(
            String ref,
            String value,
            String packageName,
            Optional<Place> place,
            Optional<Body> body,
            List<Pad> pads,
            boolean fitted) {
        DraftPart valued(String other) {
            return new DraftPart(ref, other, packageName, place, body, pads, fitted);
        }

        DraftPart connected(List<Pad> others) {
            return new DraftPart(ref, value, packageName, place, body, others, fitted);
        }

        /** At another place, with that file's pads where it has them; else its own go along. */
        DraftPart standing(Place there, List<Pad> pads) {
            return new DraftPart(ref, value, packageName, Optional.of(there), body, carried(there, pads), fitted);
        }

        private List<Pad> carried(Place there, List<Pad> others) {
            if (!others.isEmpty() || place.isEmpty()) {
                return others.isEmpty() ? pads : others;
            }
            Place here = place.get();
            boolean flipped = here.side() != there.side();
            // Turned over, what was right of the centre is left of it, and turns run the other way.
            double turn = Math.toRadians(there.rotDeg() - (flipped ? 180 - here.rotDeg() : here.rotDeg()));
            return pads.stream()
                    .map(p -> {
                        double x = (p.xMm() - here.xMm()) * (flipped ? -1 : 1);
                        double y = p.yMm() - here.yMm();
                        return new Pad(
                                p.name(),
                                p.net(),
                                p.function(),
                                there.xMm() + x * Math.cos(turn) - y * Math.sin(turn),
                                there.yMm() + x * Math.sin(turn) + y * Math.cos(turn));
                    })
                    .toList();
        }

        public DraftPart {
            Check.text("ref", ref);
            pads = List.copyOf(pads);
        }
    }

    /** Where a part sits: its body's centre, board axes. */
    public record Place(Side side, double xMm, double yMm, double rotDeg) {
        public Place {
            Check.coordinateMm("x_mm", xMm);
            Check.coordinateMm("y_mm", yMm);
            Check.finite("rot_deg", rotDeg);
        }
    }

    /** Millimetres, before rotation. */
    public record Body(double wMm, double hMm) {
        public Body {
            Check.positive("w_mm", wMm);
            Check.positive("h_mm", hMm);
        }
    }

    /**
     * One pad.
     *
     * @param net empty where nothing is connected
     * @param function what the schematic calls the pin, empty when unknown
     */
    public record Pad(String name, Optional<String> net, String function, double xMm, double yMm) {
        public Pad {
            Check.text("name", name);
            Check.coordinateMm("x_mm", xMm);
            Check.coordinateMm("y_mm", yMm);
        }
    }
}
