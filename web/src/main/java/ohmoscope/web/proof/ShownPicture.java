package ohmoscope.web.proof;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.IntakeStore;

/** A picture of a job as its hand-back shows it. @param caption whether it is from before the repair, its part, its words */
public record ShownPicture(long id, String caption) {
    private static final String AS_IT_CAME = "as it came in";

    /** In the order in which they were taken. @param repair what proves or ends it, where there was a repair */
    static List<ShownPicture> of(JobFile.Stored job, List<IntakeStore.Photo> photos, Optional<Change> repair) {
        Optional<Instant> firstHeat = made(job, o -> o.observation() instanceof Change c && c.heat());
        Optional<Instant> repaired =
                repair.flatMap(r -> made(job, o -> o.observation().seq() == r.seq()));
        return photos.stream()
                .map(p -> new ShownPicture(p.id(), caption(p, firstHeat, repaired)))
                .toList();
    }

    private static Optional<Instant> made(JobFile.Stored job, Predicate<EvidenceStore.Entry> which) {
        return job.entries().stream().filter(which).findFirst().map(EvidenceStore.Entry::madeAt);
    }

    private static String caption(IntakeStore.Photo photo, Optional<Instant> firstHeat, Optional<Instant> repaired) {
        boolean after = repaired.map(photo.at()::isAfter).orElse(false);
        boolean before = firstHeat.map(photo.at()::isBefore).orElse(false);
        String when = after ? "After the repair" : before ? "Before" : "";
        String what = photo.pinned()
                        .map(ref -> ref + (photo.caption().isEmpty() ? "" : ": "))
                        .orElse("")
                + photo.caption();
        if (when.isEmpty()) {
            return what.isEmpty() ? AS_IT_CAME : what;
        }
        return what.isEmpty() ? when + (before ? ", " + AS_IT_CAME : "") : when + " · " + what;
    }
}
