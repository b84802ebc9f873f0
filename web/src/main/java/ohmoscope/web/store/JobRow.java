package ohmoscope.web.store;

import java.time.Instant;
import java.util.Optional;

/**
 * A job without its evidence.
 *
 * @param device what it is; empty where the board's name says it
 * @param statedRail what somebody said that it is about
 */
public record JobRow(
        long id,
        String number,
        String title,
        String device,
        long boardId,
        Optional<String> statedRail,
        Instant openedAt,
        Instant importedAt) {}
