package ohmoscope.web.entry;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.Set;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.prove.Joints;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.EntryChanged;
import ohmoscope.web.store.DecisionStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.MeansStore;
import ohmoscope.web.store.SchoolStore;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What a technician does to a job: keep, correct and withdraw entries, lift a part, read again. */
@Service
public class Bench {
    private final JobFile jobs;
    private final EvidenceStore evidence;
    private final DecisionStore decisions;
    private final AnalysisRunner analyses;
    private final SchoolStore schools;
    private final IntakeStore intakes;
    private final MeansStore means;
    private final GoodStore good;
    private final JsonMapper mapper;
    private final ApplicationEventPublisher events;

    Bench(
            JobFile jobs,
            EvidenceStore evidence,
            DecisionStore decisions,
            AnalysisRunner analyses,
            SchoolStore schools,
            IntakeStore intakes,
            MeansStore means,
            GoodStore good,
            JsonMapper mapper,
            ApplicationEventPublisher events) {
        this.jobs = jobs;
        this.good = good;
        this.evidence = evidence;
        this.decisions = decisions;
        this.analyses = analyses;
        this.schools = schools;
        this.intakes = intakes;
        this.means = means;
        this.mapper = mapper;
        this.events = events;
    }

    /**
     * A line that was not understood; nothing of its block was kept.
     *
     * @param line its number in the block, from 1
     * @param lines how many there were
     */
    public record Refused(int line, int lines, EntryLine.Parsed.NotUnderstood why) {}

    /**
     * Keeps a line, or a block of lines, all or none.
     *
     * @return the line that was not understood; empty when all were kept
     * @throws EntryChanged when an entry that is corrected or withdrawn was changed by somebody else meanwhile
     */
    @Transactional
    public Optional<Refused> enter(String number, String text, String by) throws IOException {
        return enter(number, text, OptionalLong.empty(), by);
    }

    /** @param seen the version of the one entry that is corrected, as the page showed it; empty for the present one */
    @Transactional
    public Optional<Refused> enter(String number, String text, OptionalLong seen, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        long jobId = job.row().id();
        int next = evidence.nextSeq(jobId);
        requireRoom(job, text.lines().count());
        EntryLine entryLine = new EntryLine(job.board(), habit(job, by));
        List<String> lines = text.strip().lines().filter(l -> !l.isBlank()).toList();
        lines = lines.isEmpty() ? List.of("") : lines;
        Map<Integer, Long> versions = new HashMap<>();
        job.entries().forEach(e -> versions.put(e.observation().seq(), e.version()));
        List<EntryLine.Parsed> parsed = new ArrayList<>();
        for (String line : lines) {
            EntryLine.Parsed one = settled(entryLine.parse(line, next + parsed.size()), jobId, versions.keySet(), by);
            if (one instanceof EntryLine.Parsed.NotUnderstood why) {
                return Optional.of(new Refused(parsed.size() + 1, lines.size(), why));
            }
            parsed.add(one);
        }
        if (lines.size() == 1 && seen.isPresent() && parsed.get(0) instanceof EntryLine.Parsed.Correction c) {
            versions.put(c.observation().seq(), seen.getAsLong());
        }
        for (EntryLine.Parsed one : parsed) {
            keep(job, one, versions, by);
        }
        changed(job, false);
        return Optional.empty();
    }

    private static void requireRoom(JobFile.Stored job, long more) {
        if (job.entries().size() + more > Bundle.MOST_OBSERVATIONS) {
            throw new InvalidMember(
                    "entries",
                    "would be more than " + Bundle.MOST_OBSERVATIONS + ", which no job has: open another job");
        }
    }

    /** What a line leaves unsaid for this job and technician. */
    public EntryLine.Habit habit(JobFile.Stored job, String by) {
        Schools chosen = schools.of(by);
        Optional<PowerSource> feeding = job.bundle().observations().stream()
                .filter(Power.class::isInstance)
                .map(o -> ((Power) o).from())
                .reduce((a, b) -> b);
        return new EntryLine.Habit(
                Optional.of(chosen.readMode()),
                chosen.lead() == Schools.Lead.BLACK ? Optional.of("black-on-ground") : Optional.empty(),
                feeding,
                means.of(by).map(kept -> OptionalDouble.of(kept.leadOhms())).orElse(OptionalDouble.empty()));
    }

    /** Which entry is meant, and whether it is there. */
    private EntryLine.Parsed settled(EntryLine.Parsed parsed, long jobId, Set<Integer> known, String by) {
        if (parsed instanceof EntryLine.Parsed.Withdrawal w) {
            Optional<Integer> seq = w.seq().or(() -> evidence.lastBy(jobId, by));
            return seq.filter(known::contains).isPresent()
                    ? new EntryLine.Parsed.Withdrawal(seq)
                    : noSuchEntry(w.seq().map(String::valueOf).orElse(""));
        }
        if (parsed instanceof EntryLine.Parsed.Correction c
                && !known.contains(c.observation().seq())) {
            return noSuchEntry(String.valueOf(c.observation().seq()));
        }
        return parsed;
    }

    private static EntryLine.Parsed noSuchEntry(String word) {
        return new EntryLine.Parsed.NotUnderstood(EntryLine.Reason.NO_SUCH_ENTRY, word);
    }

    private void keep(JobFile.Stored job, EntryLine.Parsed parsed, Map<Integer, Long> versions, String by)
            throws IOException {
        long jobId = job.row().id();
        if (parsed instanceof EntryLine.Parsed.Reference r) {
            good.add(job.row().boardId(), r.good(), by);
        } else if (parsed instanceof EntryLine.Parsed.Withdrawal w) {
            int place = w.seq().orElseThrow();
            evidence.withdraw(jobId, place, versions.get(place), by);
        } else if (parsed instanceof EntryLine.Parsed.Correction c) {
            int place = c.observation().seq();
            versions.put(place, evidence.correct(jobId, c.observation(), versions.get(place), by));
        } else {
            add(jobId, ((EntryLine.Parsed.Entry) parsed).observation(), by);
        }
    }

    /** Records that a part was taken off, with what was known when it was decided. */
    @Transactional
    public void lift(String number, String ref, String by) throws IOException {
        lift(number, ref, true, by);
    }

    /**
     * The same, with heat or without.
     *
     * @return the entry's number
     */
    @Transactional
    public int lift(String number, String ref, boolean heat, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        if (job.board().part(ref).isEmpty()) {
            throw new InvalidMember("ref", "names the part " + ref + ", which this board does not have");
        }
        int seq = evidence.nextSeq(job.row().id());
        keep(job, new Change(seq, ChangeAction.REMOVED, ref, heat), by);
        return seq;
    }

    /** Records the reading that the proof asks for. */
    @Transactional
    public void readAgain(String number, OptionalDouble value, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        Read before = job.proof()
                .before()
                .orElseThrow(() -> new InvalidMember("value", "has no reading before the change to be compared with"));
        value.ifPresent(v -> ohmoscope.core.board.Check.within("value", v, 0, 1e9));
        keep(
                job,
                new Read(
                        evidence.nextSeq(job.row().id()),
                        before.mode(),
                        before.net(),
                        before.ref(),
                        before.pin(),
                        before.across(),
                        before.to(),
                        value,
                        before.lead(),
                        Optional.empty()),
                by);
    }

    /**
     * Records whether a leg of a part and a net beep.
     *
     * @param pin of the part, by its name
     * @param to a net of the board
     */
    @Transactional
    public void beeped(String number, String ref, String pin, String to, boolean beeps, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        boolean there = job.board()
                .part(ref)
                .filter(p -> p.pins().stream().anyMatch(x -> x.name().equals(pin)))
                .isPresent();
        if (!there) {
            throw new InvalidMember("pin", "names " + ref + "." + pin + ", which this board does not have");
        }
        if (job.board().net(to).isEmpty()) {
            throw new InvalidMember("to", "names the net " + to + ", which this board does not have");
        }
        requireRoom(job, 1);
        keep(job, Joints.beeped(evidence.nextSeq(job.row().id()), ref, pin, to, beeps), by);
    }

    /** Makes the entry for a trace. */
    public interface TraceEntry {
        /** @param stored the name that the trace is kept under */
        Observation of(int seq, String stored);
    }

    /** Keeps a trace, under a name of its own, with the entry that it belongs to. */
    @Transactional
    public void trace(String number, String name, String csv, TraceEntry entry, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        int seq = evidence.nextSeq(job.row().id());
        String plain = name.replaceAll("^.*[/\\\\]", "").replaceAll("[^A-Za-z0-9._-]", "-");
        String stored = seq + "-" + (plain.isEmpty() ? "trace.csv" : plain);
        evidence.addTrace(job.row().id(), stored, csv);
        keep(job, entry.of(seq, stored), by);
    }

    /** Makes the entries for what a supply's log holds. */
    public interface LogEntries {
        /** @param first the number of the first of them */
        List<Observation> from(int first);
    }

    /**
     * Keeps what a supply's log says was injected.
     *
     * @param clock the log, where the frames are to be timed by it; empty to keep only the entries
     * @throws InvalidMember where the job's frames are timed by another log already
     */
    @Transactional
    public void injected(String number, LogEntries entries, Optional<SupplyLog> clock, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        long jobId = job.row().id();
        if (clock.isPresent() && job.bundle().supplyLog().isPresent()) {
            throw new InvalidMember("clock", "cannot be this file's: the job's frames go by an earlier log");
        }
        List<Observation> made = entries.from(evidence.nextSeq(jobId));
        requireRoom(job, made.size());
        made.forEach(o -> add(jobId, o, by));
        if (clock.isPresent()) {
            Injection injection = job.bundle()
                    .injection()
                    .orElseGet(() -> Injection.into(job.bundle().rail(), OptionalDouble.empty()));
            evidence.addInjection(jobId, Optional.of(injection), clock);
        }
        changed(job, true);
    }

    /** Keeps how the device came in; the customer's words weigh on what is suspected. */
    @Transactional
    public void receive(String number, IntakeStore.Intake intake, String by) throws IOException {
        JobFile.Stored job = jobs.withoutTraces(number);
        intakes.add(job.row().id(), intake, by);
        changed(job, true);
    }

    private void keep(JobFile.Stored job, Observation observation, String by) throws IOException {
        add(job.row().id(), observation, by);
        changed(job, false);
    }

    private void add(long jobId, Observation observation, String by) {
        evidence.add(jobId, observation, by);
        if (observation instanceof Change) {
            String known =
                    analyses.latest(jobId).map(mapper::writeValueAsString).orElse("");
            decisions.add(jobId, observation.seq(), known, by);
        }
    }

    /** @param anew whether the frames must be looked into again even if the entries of their circuit are the same */
    private void changed(JobFile.Stored before, boolean anew) throws IOException {
        long jobId = before.row().id();
        boolean frames = !before.bundle().captures().isEmpty();
        if (frames && (anew || !jobs.withoutTraces(jobId).frameCircuit().equals(before.frameCircuit()))) {
            analyses.request(jobId);
        }
        // After the analysis, as its worker does: the two lock the same rows.
        jobs.refreshState(jobId);
        events.publishEvent(new EvidenceChanged(jobId));
    }
}
