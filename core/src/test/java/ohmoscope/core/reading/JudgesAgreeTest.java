package ohmoscope.core.reading;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Finding.Code;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.prove.Proof;
import org.junit.jupiter.api.Test;

/** Whatever value is read in whatever mode, before and after a part was lifted: sheet, findings and proof say the same. */
class JudgesAgreeTest {
    private static final int TRIES = 120;
    private static final List<ReadMode> MODES = List.of(ReadMode.DIODE, ReadMode.OHMS, ReadMode.CONTINUITY);

    private final Board board = Fixtures.board();
    private final Interpreter interpreter = new Interpreter(board);
    private final Advisor advisor = new Advisor(board);
    private final Random random = new Random(31);

    private Read read(int seq, ReadMode mode) {
        double value = switch (mode) {
            case DIODE -> 0.001 * Math.pow(1500, random.nextDouble());
            case OHMS -> 0.02 * Math.pow(1e7, random.nextDouble());
            default -> random.nextInt(4) == 0 ? random.nextInt(2) : 0.05 * Math.pow(600, random.nextDouble());
        };
        return Fixtures.read(
                seq, mode, "VSYS", "C1", random.nextInt(12) == 0 ? OptionalDouble.empty() : OptionalDouble.of(value));
    }

    @Test
    void theyAgree() {
        for (int i = 0; i < TRIES; i++) {
            ReadMode mode = MODES.get(random.nextInt(MODES.size()));
            Read before = read(1, mode);
            Read after = read(3, mode);
            List<Observation> entries = new ArrayList<>(List.of(before));
            Says was = interpreter.unpowered(before).orElseThrow().says();
            agrees(entries, before, was);
            entries.add(Fixtures.removed(2, "C3"));
            entries.add(after);
            Says is = interpreter.unpowered(after).orElseThrow().says();
            Advice advice = agrees(entries, after, is);
            Proof proof = Proof.of(board, "VSYS", entries);
            boolean wasWrong = was == Says.SHORTED || was == Says.LOW;
            if (wasWrong) {
                assertThat(proof.state() == Proof.State.CLEARED)
                        .as("%s, then %s", before, after)
                        .isEqualTo(is.right());
                assertThat(proof.state() == Proof.State.ABOVE_RANGE).isEqualTo(is == Says.HIGH);
            } else {
                assertThat(proof.state()).isNotEqualTo(Proof.State.STILL_THERE);
            }
            boolean cleared = advice.findings().stream().anyMatch(f -> f.code() == Code.SHORT_CLEARED);
            assertThat(cleared).as("%s, then %s", before, after).isEqualTo(was == Says.SHORTED && is.notShorted());
        }
    }

    private Advice agrees(List<Observation> entries, Read read, Says says) {
        Advice advice = advisor.advise(Optional.of("VSYS"), "", entries);
        assertThat(advice.sign(read.seq()).map(Sign::says)).as("%s", read).contains(says);
        assertThat(found(advice, Code.RAIL_SHORTED, read)).isEqualTo(says == Says.SHORTED);
        assertThat(found(advice, Code.RAIL_LOW, read)).isEqualTo(says == Says.LOW);
        assertThat(found(advice, Code.RAIL_GOOD, read)).isEqualTo(says == Says.GOOD);
        return advice;
    }

    private static boolean found(Advice advice, Code code, Read read) {
        return advice.findings().stream()
                .anyMatch(f -> f.code() == code && f.because().contains(read.seq()));
    }
}
