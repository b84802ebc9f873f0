package ohmoscope.web.imports;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CancellationException;
import java.util.function.DoublePredicate;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.BundleReader;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.CaptureStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Service;

/** Puts a bundle on the shelf: all of it in one transaction, or nothing. */
@Service
public class BundleImporter {
    private final JobStore jobs;
    private final BoardStore boards;
    private final EvidenceStore evidence;
    private final CaptureStore captures;
    private final Transactions transactions;
    private final Clock clock;

    BundleImporter(
            JobStore jobs,
            BoardStore boards,
            EvidenceStore evidence,
            CaptureStore captures,
            Transactions transactions,
            Clock clock) {
        this.jobs = jobs;
        this.boards = boards;
        this.evidence = evidence;
        this.captures = captures;
        this.transactions = transactions;
        this.clock = clock;
    }

    /**
     * @param goOn told the share that is done; answers false to cancel
     * @return the new job's id
     * @throws BundleException when the bundle cannot be used, or its job number is taken
     */
    public long read(Path file, String by, DoublePredicate goOn) throws IOException {
        return add(new BundleReader().read(file), by, goOn);
    }

    /** The same from a bundle already read. */
    public long add(Bundle bundle, String by, DoublePredicate goOn) throws IOException {
        return transactions.run(() -> store(bundle, by, goOn));
    }

    private long store(Bundle bundle, String by, DoublePredicate goOn) throws IOException {
        Instant opened = bundle.job().opened().orElseGet(clock::instant);
        String number = bundle.job().id();
        if (!JobStore.usable(number)) {
            throw new BundleException(
                    "bundle.json",
                    "job.id",
                    "must have 1 to 40 letters, digits, dots, underscores or hyphens, as it stands in addresses; change it");
        }
        long jobId = jobs.add(new JobStore.Opening(
                        number,
                        bundle.job().title(),
                        "",
                        boards.add(bundle.board(), true, List.of()),
                        bundle.statedRail().or(() -> bundle.injection().map(Injection::net)),
                        opened))
                .orElseThrow(() -> new BundleException(
                        "bundle.json",
                        "job.id",
                        "is " + number + ", which is already on the shelf: change the number, or open that job"));
        evidence.addInjection(jobId, bundle.injection(), bundle.supplyLog());
        for (Observation observation : bundle.observations()) {
            evidence.add(jobId, observation, by);
        }
        bundle.traces().forEach((name, content) -> evidence.addTrace(jobId, name, content));
        List<Capture> all = bundle.captures();
        int frames = all.stream().mapToInt(c -> c.spec().frameCount()).sum();
        int before = 0;
        for (int i = 0; i < all.size(); i++) {
            int start = before;
            captures.add(jobId, i, all.get(i), by, done -> {
                if (!goOn.test((start + done) / (double) Math.max(1, frames))) {
                    throw new CancellationException(String.format(Locale.ROOT, "import of %s cancelled", number));
                }
            });
            before += all.get(i).spec().frameCount();
        }
        return jobId;
    }
}
