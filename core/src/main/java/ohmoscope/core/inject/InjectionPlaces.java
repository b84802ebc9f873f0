package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;

/**
 * Where to set the leads: a fat pad of the rail far from everything that may be the fault, so that the contact's own heat
 * is told apart; and a fat pad of ground for the return, away from both. Where a series part joins the rail to another,
 * both its ends are told: on the rail's side its own heat is out of the picture.
 *
 * @param hot the rail's pads, the best first
 * @param back ground's pads, the best first
 * @param series the part that joins the rail to another, when there is one
 */
public record InjectionPlaces(List<Place> hot, List<Place> back, Optional<Series> series) {
    private static final int MOST = 3;
    /** Beyond this another millimetre does not matter: the contact's heat is well apart. */
    private static final double FAR_MM = 15;

    private static final double FAT_MM2 = 4;
    /** Suspects below this share are not kept clear of. */
    private static final double SUSPECT_FROM = 0.02;

    public InjectionPlaces {
        hot = List.copyOf(hot);
        back = List.copyOf(back);
    }

    /**
     * A pad to touch.
     *
     * @param padMm2 about how large it is
     * @param clearMm to the nearest suspect on either side; infinite when there is none
     */
    public record Place(
            String ref, String pin, String net, Side side, double xMm, double yMm, double padMm2, double clearMm) {}

    /** A part in series: its pin on the rail and the one beyond. */
    public record Series(String ref, Pin behind, Pin before) {}

    /** @param suspects how probable each part is by reference; parts not in it are no suspects */
    public static InjectionPlaces of(Board board, String rail, String ground, Map<String, Double> suspects) {
        List<Part> near = board.parts().stream()
                .filter(p -> suspects.getOrDefault(p.ref(), 0.0) >= SUSPECT_FROM)
                .toList();
        List<Place> hot = places(board, rail, near, suspects);
        List<Place> clear = hot.stream().limit(1).toList();
        List<Place> back = places(board, ground, near, suspects).stream()
                .filter(p -> clear.stream().noneMatch(h -> h.ref().equals(p.ref())))
                .toList();
        return new InjectionPlaces(
                head(hot), head(back), seriesAt(board, rail).stream().findFirst());
    }

    private static List<Place> head(List<Place> places) {
        return places.stream().limit(MOST).toList();
    }

    private static List<Place> places(Board board, String net, List<Part> near, Map<String, Double> suspects) {
        List<Place> places = new ArrayList<>();
        for (Part part : board.parts()) {
            if (part.kind() == PartKind.IC
                    || part.kind() == PartKind.CRYSTAL
                    || part.storey().isPresent()) {
                continue;
            }
            // A contact on the suspect itself would cover it with its own heat.
            if (suspects.getOrDefault(part.ref(), 0.0) >= SUSPECT_FROM) {
                continue;
            }
            for (Pin pin : part.pins()) {
                if (pin.net().equals(net)) {
                    places.add(new Place(
                            part.ref(),
                            pin.name(),
                            net,
                            part.side(),
                            pin.xMm(),
                            pin.yMm(),
                            padMm2(part),
                            clearMm(pin, near)));
                }
            }
        }
        board.testPoints().stream()
                .filter(t -> t.net().equals(net))
                .forEach(t -> places.add(new Place(
                        t.ref(),
                        "",
                        net,
                        t.side(),
                        t.xMm(),
                        t.yMm(),
                        1,
                        clearMm(new Pin("1", net, t.xMm(), t.yMm()), near))));
        places.sort(Comparator.comparingDouble(InjectionPlaces::merit).reversed());
        return places;
    }

    /** Distance counts up to where it no longer matters, size up to where a tip sits well. */
    private static double merit(Place place) {
        return Math.min(FAR_MM, place.clearMm()) / FAR_MM + 0.8 * Math.min(FAT_MM2, place.padMm2()) / FAT_MM2;
    }

    /** A two-pin part's pad is about a quarter of its body; others share the body among their pins. */
    private static double padMm2(Part part) {
        double body = part.wMm() * part.hMm();
        return part.pins().size() <= 2 ? body / 4 : body / (2.0 * part.pins().size());
    }

    private static double clearMm(Pin pin, List<Part> near) {
        return near.stream()
                .mapToDouble(p -> Math.hypot(p.xMm() - pin.xMm(), p.yMm() - pin.yMm()))
                .min()
                .orElse(Double.POSITIVE_INFINITY);
    }

    /** Parts in series at a rail, by which current can come to it. */
    public static List<Series> seriesAt(Board board, String rail) {
        return board.partsOn(rail)
                .filter(p -> board.role(p) == Role.SERIES && p.pins().size() >= 2)
                .flatMap(p -> p.pins().stream()
                        .filter(pin -> pin.net().equals(rail))
                        .flatMap(behind -> p.pins().stream()
                                .filter(other -> !other.net().equals(rail) && !board.isGround(other.net()))
                                .map(before -> new Series(p.ref(), behind, before))))
                .filter(s -> Rail.between(board, s.before().net(), rail).path().stream()
                        .anyMatch(p -> p.ref().equals(s.ref())))
                .toList();
    }
}
