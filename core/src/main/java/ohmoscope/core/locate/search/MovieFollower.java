package ohmoscope.core.locate.search;

import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;

/**
 * Looks into a movie again and again while it grows. Each look scans only the frames that have come since; the one at the
 * whole movie also takes the newest look's first round for its own, which its few further frames hardly change: about two
 * thirds of what {@link Locator#locate} takes, and the same answer but where the leader is in doubt (see
 * docs/evaluation.md). Memory: a few pictures a capture, besides what a look takes. Not for several threads.
 */
public final class MovieFollower {
    private final Locator locator = new Locator();
    private final Map<String, FrameScan.Growing> scans = new HashMap<>();
    private Optional<WarmStart> before = Optional.empty();

    /** Looks a capture's frames through that does not grow, before they are asked for. */
    public void know(Capture capture) throws IOException {
        scan(capture);
    }

    /**
     * @param input captures of one name have the frames that they had in the look before, and maybe more
     * @throws IOException when frames cannot be read
     */
    public LocateResult look(LocateInput input, Progress progress) throws IOException {
        Locator.Searched searched = locator.search(input, progress, this::scan, Optional.empty());
        before = searched.end();
        return searched.result();
    }

    /**
     * The look at the whole movie, with the newest look's first round for its own.
     *
     * @param input as in {@link #look}
     * @throws IOException when frames cannot be read
     */
    public LocateResult conclude(LocateInput input, Progress progress) throws IOException {
        return locator.search(input, progress, this::scan, before).result();
    }

    private FrameScan scan(Capture capture) throws IOException {
        return scans.computeIfAbsent(capture.spec().id(), name -> new FrameScan.Growing())
                .of(capture.spec(), capture.frames());
    }
}
