package ohmoscope.web.proof;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.web.Opened;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.IntakeStore.Photo;
import org.junit.jupiter.api.Test;

class ShownPictureTest {
    private static final Instant START = Instant.parse("2031-05-24T10:00:00Z");

    private static Photo photo(long id, int minute, String caption, String pinned) {
        return new Photo(
                id,
                caption,
                START.plusSeconds(60L * minute),
                "test",
                pinned.isEmpty() ? Optional.empty() : Optional.of(pinned));
    }

    /** Two parts come off, the second was it. */
    @Test
    void picturesArePartedByTheRepair() {
        JobFile.Stored plain = Opened.job().job();
        List<EvidenceStore.Entry> entries = new ArrayList<>();
        Change first = new Change(1, ChangeAction.REMOVED, "C2", true);
        Change second = new Change(2, ChangeAction.REMOVED, "C3", true);
        entries.add(new EvidenceStore.Entry(first, START.plusSeconds(600), "test"));
        entries.add(new EvidenceStore.Entry(second, START.plusSeconds(1200), "test"));
        JobFile.Stored job = new JobFile.Stored(plain.row(), plain.bundle(), entries);
        List<Photo> photos = List.of(
                photo(1, 1, "", ""),
                photo(2, 2, "scorched", "C3"),
                photo(3, 15, "between", ""),
                photo(4, 25, "", "C3"),
                photo(5, 26, "", ""));
        assertThat(ShownPicture.of(job, photos, Optional.of(second)))
                .extracting(ShownPicture::caption)
                .containsExactly(
                        "Before, as it came in",
                        "Before · C3: scorched",
                        "between",
                        "After the repair · C3",
                        "After the repair");
        assertThat(ShownPicture.of(plain, photos.subList(0, 2), Optional.empty()))
                .extracting(ShownPicture::caption)
                .containsExactly("as it came in", "C3: scorched");
    }
}
