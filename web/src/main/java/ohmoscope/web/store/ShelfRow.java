package ohmoscope.web.store;

import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;

/** The shelf's line for a job. */
public record ShelfRow(
        long id,
        String number,
        String title,
        String device,
        String revision,
        String rail,
        Instant openedAt,
        String step,
        Optional<String> verdict,
        Optional<String> leadRef,
        OptionalDouble leadProbability) {}
