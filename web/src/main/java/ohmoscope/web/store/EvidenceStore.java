package ohmoscope.web.store;

import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.formats.InjectionJson;
import ohmoscope.formats.ObservationJson;
import ohmoscope.formats.SupplyCsv;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Evidence: observations, the injection and its supply log. Rows are only ever added. */
@Repository
public class EvidenceStore {
    private static final String OF_JOB = """
        select e.seq, e.document, e.recorded_at, e.recorded_by
          from evidence e
         where e.job_id = :job
           and not exists (select 1 from evidence later where later.supersedes = e.id)
         order by e.seq""";
    private static final String NEXT_SEQ = "select coalesce(max(seq), 0) + 1 from evidence where job_id = :job";
    private static final String LOCK_JOB = "select id from job where id = :job for update";
    private static final String ADD = """
        insert into evidence (job_id, seq, kind, document, recorded_by)
        values (:job, :seq, :kind, :document, :by)""";
    private static final String ADD_INJECTION =
            "insert into injection (job_id, document, supply_log) values (:job, :document, :log)";
    private static final String INJECTION = "select document, supply_log from injection where job_id = :job";

    private final JdbcClient jdbc;

    EvidenceStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** An observation and when it was recorded by whom. */
    public record Entry(Observation observation, Instant recordedAt, String recordedBy) {}

    /** What is in force, in order. */
    public List<Entry> ofJob(long jobId) throws IOException {
        List<Raw> rows =
                jdbc.sql(OF_JOB).param("job", jobId).query(EvidenceStore::raw).list();
        List<Entry> entries = new ArrayList<>();
        for (Raw row : rows) {
            entries.add(new Entry(ObservationJson.read(row.document()), row.at(), row.by()));
        }
        return entries;
    }

    private record Raw(String document, Instant at, String by) {}

    private static Raw raw(ResultSet row, int index) throws SQLException {
        return new Raw(
                row.getString("document"), row.getTimestamp("recorded_at").toInstant(), row.getString("recorded_by"));
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
                .param("kind", observation.getClass().getSimpleName().toLowerCase(Locale.ROOT))
                .param("document", ObservationJson.write(observation))
                .param("by", by)
                .update();
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

    public Injected injected(long jobId) throws IOException {
        Optional<String[]> row = jdbc.sql(INJECTION)
                .param("job", jobId)
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
