package ohmoscope.web.config;

import java.util.Optional;
import ohmoscope.core.evidence.Observation;

/** An entry was to be corrected or withdrawn that somebody else has corrected or withdrawn meanwhile. */
public final class EntryChanged extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final transient Optional<Observation> now;
    private final transient Optional<Observation> wanted;
    private final int place;

    /**
     * @param now what stands there now; empty when it no longer counts
     * @param wanted what was to stand there; empty when it was to count no more
     */
    public EntryChanged(int place, Optional<Observation> now, Optional<Observation> wanted) {
        super("entry " + place + " was changed meanwhile");
        this.place = place;
        this.now = now;
        this.wanted = wanted;
    }

    public int place() {
        return place;
    }

    public Optional<Observation> now() {
        return now;
    }

    public Optional<Observation> wanted() {
        return wanted;
    }
}
