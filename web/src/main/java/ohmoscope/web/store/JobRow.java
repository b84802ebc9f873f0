package ohmoscope.web.store;

import java.time.Instant;
import java.util.Optional;
import ohmoscope.core.job.Hunt;

/**
 * A job without its evidence.
 *
 * @param device what it is; empty where the board's name says it
 * @param hunt the number of the hunt that is being worked on
 * @param statedRail what somebody said that it is about
 */
public record JobRow(
        long id,
        String number,
        String title,
        String device,
        long boardId,
        int hunt,
        Optional<String> statedRail,
        Instant openedAt,
        Instant importedAt) {
    /** As another of its hunts has it. */
    public JobRow at(Hunt other) {
        return new JobRow(id, number, title, device, boardId, other.number(), other.statedRail(), openedAt, importedAt);
    }
}
