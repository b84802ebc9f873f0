package ohmoscope.web.sheet;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.evidence.EntryText;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.prove.Proof;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.JobStore.Lead;
import ohmoscope.web.store.OutcomeStore;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Keeps the shelf's line of a job as its sheet is: the next step and the part that leads, from the same judgement; and the
 * logbook's, how it went.
 */
@Component
class ShelfLine {
    private static final double WORTH_NAMING = 0.15;
    private static final int MOST_WORDS = 20_000;

    private final OpenJobs openJobs;
    private final JobFile files;
    private final JobStore jobs;
    private final OutcomeStore outcomes;

    ShelfLine(OpenJobs openJobs, JobFile files, JobStore jobs, OutcomeStore outcomes) {
        this.outcomes = outcomes;
        this.openJobs = openJobs;
        this.files = files;
        this.jobs = jobs;
    }

    /** @param next the sheet's next step */
    record Words(String next, Optional<Lead> lead) {}

    @EventListener
    void refresh(JobFile.Changed changed) {
        try {
            OpenJobs.Open open = openJobs.open(files.withoutTraces(changed.jobId()));
            Words words = SheetView.shelf(open);
            jobs.setState(
                    changed.jobId(),
                    open.walk().now().name(),
                    words.next(),
                    open.analysis().map(a -> a.verdict().name()),
                    words.lead(),
                    open.job().bundle().rail());
            outcome(open);
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    /** The logbook's line. */
    private void outcome(OpenJobs.Open open) {
        List<EvidenceStore.Entry> entries = open.job().entries();
        String words = Stream.concat(
                        Stream.of(open.job().account()), entries.stream().map(e -> EntryText.of(e.observation())))
                .collect(Collectors.joining("\n"))
                .toLowerCase(Locale.ROOT);
        outcomes.put(
                open.job().row().id(),
                open.outcome(),
                busiest(entries),
                words.substring(0, Math.min(words.length(), MOST_WORDS)));
    }

    /** Who wrote down most of the entries; empty where there are none. */
    private static String busiest(List<EvidenceStore.Entry> entries) {
        return entries.stream()
                .collect(Collectors.groupingBy(EvidenceStore.Entry::recordedBy, TreeMap::new, Collectors.counting()))
                .entrySet()
                .stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse("");
    }

    /** What was proven, else what the frames name, else what the other evidence does. */
    static Optional<Lead> lead(OpenJobs.Open open, Proof proof) {
        Optional<String> mended = proof.culprit()
                .map(c -> c.target())
                .or(() -> open.advice()
                        .mending()
                        .filter(m -> m.readsWell())
                        .map(m -> m.repair().target()));
        if (mended.isPresent()) {
            return mended.map(ref -> new Lead(ref, 1, Lead.By.PROOF));
        }
        Optional<StoredAnalysis> frames = open.analysis().filter(a -> a.verdict() != Verdict.NONE);
        return frames.flatMap(a -> a.suspects().stream().findFirst())
                .map(s -> new Lead(s.ref(), s.probability(), Lead.By.FRAMES))
                .or(() -> open.advice().hypotheses().stream()
                        .filter(h -> h.probability() >= WORTH_NAMING
                                && open.job().board().part(h.target()).isPresent())
                        .findFirst()
                        .map(h -> new Lead(h.target(), h.probability(), Lead.By.METER)));
    }
}
