package ohmoscope.core.locate.search;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.CapturePreparer.Weights;

/**
 * Finds the part whose heat explains the frames.
 *
 * <p>Each capture is compressed onto a few temporal components; every candidate of the rail, on both sides, is fitted
 * with the sources that are always there (contacts, series parts); the heat model is then refined at the best one, and
 * everything is scored again. Time is linear in frames, pixels and candidates; memory is that of the compressed
 * pictures and a few columns.
 */
public final class Locator {
    /** Names the computation in stored results. */
    public static final String VERSION = "locate-16";

    /** Of the whole work, what the captures' preparation is. */
    private static final double PREPARED_AT = 0.4;

    private final LocateSettings settings;

    public Locator(LocateSettings settings) {
        this.settings = settings;
    }

    public Locator() {
        this(LocateSettings.DEFAULT);
    }

    /**
     * @throws IOException when frames cannot be read
     */
    public LocateResult locate(LocateInput input, Progress progress) throws IOException {
        return search(input, progress, CapturePreparer.Scans.whole()).result();
    }

    /** @param end where it ended; empty where there was nothing to search */
    record Searched(LocateResult result, Optional<Ended> end) {}

    Searched search(LocateInput input, Progress progress, CapturePreparer.Scans scans) throws IOException {
        progress.at(0);
        CapturePreparer preparer = preparer(input, scans);
        List<Prepared> prepared = new ArrayList<>();
        for (Capture capture : input.captures()) {
            prepared.add(preparer.prepare(capture));
            progress.at(PREPARED_AT * prepared.size() / input.captures().size());
        }
        return new Search(Question.of(input, settings, prepared)).run(progress);
    }

    /**
     * The search of the same captures with some more frames, without seeking far from where it ended before.
     *
     * @return empty where what was found before does not hold for what is there now
     * @throws IOException when frames cannot be read
     */
    Optional<Searched> onward(LocateInput input, Progress progress, CapturePreparer.Scans scans, Ended before)
            throws IOException {
        return grown(input, scans, before, before.question().models(), Weights.ANEW)
                .map(now -> Search.onward(before, now, progress));
    }

    /** The same with each candidate weighed where it was found best before, and no more. */
    Optional<LocateResult> weighed(LocateInput input, CapturePreparer.Scans scans, Ended before) throws IOException {
        return grown(input, scans, before, before.models(), Weights.KEPT).flatMap(before::weighed);
    }

    /** The question with some more frames. @param had its captures with those before */
    private Optional<Question> grown(
            LocateInput input, CapturePreparer.Scans scans, Ended before, List<CaptureModel> had, Weights weights)
            throws IOException {
        if (!before.leadsTo(input)) {
            return Optional.empty();
        }
        CapturePreparer preparer = preparer(input, scans);
        List<Prepared> prepared = new ArrayList<>();
        int models = 0;
        for (int c = 0; c < input.captures().size(); c++) {
            Prepared was = before.question().prepared().get(c);
            Optional<Prepared> now = Optional.of(was);
            if (was.model().isPresent()) {
                now = preparer.grown(was, had.get(models++), input.captures().get(c), weights);
            }
            if (now.isEmpty()) {
                return Optional.empty();
            }
            prepared.add(now.get());
        }
        return Optional.of(before.question().grown(input, settings, prepared));
    }

    private CapturePreparer preparer(LocateInput input, CapturePreparer.Scans scans) {
        return new CapturePreparer(
                input.board(),
                SlabParameters.expected(input.board()),
                Waveform.resistive(input.supplyLog()),
                input.injection(),
                settings,
                scans);
    }
}
