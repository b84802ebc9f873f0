package ohmoscope.web.store;

import java.time.Instant;

/** A job without its evidence. */
public record JobRow(
        long id, String number, String title, long boardId, String rail, Instant openedAt, Instant importedAt) {}
