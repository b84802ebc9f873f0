package ohmoscope.web.proof;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.core.prove.Walk;
import ohmoscope.core.rework.Way;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.JobRow;
import ohmoscope.web.store.ReworkStore;
import org.junit.jupiter.api.Test;

class HandBackViewTest {
    private static final Instant OPENED = Instant.parse("2026-02-01T09:00:00Z");

    private static JobFile.Stored job(Observation... observations) {
        List<EvidenceStore.Entry> entries = new ArrayList<>();
        for (Observation observation : observations) {
            entries.add(new EvidenceStore.Entry(observation, OPENED.plusSeconds(observation.seq()), "bench"));
        }
        Bundle bundle = new Bundle(
                new Bundle.Job("K-9", "Wet", Optional.of(OPENED)),
                Fixtures.board(),
                RailInQuestion.stated("VSYS"),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                List.of(observations),
                Map.of());
        return new JobFile.Stored(
                new JobRow(1, "K-9", "Wet", "", 1, 1, Optional.of("VSYS"), OPENED, OPENED), bundle, entries);
    }

    private static final StoredAnalysis THEN = new StoredAnalysis(
            Verdict.PART,
            List.of(new StoredSuspect("C3", 0.93, 0.1)),
            0,
            0,
            Optional.empty(),
            Optional.of(new FaultResistance(0.012, 0.002, 0.06, 2, 0.12)),
            new EnumMap<>(Warning.class),
            List.of(),
            SlabParameters.expected(Fixtures.board()),
            List.of(),
            1,
            Optional.empty(),
            OptionalDouble.empty());

    private static HandBackView page(
            JobFile.Stored job, Optional<StoredAnalysis> analysis, Optional<StoredAnalysis> then) {
        return page(job, analysis, then, List.of());
    }

    private static HandBackView page(
            JobFile.Stored job,
            Optional<StoredAnalysis> analysis,
            Optional<StoredAnalysis> then,
            List<ReworkStore.Done> reworks) {
        List<Observation> all = job.bundle().observations();
        Advisor advisor = new Advisor(job.board());
        List<Observation> before =
                all.stream().takeWhile(o -> !(o instanceof Observation.Change)).toList();
        Walk walk = Walk.of(all, false, 0, false, job.proof());
        OpenJobs.Open open = new OpenJobs.Open(
                job,
                advisor.advise(Optional.of("VSYS"), "", all),
                Schools.DEFAULT,
                analysis,
                job.proof(),
                walk,
                JobHead.of(job, walk),
                PowerTree.of(new BoardIndex(job.board())),
                Instant.EPOCH,
                RemovalCost.Minutes.USUAL,
                Optional.empty());
        return HandBackView.of(open, then, advisor.advise(Optional.of("VSYS"), "", before), reworks, ZoneOffset.UTC);
    }

    /** How a part came off stands beside it. */
    @Test
    void whatWasDoneSaysByWhat() {
        HandBackView page = page(
                job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3")),
                Optional.empty(),
                Optional.empty(),
                List.of(new ReworkStore.Done(
                        2,
                        "C3",
                        Way.Method.AIR,
                        OptionalDouble.of(4),
                        OptionalDouble.of(350),
                        OptionalDouble.of(12),
                        1,
                        OptionalDouble.of(14))));
        assertThat(page.done()).containsExactly("C3 removed with hot air set to 350 °C, in 14 s.");
        assertThat(page.cause()).startsWith("Liquid, ");
    }

    @Test
    void withoutFramesTheReadingsSayWhatWasKnown() {
        HandBackView page = page(
                job(
                        Fixtures.diode(1, "VSYS", 0.003),
                        new Observation.Look(2, "C3", Observation.LookFinding.CRACKED),
                        Fixtures.removed(3, "C3"),
                        Fixtures.diode(4, "VSYS", 0.42)),
                Optional.empty(),
                Optional.empty());
        assertThat(page.knownThen()).startsWith("When it was decided, the readings gave “C3 shorted”");
        assertThat(page.wrong()).isEqualTo("The capacitor C3 on the top side shorted VSYS to ground.");
    }

    @Test
    void aProvenRepairSaysBeforeAndAfter() {
        HandBackView page = page(
                job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3"), Fixtures.diode(3, "VSYS", 0.42)),
                Optional.of(THEN),
                Optional.of(THEN));
        assertThat(page.state()).isEqualTo("cleared");
        assertThat(page.wrong())
                .isEqualTo("The capacitor C3 on the top side shorted VSYS to ground through about 12 mΩ.");
        assertThat(page.numbers().get(0))
                .isEqualTo(new HandBackView.Row("diode, VSYS at C1", "0.003 V", "0.420 V", "0.38–0.46 V"));
        assertThat(page.numbers().get(1).before()).isEqualTo("0.120 V, 2.00 A");
        assertThat(page.done()).containsExactly("C3 removed with heat.");
        assertThat(page.knownThen()).isEqualTo("When C3 was taken off, the frames gave it 93 %.");
        assertThat(page.date()).isEqualTo("1 February 2026");
        assertThat(page.evidence()).hasSize(3);
        assertThat(page.evidence().get(0).time()).isEqualTo("1 Feb 09:00");
    }

    @Test
    void whatIsNotProvenIsNotClaimed() {
        HandBackView open = page(
                job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3")), Optional.of(THEN), Optional.empty());
        assertThat(open.stateWords()).startsWith("Not proven yet");
        assertThat(open.wrong()).startsWith("Suspected: the capacitor C3");
        assertThat(open.numbers().get(0).after()).isEqualTo("not read yet");
        assertThat(open.knownThen()).containsIgnoringCase("no frames had been looked into");
    }

    @Test
    void anotherPartThanTheFramesSpokeFor() {
        HandBackView page = page(
                job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C5")), Optional.of(THEN), Optional.of(THEN));
        assertThat(page.knownThen()).contains("spoke for another part");
    }

    @Test
    void anUntouchedJobSaysSo() {
        HandBackView page = page(job(), Optional.empty(), Optional.empty());
        assertThat(page.stateWords()).isEqualTo("Nothing has been changed on this board yet.");
        assertThat(page.wrong()).isEqualTo("No part has been named on VSYS.");
        assertThat(page.knownThen()).isEmpty();
        assertThat(page.done()).isEmpty();
    }
}
