package ohmoscope.bench.photo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.Lens;
import ohmoscope.core.photomap.Squared;
import ohmoscope.formats.photo.BodyFinder;
import ohmoscope.formats.photo.Found;
import ohmoscope.formats.photo.SquaredPicture;
import org.junit.jupiter.api.Test;

/** What is proposed on photographs of boards whose parts are known. */
class BodyFinderTest {
    /** Boards, sides and shots: daylight, lamp, slant light, blur, lean; varnishes that differ from a chip's black. */
    private static final List<Shot> SHOTS = List.of(
            Shot.plain(1),
            new Shot(2400, 1800, 4, -5, 2, 1.2, 4, 1.1, 0.28, 0.2, 0.6, 0.02, Shot.Mask.BLUE, 2),
            new Shot(2400, 1800, -7, 3, -3, 0.6, 3, 0.9, 0.35, 0.1, -0.5, 0, Shot.Mask.RED, 3),
            new Shot(2400, 1800, 2, 8, 1, 1.6, 5, 0.8, 0.2, 0.05, 0.9, -0.02, Shot.Mask.GREEN, 4));

    private int found;
    private int missed;
    private int wrong;
    private int kindRight;

    @Test
    void mostBodiesAreProposedAndMostProposalsAreBodies() {
        List<Board> boards = DemoBoards.all();
        for (int i = 0; i < SHOTS.size(); i++) {
            count(boards.get(i % boards.size()), SHOTS.get(i));
        }
        double recall = found / (double) (found + missed);
        double precision = found / (double) (found + wrong);
        assertTrue(recall > 0.75, "recall " + recall);
        assertTrue(precision > 0.75, "precision " + precision);
        assertTrue(kindRight > 0.85 * found, kindRight + " of " + found + " kinds");
    }

    private void count(Board board, Shot shot) {
        BoardPhoto photo = BoardPhoto.of(board, Side.TOP, shot);
        Outline outline = board.outline();
        Squared squared = new Squared(
                new Lens(shot.widthPx(), shot.heightPx(), shot.bow()),
                photo.corners(),
                outline.maxXMm() - outline.minXMm(),
                outline.maxYMm() - outline.minYMm(),
                Squared.Nudge.NONE);
        List<Found> proposals = BodyFinder.find(SquaredPicture.of(photo.picture(), squared, Side.TOP, 2.5));
        Set<Found> used = new HashSet<>();
        for (Part part : board.parts()) {
            if (part.side() == Side.TOP && part.kind() != PartKind.SHIELD) {
                Optional<Found> match = proposals.stream()
                        .filter(f -> !used.contains(f) && same(f, part))
                        .findFirst();
                match.ifPresent(used::add);
                found += match.isPresent() ? 1 : 0;
                missed += match.isPresent() ? 0 : 1;
                kindRight += match.filter(f -> f.kind() == part.kind()).isPresent() ? 1 : 0;
            }
        }
        wrong += proposals.size() - used.size();
    }

    private static boolean same(Found found, Part part) {
        double size = found.wMm() * found.hMm() / (part.wMm() * part.hMm());
        return Math.hypot(found.xMm() - part.xMm(), found.yMm() - part.yMm())
                        < Math.max(0.3, 0.2 * Math.min(part.wMm(), part.hMm()))
                && size > 0.5
                && size < 2;
    }

    @Test
    void thePhotographsCornersAreWhereTheBoardsAre() {
        Board board = DemoBoards.beck();
        Shot shot = new Shot(1200, 900, 12, -9, 5, 0, 0, 1, 0, 0, 0, 0.03, Shot.Mask.GREEN, 9);
        BoardPhoto photo = BoardPhoto.of(board, Side.BOTTOM, shot);
        double w = board.outline().maxXMm() - board.outline().minXMm();
        double h = board.outline().maxYMm() - board.outline().minYMm();
        Squared squared = new Squared(new Lens(1200, 900, 0.03), photo.corners(), w, h, Squared.Nudge.NONE);
        SquaredPicture picture = SquaredPicture.of(photo.picture(), squared, Side.BOTTOM, 2.5);
        // A pixel well inside the board is varnish or what stands on it, one outside is the mat's grey.
        int mat = picture.picture().getRGB(3, picture.picture().getHeight() / 2);
        assertEquals(0, Math.abs((mat >> 16 & 0xff) - (mat & 0xff)) / 30);
        int varnish = picture.picture().getRGB((int) picture.xPx(w / 2), (int) picture.yPx(h * 0.97));
        assertTrue((varnish >> 8 & 0xff) > 1.3 * (varnish >> 16 & 0xff), Integer.toHexString(varnish));
    }
}
