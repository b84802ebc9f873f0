package ohmoscope.web.store;

import java.time.Instant;
import java.util.Optional;

/** The shelf's line for a job. @param nextStep in a sentence; empty for a job that nobody has touched since it was kept */
public record ShelfRow(
        long id,
        String number,
        String title,
        String device,
        String revision,
        String rail,
        boolean railStated,
        Instant openedAt,
        String step,
        Optional<String> nextStep,
        Optional<String> verdict,
        Optional<JobStore.Lead> lead) {}
