package ohmoscope.web.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.argThat;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.EntryLine.Reason;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import ohmoscope.web.store.DecisionStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobRow;
import ohmoscope.web.store.MeansStore;
import ohmoscope.web.store.SchoolStore;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import tools.jackson.databind.json.JsonMapper;

/** What a technician's act leaves in the stores. */
class BenchTest {
    private static final Instant OPENED = Instant.parse("2026-02-01T09:00:00Z");
    private static final long ID = 7;

    private final JobFile jobs = mock(JobFile.class);
    private final EvidenceStore evidence = mock(EvidenceStore.class);
    private final DecisionStore decisions = mock(DecisionStore.class);
    private final AnalysisRunner analyses = mock(AnalysisRunner.class);
    private final JsonMapper mapper = JsonMapper.builder().build();
    private final SchoolStore schools = mock(SchoolStore.class);
    private final MeansStore means = mock(MeansStore.class);
    private final GoodStore good = mock(GoodStore.class);
    private final List<Object> told = new ArrayList<>();
    private final Bench bench = new Bench(
            jobs, evidence, decisions, analyses, schools, mock(IntakeStore.class), means, good, mapper, told::add);

    @BeforeEach
    void number() {
        when(evidence.nextSeq(ID)).thenReturn(9);
        when(analyses.latest(ID)).thenReturn(Optional.empty());
        when(schools.of("ada")).thenReturn(Schools.DEFAULT);
    }

    private void job(Observation... observations) throws IOException {
        Bundle bundle = new Bundle(
                new Bundle.Job("K-3", "Dead", Optional.of(OPENED)),
                Fixtures.board(),
                RailInQuestion.stated("VSYS"),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                List.of(observations),
                Map.of());
        JobRow row = new JobRow(ID, "K-3", "Dead", "", 1, 1, Optional.of("VSYS"), OPENED, OPENED);
        List<EvidenceStore.Entry> entries = Arrays.stream(observations)
                .map(o -> new EvidenceStore.Entry(o, OPENED, "ada"))
                .toList();
        when(jobs.withoutTraces("K-3")).thenReturn(new JobFile.Stored(row, bundle, entries));
    }

    @Test
    void aLineIsKeptUnderTheNextNumber() throws IOException {
        job();
        assertThat(bench.enter("K-3", "look C2 cracked", "ada")).isEmpty();
        verify(evidence).add(ID, new Look(9, "C2", LookFinding.CRACKED), "ada");
        verify(jobs).refreshState(ID);
        verify(decisions, never()).add(anyLong(), anyInt(), any(), any());
    }

    @Test
    void whoseLeadsAreKnownNeedNotSayThem() throws Exception {
        when(means.of("ada")).thenReturn(Optional.of(new MeansStore.Kept(0.041, 4, 30, 5)));
        job();
        bench.enter("K-3", "inj VSYS 1V 2A 0.2V 2A", "ada");
        verify(evidence)
                .add(eq(ID), argThat(o -> o instanceof Inject i && i.leadOhms().getAsDouble() == 0.041), eq("ada"));
    }

    @Test
    void aLineThatIsNotUnderstoodLeavesNothing() throws IOException {
        job();
        assertThat(bench.enter("K-3", "C77 d .1", "ada"))
                .hasValueSatisfying(n -> assertThat(n.why().reason()).isEqualTo(Reason.NO_SUCH_PLACE));
        verify(evidence, never()).add(anyLong(), any(), any());
        verify(jobs, never()).refreshState(anyLong());
    }

    @Test
    void aLiftIsKeptWithWhatWasKnownThen() throws IOException {
        job();
        StoredAnalysis known = new StoredAnalysis(
                Verdict.PART,
                List.of(new StoredSuspect("C3", 0.93, 0.1)),
                0,
                0,
                Optional.empty(),
                Optional.empty(),
                new EnumMap<>(Warning.class),
                List.of(),
                SlabParameters.expected(Fixtures.board()),
                List.of(),
                1,
                Optional.empty(),
                OptionalDouble.empty());
        when(analyses.latest(ID)).thenReturn(Optional.of(known));
        bench.lift("K-3", "C3", "ada");
        verify(evidence).add(ID, Fixtures.removed(9, "C3"), "ada");
        ArgumentCaptor<String> json = ArgumentCaptor.forClass(String.class);
        verify(decisions).add(eq(ID), eq(9), json.capture(), eq("ada"));
        assertThat(mapper.readValue(json.getValue(), StoredAnalysis.class).suspects())
                .isEqualTo(known.suspects());
    }

    @Test
    void aLiftWithoutAnAnalysisSaysThatNothingWasKnown() throws IOException {
        job();
        bench.enter("K-3", "removed C4", "ada");
        verify(decisions).add(ID, 9, "", "ada");
    }

    @Test
    void aPartThatIsNotThereCannotBeLifted() throws IOException {
        job();
        assertThatThrownBy(() -> bench.lift("K-3", "C77", "ada")).isInstanceOf(InvalidMember.class);
        verify(evidence, never()).add(anyLong(), any(), any());
    }

    @Test
    void theSecondReadingIsOfTheSamePoint() throws IOException {
        job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3"));
        bench.readAgain("K-3", OptionalDouble.of(0.42), "ada");
        verify(evidence).add(ID, Fixtures.diode(9, "VSYS", 0.42), "ada");
        bench.readAgain("K-3", OptionalDouble.empty(), "ada");
        verify(evidence).add(ID, Fixtures.read(9, ReadMode.DIODE, "VSYS", "C1", OptionalDouble.empty()), "ada");
    }

    @Test
    void aSecondReadingNeedsAFirstAndASaneValue() throws IOException {
        job(Fixtures.removed(2, "C3"));
        assertThatThrownBy(() -> bench.readAgain("K-3", OptionalDouble.of(0.4), "ada"))
                .hasMessageContaining("no reading before the change");
        job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3"));
        for (double bad : new double[] {-1, Double.NaN, 1e12}) {
            assertThatThrownBy(() -> bench.readAgain("K-3", OptionalDouble.of(bad), "ada"))
                    .isInstanceOf(InvalidMember.class)
                    .hasMessageStartingWith("value");
        }
        verify(evidence, never()).add(anyLong(), any(), any());
    }

    @Test
    void aBlockGoesInAtOnceOrNotAtAll() throws IOException {
        job();
        assertThat(bench.enter("K-3", "C1 d .41\n\nC2 d .40\nlook C3 cracked\n", "ada"))
                .isEmpty();
        verify(evidence).add(ID, new Look(11, "C3", LookFinding.CRACKED), "ada");
        assertThat(told).containsExactly(new EvidenceChanged(ID));
        job();
        assertThat(bench.enter("K-3", "C1 d .41\nC77 d .40", "ada"))
                .hasValueSatisfying(
                        r -> assertThat(r.line() + " of " + r.lines()).isEqualTo("2 of 2"));
        verify(evidence, times(3)).add(anyLong(), any(), any());
    }

    @Test
    void aCorrectionTakesAnEntrysPlace() throws IOException {
        job(Fixtures.diode(1, "VSYS", 0.003));
        when(evidence.correct(eq(ID), any(), anyLong(), eq("ada"))).thenReturn(7L);
        assertThat(bench.enter("K-3", "fix 1 look C2 cracked\nfix 1 look C2 burnt", "ada"))
                .isEmpty();
        verify(evidence).correct(ID, new Look(1, "C2", LookFinding.CRACKED), 0, "ada");
        verify(evidence).correct(ID, new Look(1, "C2", LookFinding.BURNT), 7, "ada");
        assertThat(bench.enter("K-3", "fix 1 look C2 clean", OptionalLong.of(3), "ada"))
                .isEmpty();
        verify(evidence).correct(ID, new Look(1, "C2", LookFinding.CLEAN), 3, "ada");
        assertThat(bench.enter("K-3", "fix 5 look C2 cracked", "ada"))
                .hasValueSatisfying(r -> assertThat(r.why().reason()).isEqualTo(Reason.NO_SUCH_ENTRY));
    }

    @Test
    void undoWithdrawsOnesOwnLastEntry() throws IOException {
        job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.diode(4, "VSYS", 0.3));
        when(evidence.lastBy(ID, "ada")).thenReturn(Optional.of(4));
        assertThat(bench.enter("K-3", "undo", "ada")).isEmpty();
        verify(evidence).withdraw(ID, 4, 0, "ada");
        when(evidence.lastBy(ID, "ada")).thenReturn(Optional.empty());
        assertThat(bench.enter("K-3", "undo", "ada")).isPresent();
    }

    @Test
    void theTechniciansSchoolFillsInTheMode() throws IOException {
        job();
        when(schools.of("ada"))
                .thenReturn(new Schools(
                        Schools.Meter.OHMS,
                        Schools.Lead.RED,
                        Schools.Proof.METER,
                        Schools.Injection.LOW_AND_CLIMB,
                        Schools.Port.MEASURE_FIRST,
                        Schools.Warmth.CAMERA));
        assertThat(bench.enter("K-3", "C1 42", "ada")).isEmpty();
        ArgumentCaptor<Observation> kept = ArgumentCaptor.forClass(Observation.class);
        verify(evidence).add(eq(ID), kept.capture(), eq("ada"));
        assertThat(((Observation.Read) kept.getValue()).mode()).isEqualTo(ReadMode.OHMS);
    }
}
