package ohmoscope.web.photomap;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.Lens;
import ohmoscope.core.photomap.MapStep;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.core.photomap.PointPx;
import ohmoscope.core.photomap.Squared;
import ohmoscope.formats.photo.Found;
import ohmoscope.formats.photo.MapStepJson;
import ohmoscope.web.config.Technician;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.PhotoStore;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The map's steps as its page sends them; each answer is the whole map. */
@RestController
class MapStepController {
    private final Mapping mapping;

    MapStepController(Mapping mapping) {
        this.mapping = mapping;
    }

    /** Why a step was not taken. */
    record Problem(String problem) {}

    /** A part as it lies. @param pins with their places */
    record Placed(
            String ref,
            PartKind kind,
            Side side,
            String value,
            double xMm,
            double yMm,
            double wMm,
            double hMm,
            double rotDeg,
            List<Pin> pins) {}

    /** A part that is known and not placed. @param words what it is and what it is on */
    record Waiting(String ref, PartKind kind, String words) {}

    /** A side's photograph. @param corners empty until it is squared up @param version of the squared picture */
    record OfSide(Optional<Long> photo, int widthPx, int heightPx, List<PointPx> corners, boolean laid, int version) {}

    /** The map as its page draws it. @param next the reference that each kind's next part gets */
    record State(
            int steps,
            double widthMm,
            double heightMm,
            Map<Side, OfSide> sides,
            List<Placed> parts,
            List<Waiting> waiting,
            List<Net> nets,
            Map<PartKind, String> next) {}

    @GetMapping("/boards/{id:\\d{1,15}}/map/state")
    State state(@PathVariable long id) throws IOException {
        return state(id, mapping.folded(id));
    }

    private State state(long id, Mapping.Folded folded) {
        PhotoMap map = folded.map();
        Board board = map.board();
        Map<Side, OfSide> sides = new TreeMap<>();
        List<PhotoStore.Photo> photos = mapping.photos(id);
        for (Side side : Side.values()) {
            sides.put(side, side(Optional.ofNullable(map.laid().get(side)), photos, side));
        }
        List<Placed> placed = new ArrayList<>();
        List<Waiting> waiting = new ArrayList<>();
        for (Part part : map.laid().isEmpty() ? List.<Part>of() : board.parts()) {
            if (board.placed(part)) {
                placed.add(new Placed(
                        part.ref(),
                        part.kind(),
                        part.side(),
                        part.value(),
                        part.xMm(),
                        part.yMm(),
                        part.wMm(),
                        part.hMm(),
                        part.rotDeg(),
                        part.pins()));
            } else {
                waiting.add(new Waiting(part.ref(), part.kind(), words(part)));
            }
        }
        Map<PartKind, String> next = new TreeMap<>();
        for (PartKind kind : PartKind.values()) {
            next.put(kind, map.next(kind));
        }
        return new State(
                folded.steps(),
                board.outline().maxXMm(),
                board.outline().maxYMm(),
                sides,
                placed,
                waiting,
                board.nets(),
                next);
    }

    private static OfSide side(Optional<PhotoMap.Laid> laid, List<PhotoStore.Photo> photos, Side side) {
        Optional<PhotoStore.Photo> newest = photos.stream()
                .filter(p -> p.side() == side)
                .filter(p -> laid.isEmpty() || p.id() > laid.get().photo())
                .findFirst();
        if (newest.isPresent()) {
            PhotoStore.Photo photo = newest.get();
            return new OfSide(Optional.of(photo.id()), photo.width(), photo.height(), List.of(), false, 0);
        }
        return laid.map(l -> new OfSide(
                        Optional.of(l.photo()),
                        l.squared().lens().widthPx(),
                        l.squared().lens().heightPx(),
                        l.squared().corners(),
                        true,
                        l.squared().hashCode()))
                .orElseGet(() -> new OfSide(Optional.empty(), 0, 0, List.of(), false, 0));
    }

    private static String words(Part part) {
        return (part.value().isEmpty() ? Words.of(part.kind()) : part.value()) + ", "
                + String.join(
                        " ",
                        part.pins().stream().map(Pin::net).distinct().limit(3).toList());
    }

    @PostMapping("/boards/{id:\\d{1,15}}/map/steps")
    State step(@PathVariable long id, @RequestBody String step, Principal principal) throws IOException {
        return state(id, mapping.step(id, MapStepJson.read(step), Technician.name(principal)));
    }

    @PostMapping("/boards/{id:\\d{1,15}}/map/undo")
    State undo(@PathVariable long id) throws IOException {
        mapping.undo(id);
        return state(id);
    }

    /**
     * Four corners and a size.
     *
     * @param edges a click on each edge, for the lens; empty for a straight one
     * @param ruler two ends of a known length, empty where both sides are given
     * @param lengthMm of the ruler
     */
    record Corners(
            Side side,
            long photo,
            int widthPx,
            int heightPx,
            List<PointPx> corners,
            List<PointPx> edges,
            List<PointPx> ruler,
            double lengthMm,
            double widthMm,
            double heightMm) {}

    /** Lays a photograph over a side. */
    @PostMapping("/boards/{id:\\d{1,15}}/map/square")
    State square(@PathVariable long id, @RequestBody Corners c, Principal principal) throws IOException {
        Lens lens = c.edges().isEmpty()
                ? new Lens(c.widthPx(), c.heightPx(), 0)
                : Lens.fitted(c.widthPx(), c.heightPx(), c.corners(), c.edges());
        Squared squared = c.ruler().size() == 2
                ? Squared.byLength(
                        lens, c.corners(), c.ruler().get(0), c.ruler().get(1), c.lengthMm())
                : new Squared(lens, c.corners(), c.widthMm(), c.heightMm(), Squared.Nudge.NONE);
        MapStep step = new MapStep.Square(c.side(), c.photo(), squared);
        return state(id, mapping.step(id, step, Technician.name(principal)));
    }

    /** Bodies that the photograph seems to show; the page leaves out those that lie where a part is by now. */
    @GetMapping("/boards/{id:\\d{1,15}}/map/found")
    List<Found> found(@PathVariable long id, @RequestParam Side side) throws IOException {
        return mapping.found(id, side);
    }

    @ExceptionHandler(InvalidMember.class)
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    Problem refused(InvalidMember refused) {
        return new Problem(refused.getMessage());
    }
}
