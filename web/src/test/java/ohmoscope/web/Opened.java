package ohmoscope.web;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.bench.demo.DecisionBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.core.prove.Walk;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobRow;

/** A job of the bench console laid open, from typed lines. */
public final class Opened {
    private static final Instant AT = Instant.parse("2026-03-01T09:00:00Z");

    private Opened() {}

    public static OpenJobs.Open job(Schools schools, String... lines) {
        Board board = DecisionBoards.heron();
        EntryLine entryLine = new EntryLine(board);
        List<Observation> observations = new ArrayList<>();
        List<EvidenceStore.Entry> entries = new ArrayList<>();
        for (String line : lines) {
            EntryLine.Parsed parsed = entryLine.parse(line, observations.size() + 1);
            if (!(parsed instanceof EntryLine.Parsed.Entry entry)) {
                throw new IllegalArgumentException(line);
            }
            observations.add(entry.observation());
            entries.add(new EvidenceStore.Entry(entry.observation(), AT.plusSeconds(observations.size()), "ada"));
        }
        Bundle bundle = new Bundle(
                new Bundle.Job("K-9", "Console is dark", Optional.of(AT)),
                board,
                RailInQuestion.stated("VMAIN"),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                observations,
                Map.of());
        JobFile.Stored job = new JobFile.Stored(
                new JobRow(9, "K-9", "Console is dark", "", 1, 1, Optional.of("VMAIN"), AT, AT), bundle, entries);
        Walk walk = Walk.of(observations, false, 0, false, Proof.of(board, "VMAIN", observations));
        return new OpenJobs.Open(
                job,
                new Advisor(board).advise(Optional.of("VMAIN"), "", observations, schools),
                schools,
                Optional.empty(),
                job.proof(),
                walk,
                JobHead.of(job, walk),
                PowerTree.of(new BoardIndex(board)),
                AT.plusSeconds(lines.length),
                RemovalCost.Minutes.USUAL,
                Optional.empty());
    }

    public static OpenJobs.Open job(String... lines) {
        return job(Schools.DEFAULT, lines);
    }

    /** The same job with hazards ticked at receipt, looked at some time after its last entry. */
    public static OpenJobs.Open later(OpenJobs.Open open, Duration after, String... hazards) {
        JobFile.Stored job = open.job();
        return new OpenJobs.Open(
                new JobFile.Stored(
                        job.row(),
                        job.bundle(),
                        job.entries(),
                        Optional.of(new IntakeStore.Intake("", "", "", List.of(hazards))),
                        job.board(),
                        List.of()),
                open.advice(),
                open.schools(),
                open.analysis(),
                open.proof(),
                open.walk(),
                open.head(),
                open.tree(),
                open.at().plus(after),
                RemovalCost.Minutes.USUAL,
                Optional.empty());
    }
}
