package ohmoscope.web.photomap;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.MapStep;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.core.photomap.Squared;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.formats.photo.BodyFinder;
import ohmoscope.formats.photo.Found;
import ohmoscope.formats.photo.SquaredPicture;
import ohmoscope.formats.photo.UprightPicture;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.config.LastUsed;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.JobRow;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.PhotoStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Service;

/** Maps of boards as they are made: photographs in, steps, undo, and a new version of the board at the end. */
@Service
class Mapping {
    /** As far as a board's picture reaches beyond its edge. */
    static final double MARGIN_MM = 2.5;

    private static final int MOST_STEPS = 3_000;
    private static final int KEPT = 12;

    private final BoardStore boards;
    private final PhotoStore photos;
    private final JobStore jobs;
    private final JobFile files;
    private final Transactions transactions;
    private final Map<Object, byte[]> pictures = LastUsed.map(KEPT);
    private final Map<Object, List<Found>> bodies = LastUsed.map(KEPT);

    Mapping(BoardStore boards, PhotoStore photos, JobStore jobs, JobFile files, Transactions transactions) {
        this.boards = boards;
        this.photos = photos;
        this.jobs = jobs;
        this.files = files;
        this.transactions = transactions;
    }

    /** A map and how many steps made it. */
    record Folded(PhotoMap map, int steps) {}

    /** The board as the steps so far have mapped it. */
    PhotoMap map(long board) throws IOException {
        return folded(board).map();
    }

    Folded folded(long board) throws IOException {
        PhotoMap map = PhotoMap.of(boards.board(board), photos.laid(board));
        List<MapStep> steps = photos.steps(board);
        for (MapStep step : steps) {
            map = map.then(step);
        }
        return new Folded(map, steps.size());
    }

    /**
     * @return the map with the step
     * @throws InvalidMember for a step that cannot be taken; nothing is kept of it
     */
    Folded step(long board, MapStep step, String by) throws IOException {
        Folded before = folded(board);
        if (before.steps() >= MOST_STEPS) {
            throw new InvalidMember("steps", "are " + MOST_STEPS + " already: keep the map, then go on");
        }
        if (step instanceof MapStep.Square square) {
            square.squared().laid();
            content(board, square.photo());
        }
        PhotoMap map = before.map().then(step);
        photos.addStep(board, step, by);
        return new Folded(map, before.steps() + 1);
    }

    void undo(long board) {
        photos.undo(board);
    }

    /** @throws ohmoscope.formats.BundleException where it is no picture */
    void photo(long board, Side side, byte[] bytes, String name, String by) throws IOException {
        BufferedImage picture = UprightPicture.read(bytes, name);
        photos.add(
                boards.row(board).id(),
                side,
                picture.getWidth(),
                picture.getHeight(),
                UprightPicture.jpeg(picture),
                by);
    }

    List<PhotoStore.Photo> photos(long board) {
        return photos.photos(board);
    }

    byte[] content(long board, long photo) {
        return photos.content(board, photo)
                .orElseThrow(() -> new NotFoundException("There is no such photograph of this board."));
    }

    /** What a squared picture is known by. */
    private record Key(long photo, Side side, Squared squared) {}

    /** The photograph of a side, squared up, as the map has it now or as a kept version has it. */
    byte[] squared(long board, Side side, Map<Side, PhotoMap.Laid> laid) throws IOException {
        PhotoMap.Laid lies = Optional.ofNullable(laid.get(side))
                .orElseThrow(() -> new NotFoundException("No photograph is laid over that side of this board."));
        Key key = new Key(lies.photo(), side, lies.squared());
        byte[] known = pictures.get(key);
        if (known == null) {
            known = UprightPicture.jpeg(draw(board, side, lies).picture());
            pictures.put(key, known);
        }
        return known;
    }

    Map<Side, PhotoMap.Laid> laid(long board) {
        return photos.laid(board);
    }

    private SquaredPicture draw(long board, Side side, PhotoMap.Laid lies) throws IOException {
        BufferedImage photo = UprightPicture.read(content(board, lies.photo()), "photo.jpg");
        return SquaredPicture.of(photo, lies.squared(), side, MARGIN_MM);
    }

    /** Bodies that the photograph of a side seems to show. */
    List<Found> found(long board, Side side) throws IOException {
        PhotoMap.Laid lies = map(board).laid().get(side);
        return lies == null ? List.of() : found(board, side, lies);
    }

    /** The same on a photograph as it lies. */
    List<Found> found(long board, Side side, PhotoMap.Laid lies) throws IOException {
        Key key = new Key(lies.photo(), side, lies.squared());
        List<Found> known = bodies.get(key);
        if (known == null) {
            known = BodyFinder.find(draw(board, side, lies));
            bodies.put(key, known);
        }
        return known;
    }

    /**
     * Makes the map a version of the board, and puts it under a job.
     *
     * @param job the job that it was made for, empty for none
     * @return the version's number
     */
    long keep(long board, Optional<String> job) throws IOException {
        PhotoMap map = map(board);
        if (map.laid().isEmpty()) {
            throw new InvalidMember("map", "has no photograph yet: lay one and square it up first");
        }
        Optional<JobRow> row = job.map(jobs::named);
        if (row.isPresent() && row.get().boardId() != board) {
            throw new InvalidMember("job", "is on another version of this board by now: map that one");
        }
        Board before = boards.board(board);
        boolean sized = !before.outline().equals(map.board().outline());
        if (row.isPresent()
                && sized
                && !files.withoutTraces(job.get()).bundle().captures().isEmpty()) {
            throw new InvalidMember("map", "has another size than the board that this job's frames are laid over");
        }
        Board mapped = BoardNames.ofClass(before.revision())
                ? map.board().called(before.name(), GenericBoards.MAPPED + before.revision())
                : map.board();
        return transactions.run(() -> {
            long next = boards.edited(board, mapped);
            photos.lay(next, map.laid());
            photos.clear(board);
            row.ifPresent(r -> {
                jobs.setBoard(r.id(), next);
                files.refreshState(r.id());
            });
            return next;
        });
    }
}
