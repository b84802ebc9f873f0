package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Optional;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Imports under way. */
@Repository
public class ImportStore {
    private static final String ADD =
            "insert into import_task (id, file_name, sent_by, state) values (:id, :file, :by, 'waiting')";
    private static final String ONE = """
        select t.id, t.file_name, t.sent_by, t.state, t.progress, t.problem, j.number
          from import_task t left join job j on j.id = t.job_id
         where t.id = :id""";
    private static final String PROGRESS = """
        update import_task set state = 'running', progress = :progress
         where id = :id and state in ('waiting', 'running')""";
    private static final String CANCEL =
            "update import_task set state = 'cancelled' where id = :id and state in ('waiting', 'running')";
    private static final String DONE = """
        update import_task set state = 'done', progress = 1, job_id = :job
         where id = :id and state in ('waiting', 'running')""";
    private static final String FAILED = """
        update import_task set state = 'failed', problem = :problem
         where id = :id and state in ('waiting', 'running')""";
    private final JdbcClient jdbc;

    ImportStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param jobNumber the job it became */
    public record Row(
            UUID id,
            String fileName,
            String sentBy,
            String state,
            double progress,
            Optional<String> problem,
            Optional<String> jobNumber) {}

    /** A new import that waits; {@code id} is its own from the start, as its file is called by it. */
    public void add(UUID id, String fileName, String by) {
        jdbc.sql(ADD).param("id", id).param("file", fileName).param("by", by).update();
    }

    /** Whether it waits or is being read. */
    public boolean pending(UUID id) {
        return find(id).map(r -> r.state().equals("waiting") || r.state().equals("running"))
                .orElse(false);
    }

    public Optional<Row> find(UUID id) {
        return jdbc.sql(ONE).param("id", id).query(ImportStore::row).optional();
    }

    private static Row row(ResultSet row, int index) throws SQLException {
        return new Row(
                row.getObject("id", UUID.class),
                row.getString("file_name"),
                row.getString("sent_by"),
                row.getString("state"),
                row.getDouble("progress"),
                Optional.ofNullable(row.getString("problem")),
                Optional.ofNullable(row.getString("number")));
    }

    /** @return false when it was cancelled */
    public boolean progress(UUID id, double progress) {
        return jdbc.sql(PROGRESS).param("id", id).param("progress", progress).update() == 1;
    }

    public void cancel(UUID id) {
        jdbc.sql(CANCEL).param("id", id).update();
    }

    /** @return false when it was cancelled meanwhile */
    public boolean done(UUID id, long jobId) {
        return jdbc.sql(DONE).param("id", id).param("job", jobId).update() == 1;
    }

    public void failed(UUID id, String problem) {
        jdbc.sql(FAILED).param("id", id).param("problem", problem).update();
    }
}
