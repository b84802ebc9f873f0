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
import ohmoscope.core.locate.model.CapturePreparer;

/**
 * Looks into a movie again and again while it grows. Each look scans only the frames that have come since; the one at the
 * whole movie also seeks nothing anew: what the newest look has found is weighed by all frames, their sums taken up where
 * they were (see docs/evaluation.md for how near that comes to {@link Locator#locate}, and how fast). Memory: a few pictures
 * a capture, and what the newest look has made of them. Not for several threads.
 */
public final class MovieFollower {
    private final Locator locator = new Locator();
    private final Map<String, FrameScan.Growing> scans = new HashMap<>();
    private Optional<Ended> before = Optional.empty();

    /** Looks a capture's frames through, before they are asked for. */
    public void know(Capture capture) throws IOException {
        scan(capture);
    }

    /**
     * @param input captures of one name have the frames that they had in the look before, and maybe more
     * @throws IOException when frames cannot be read
     */
    public LocateResult look(LocateInput input, Progress progress) throws IOException {
        Locator.Searched searched = locator.search(input, progress, growing());
        before = searched.end();
        return searched.result();
    }

    /** Whether the newest look can be gone on from: somebody stood out. */
    public boolean leads() {
        return before.filter(Ended::clear).isPresent();
    }

    /**
     * A look that goes on from the newest one: with weights, heat models and places by all frames, but none sought far from
     * where it was.
     *
     * @param input as in {@link #look}
     * @return empty when there was no look before, or nobody stands out
     * @throws IOException when frames cannot be read
     */
    public Optional<LocateResult> follow(LocateInput input, Progress progress) throws IOException {
        if (before.isEmpty()) {
            return Optional.empty();
        }
        Optional<Locator.Searched> searched = locator.onward(input, progress, growing(), before.get());
        before = searched.flatMap(Locator.Searched::end).or(() -> before);
        return searched.map(Locator.Searched::result);
    }

    /**
     * The look at the whole movie, by what the newest look has found.
     *
     *
     * @param input as in {@link #look}
     * @return empty when there was no look before, or nobody stands out
     * @throws IOException when frames cannot be read
     */
    public Optional<LocateResult> conclude(LocateInput input) throws IOException {
        return before.isEmpty() ? Optional.empty() : locator.weighed(input, growing(), before.get());
    }

    private CapturePreparer.Scans growing() {
        return new CapturePreparer.Scans() {
            @Override
            public FrameScan of(Capture capture) throws IOException {
                return scan(capture);
            }

            @Override
            public boolean grow() {
                return true;
            }
        };
    }

    private FrameScan scan(Capture capture) throws IOException {
        return scans.computeIfAbsent(capture.spec().id(), name -> new FrameScan.Growing())
                .of(capture.spec(), capture.frames());
    }
}
