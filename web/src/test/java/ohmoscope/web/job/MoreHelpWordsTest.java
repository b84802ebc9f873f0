package ohmoscope.web.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.store.JobRow;
import org.junit.jupiter.api.Test;

class MoreHelpWordsTest {
    private static final Instant AT = Instant.parse("2026-02-01T09:00:00Z");
    private final Board board = Fixtures.board();

    private JobFile.Stored job(Side seen) {
        CaptureSpec spec = Fixtures.capture(96, 72, 60, Fixtures.corners(40, 30, 2.2));
        CaptureSpec there = new CaptureSpec(
                spec.id(),
                seen,
                spec.width(),
                spec.height(),
                spec.kelvinPerCount(),
                spec.kelvinAtZero(),
                spec.netdK(),
                spec.emissivity(),
                spec.registration(),
                spec.timesS());
        Bundle bundle = new Bundle(
                new Bundle.Job("K-7", "No charge", Optional.of(AT)),
                board,
                RailInQuestion.stated("VSYS"),
                Optional.empty(),
                Optional.of(Fixtures.log(1, 5, 6, 0.2, 2)),
                List.of(new LocateInput.Capture(there, Fixtures.frames(List.of()))),
                List.of(),
                Map.of());
        return new JobFile.Stored(
                new JobRow(1, "K-7", "No charge", "", 1, 1, Optional.of("VSYS"), AT, AT), bundle, List.of());
    }

    private StoredAnalysis analysis(Verdict verdict, double sigmaMm) {
        return new StoredAnalysis(
                verdict,
                List.of(),
                0.01,
                0.01,
                Optional.of(new SourceEstimate(
                        20, 14, Side.TOP, sigmaMm, sigmaMm, sigmaMm, 0, 0.05, OptionalDouble.empty())),
                FaultResistance.from(
                        Fixtures.log(1, 5, 6, 0.2, 2), Optional.empty(), Rail.between(board, "VSYS", "VSYS")),
                new EnumMap<>(Warning.class),
                List.of(),
                SlabParameters.expected(board),
                List.of(),
                1,
                Optional.empty(),
                OptionalDouble.empty());
    }

    @Test
    void eachWayIsToldWithBothNumbers() {
        List<String> words = MoreHelpWords.of(job(Side.TOP), Optional.of(analysis(Verdict.AREA, 1.4)));
        assertThat(words)
                .isNotEmpty()
                .allSatisfy(w -> assertThat(w).contains("±1.4 mm now, ±").endsWith(" mm then."));
        assertThat(words).anyMatch(w -> w.startsWith("Move the camera closer"));
        assertThat(words).anyMatch(w -> w.startsWith("Let 3.0 A through instead of 2.0 A"));
        assertThat(words).noneMatch(w -> w.startsWith("Turn the board over"));
    }

    @Test
    void fromTheOtherSideTurningOverIsSaid() {
        assertThat(MoreHelpWords.of(job(Side.BOTTOM), Optional.of(analysis(Verdict.AREA, 1.4))))
                .anyMatch(w -> w.startsWith("Turn the board over"));
    }

    @Test
    void whereNothingWasFoundNothingIsPromised() {
        assertThat(MoreHelpWords.of(job(Side.TOP), Optional.empty())).isEmpty();
        assertThat(MoreHelpWords.of(job(Side.TOP), Optional.of(analysis(Verdict.NONE, 1.4))))
                .isEmpty();
    }
}
