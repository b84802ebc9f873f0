package ohmoscope.web.frames;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.RegistrationPair;

/** A first guess of how a picture lies over the board: the outline's corners, to be dragged into place. */
public final class CornerPairs {
    private static final double FILLED = 0.9;

    private CornerPairs() {}

    /**
     * As the newest earlier capture of the same side and size lies; else the whole board in the middle.
     *
     * @param width of the picture as turned
     */
    public static List<RegistrationPair> guess(
            Outline outline, Side side, int width, int height, Optional<CaptureSpec> like) {
        if (like.isPresent()) {
            return like.get().registration();
        }
        double w = outline.maxXMm() - outline.minXMm();
        double h = outline.maxYMm() - outline.minYMm();
        double scale = FILLED * Math.min(width / w, height / h);
        double left = (width - 1 - scale * w) / 2;
        double right = left + scale * w;
        double top = (height - 1 - scale * h) / 2;
        double bottom = top + scale * h;
        boolean mirrored = side == Side.BOTTOM;
        return List.of(
                new RegistrationPair(mirrored ? right : left, bottom, outline.minXMm(), outline.minYMm()),
                new RegistrationPair(mirrored ? left : right, bottom, outline.maxXMm(), outline.minYMm()),
                new RegistrationPair(mirrored ? left : right, top, outline.maxXMm(), outline.maxYMm()),
                new RegistrationPair(mirrored ? right : left, top, outline.minXMm(), outline.maxYMm()));
    }
}
