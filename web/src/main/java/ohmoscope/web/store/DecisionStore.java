package ohmoscope.web.store;

import java.time.Instant;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Acts on a board with what was known when they were decided. */
@Repository
public class DecisionStore {
    private static final String ADD = """
        insert into decision (job_id, evidence_seq, known, decided_by, lead_ref, lead_probability)
        select :job, :seq, :known, :by, s.lead_ref, s.lead_probability
          from (select 1) as one left join job_state s on s.job_id = :job""";
    private static final String OF_ENTRY = """
        select known, decided_at, decided_by from decision
         where job_id = :job and evidence_seq = :seq order by id desc limit 1""";

    private final JdbcClient jdbc;

    DecisionStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param known the analysis as it stood, as JSON; empty when there was none */
    public record Row(String known, Instant at, String by) {}

    public void add(long jobId, int evidenceSeq, String known, String by) {
        jdbc.sql(ADD)
                .param("job", jobId)
                .param("seq", evidenceSeq)
                .param("known", known)
                .param("by", by)
                .update();
    }

    public Optional<Row> of(long jobId, int evidenceSeq) {
        return jdbc.sql(OF_ENTRY)
                .param("job", jobId)
                .param("seq", evidenceSeq)
                .query((row, i) -> new Row(
                        row.getString("known"),
                        row.getTimestamp("decided_at").toInstant(),
                        row.getString("decided_by")))
                .optional();
    }
}
