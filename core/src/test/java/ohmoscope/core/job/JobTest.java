package ohmoscope.core.job;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.RailInQuestion;
import org.junit.jupiter.api.Test;

class JobTest {
    private static final Board BOARD = Fixtures.board();
    private static final Hunt SECOND = new Hunt(2, Optional.of("VIN"));

    private static Job job(int current, List<Observation> observations) {
        return new Job(BOARD, List.of(Hunt.FIRST, SECOND), current, observations);
    }

    private static List<Observation> entries(String... lines) {
        List<Observation> entries = new ArrayList<>();
        for (String line : lines) {
            entries.add(((EntryLine.Parsed.Entry) new EntryLine(BOARD).parse(line, entries.size() + 1)).observation());
        }
        return entries;
    }

    @Test
    void eachHuntHasItsRail() {
        assertEquals("VIN", job(2, List.of()).question(SECOND, Optional.empty()).net());
        assertEquals(
                RailInQuestion.Known.NOT_YET,
                job(2, List.of()).question(Hunt.FIRST, Optional.empty()).known());
        assertEquals(
                "VBUS",
                job(1, List.of())
                        .question(Hunt.FIRST, Optional.of(Injection.into("VBUS", OptionalDouble.empty())))
                        .net());
        // A rail that another board under the job does not have is as good as unsaid.
        assertEquals(
                RailInQuestion.Known.NOT_YET,
                job(1, List.of())
                        .question(new Hunt(1, Optional.of("GONE")), Optional.empty())
                        .known());
    }

    @Test
    void theDeviceIsNotReadyWhileAnotherHuntIsOpen() {
        List<Observation> told = entries("C1 d .002", "C2 d .002", "removed C1 cold", "C2 d .45");
        Job job = job(1, told);
        assertEquals(Proof.State.CLEARED, job.proof("VSYS").state());
        assertEquals(List.of("VIN"), job.unprovenElsewhere());
        assertEquals(List.of(), new Job(BOARD, List.of(Hunt.FIRST), 1, told).unprovenElsewhere());
    }

    @Test
    void huntsAreCountedFromOne() {
        assertThrows(InvalidMember.class, () -> new Job(BOARD, List.of(SECOND), 1, List.of()));
        assertThrows(InvalidMember.class, () -> job(3, List.of()));
        assertThrows(InvalidMember.class, () -> new Hunt(0, Optional.empty()));
    }
}
