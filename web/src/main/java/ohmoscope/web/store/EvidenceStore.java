package ohmoscope.web.store;

import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Named;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.formats.InjectionJson;
import ohmoscope.formats.ObservationJson;
import ohmoscope.formats.SupplyCsv;
import ohmoscope.web.config.EntryChanged;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Evidence: observations, the injection and its supply log, traces, good boards. Rows are only ever added. */
@Repository
public class EvidenceStore {
    private static final String OF_JOB = """
        select e.id, e.place, e.document, e.recorded_at, e.recorded_by, e.supersedes is not null as corrected,
               coalesce(made.recorded_at, e.recorded_at) as made_at
          from evidence e
          left join evidence made on made.job_id = e.job_id and made.seq = e.place
         where e.job_id = :job
           and e.kind <> 'withdrawn'
           and not exists (select 1 from evidence later where later.supersedes = e.id)
         order by e.place""";
    private static final String IN_FORCE = """
        select e.id, e.document
          from evidence e
         where e.job_id = :job and e.place = :place and e.kind <> 'withdrawn'
           and not exists (select 1 from evidence later where later.supersedes = e.id)""";
    private static final String LAST_BY = """
        select e.place
          from evidence e
          join job j on j.id = e.job_id
         where e.job_id = :job and e.recorded_by = :by and e.kind <> 'withdrawn' and e.recorded_at <> j.imported_at
           and not exists (select 1 from evidence later where later.supersedes = e.id)
         order by e.seq desc limit 1""";
    private static final String RENAME =
            "insert into point_name (job_id, was, called, recorded_by) values (:job, :was, :called, :by)";
    private static final String NEXT_SEQ = "select coalesce(max(seq), 0) + 1 from evidence where job_id = :job";
    private static final String LOCK_JOB = "select id from job where id = :job for update";
    private static final String ADD = """
        insert into evidence (job_id, seq, place, kind, document, recorded_by)
        values (:job, :seq, :seq, :kind, :document, :by)""";
    private static final String SUPERSEDE = """
        insert into evidence (job_id, seq, place, kind, document, recorded_by, supersedes)
        values (:job, :seq, :place, :kind, :document, :by, :supersedes)
        returning id""";
    private static final String TRACE = "select content from trace where job_id = :job and name = :name";
    private static final String TRACES = "select name, content from trace where job_id = :job";
    private static final String ADD_TRACE = "insert into trace (job_id, name, content) values (:job, :name, :content)";
    private static final String ADD_INJECTION =
            "insert into injection (job_id, hunt_no, document, supply_log) select id, hunt_no, :document, :log from job where id = :job";
    private static final String INJECTION =
            "select document, supply_log from injection where job_id = :job and hunt_no = :hunt order by id desc limit 1";

    private final JdbcClient jdbc;

    EvidenceStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * An observation and when it was recorded by whom.
     *
     * @param corrected whether it took the place of another
     * @param madeAt when the first of those in its place was recorded
     * @param version rises with each correction in its place
     */
    public record Entry(
            Observation observation,
            Instant recordedAt,
            String recordedBy,
            boolean corrected,
            Instant madeAt,
            long version) {
        public Entry(Observation observation, Instant recordedAt, String recordedBy) {
            this(observation, recordedAt, recordedBy, false, recordedAt, 0);
        }
    }

    /** What is in force, in order. */
    public List<Entry> ofJob(long jobId) throws IOException {
        List<Raw> rows =
                jdbc.sql(OF_JOB).param("job", jobId).query(EvidenceStore::raw).list();
        PointNames names = PointNames.of(jdbc, jobId);
        List<Entry> entries = new ArrayList<>();
        for (Raw row : rows) {
            Observation typed = ObservationJson.read(row.document());
            entries.add(new Entry(
                    names.none() ? typed : Named.renamed(typed, names::newest),
                    row.at(),
                    row.by(),
                    row.corrected(),
                    row.madeAt(),
                    row.version()));
        }
        return entries;
    }

    /** From now on a job's point is read under another name. */
    public void rename(long jobId, String was, String called, String by) {
        jdbc.sql(RENAME)
                .param("job", jobId)
                .param("was", was)
                .param("called", called)
                .param("by", by)
                .update();
    }

    private record Raw(String document, Instant at, String by, boolean corrected, Instant madeAt, long version) {}

    private static Raw raw(ResultSet row, int index) throws SQLException {
        return new Raw(
                row.getString("document"),
                row.getTimestamp("recorded_at").toInstant(),
                row.getString("recorded_by"),
                row.getBoolean("corrected"),
                row.getTimestamp("made_at").toInstant(),
                row.getLong("id"));
    }

    /** The number that the next entry gets; holds the job until the transaction ends, so that two technicians get two. */
    public int nextSeq(long jobId) {
        jdbc.sql(LOCK_JOB).param("job", jobId).query(Long.class).single();
        return jdbc.sql(NEXT_SEQ).param("job", jobId).query(Integer.class).single();
    }

    public void add(long jobId, Observation observation, String by) {
        jdbc.sql(ADD)
                .param("job", jobId)
                .param("seq", observation.seq())
                .param("kind", kind(observation))
                .param("document", ObservationJson.write(observation))
                .param("by", by)
                .update();
    }

    private static String kind(Observation observation) {
        return observation.getClass().getSimpleName().toLowerCase(Locale.ROOT);
    }

    /**
     * Puts an entry in the place of the one that has its number.
     *
     * @param seen the version of the entry that was to be corrected
     * @return the version that stands there now
     * @throws EntryChanged when another stands there meanwhile, or none
     */
    public long correct(long jobId, Observation observation, long seen, String by) throws IOException {
        return supersede(
                jobId,
                observation.seq(),
                kind(observation),
                ObservationJson.write(observation),
                seen,
                Optional.of(observation),
                by);
    }

    /**
     * Makes an entry count no more.
     *
     * @param seen the version of the entry that was to be withdrawn
     * @throws EntryChanged when another stands there meanwhile, or none
     */
    public void withdraw(long jobId, int place, long seen, String by) throws IOException {
        supersede(jobId, place, "withdrawn", "", seen, Optional.empty(), by);
    }

    /** The job is locked first: whoever comes second sees what the first has made of it. */
    private long supersede(
            long jobId, int place, String kind, String document, long seen, Optional<Observation> wanted, String by)
            throws IOException {
        int seq = nextSeq(jobId);
        Optional<Standing> now = jdbc.sql(IN_FORCE)
                .param("job", jobId)
                .param("place", place)
                .query((row, i) -> new Standing(row.getLong("id"), row.getString("document")))
                .optional();
        if (now.isEmpty() || now.get().id() != seen) {
            Optional<Observation> stands = now.isEmpty()
                    ? Optional.empty()
                    : Optional.of(ObservationJson.read(now.get().document()));
            throw new EntryChanged(place, stands, wanted);
        }
        return jdbc.sql(SUPERSEDE)
                .param("job", jobId)
                .param("seq", seq)
                .param("place", place)
                .param("kind", kind)
                .param("document", document)
                .param("by", by)
                .param("supersedes", seen)
                .query(Long.class)
                .single();
    }

    private record Standing(long id, String document) {}

    /** The number of the last entry that somebody made at the bench. */
    public Optional<Integer> lastBy(long jobId, String by) {
        return jdbc.sql(LAST_BY)
                .param("job", jobId)
                .param("by", by)
                .query(Integer.class)
                .optional();
    }

    public void addTrace(long jobId, String name, String content) {
        jdbc.sql(ADD_TRACE)
                .param("job", jobId)
                .param("name", name)
                .param("content", content)
                .update();
    }

    public Map<String, String> traces(long jobId) {
        Map<String, String> traces = new TreeMap<>();
        jdbc.sql(TRACES).param("job", jobId).query(row -> {
            traces.put(row.getString("name"), row.getString("content"));
        });
        return traces;
    }

    public Optional<String> trace(long jobId, String name) {
        return jdbc.sql(TRACE)
                .param("job", jobId)
                .param("name", name)
                .query(String.class)
                .optional();
    }

    public void addInjection(long jobId, Optional<Injection> injection, Optional<SupplyLog> log) {
        jdbc.sql(ADD_INJECTION)
                .param("job", jobId)
                .param("document", injection.map(InjectionJson::write).orElse(""))
                .param("log", log.map(SupplyCsv::write).orElse(""))
                .update();
    }

    /** The injection and what the supply showed, each empty when not recorded. */
    public record Injected(Optional<Injection> injection, Optional<SupplyLog> log) {}

    public Injected injected(long jobId, int hunt) throws IOException {
        Optional<String[]> row = jdbc.sql(INJECTION)
                .param("job", jobId)
                .param("hunt", hunt)
                .query((r, i) -> new String[] {r.getString("document"), r.getString("supply_log")})
                .optional();
        if (row.isEmpty()) {
            return new Injected(Optional.empty(), Optional.empty());
        }
        String document = row.get()[0];
        String log = row.get()[1];
        return new Injected(
                document.isEmpty() ? Optional.empty() : Optional.of(InjectionJson.read(document)),
                log.isEmpty() ? Optional.empty() : Optional.of(SupplyCsv.read(log)));
    }
}
