package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Analyses: queued, running, done. */
@Repository
public class AnalysisStore {
    private static final String LATEST = """
        select id, job_id, hunt_no, state, progress, version, result, problem from analysis
         where job_id = :job and hunt_no = (select hunt_no from job where id = :job)
         order by id desc limit 1""";
    private static final String LATEST_DONE = """
        select id, job_id, hunt_no, state, progress, version, result, problem from analysis
         where job_id = :job and hunt_no = (select hunt_no from job where id = :job) and state = 'done'
         order by id desc limit 1""";
    private static final String QUEUE = """
        insert into analysis (job_id, hunt_no, state, version)
        select id, hunt_no, 'queued', :version from job where id = :job
        returning id""";
    private static final String DROP_WAITING = """
        update analysis set state = 'cancelled', finished_at = now()
         where job_id = :job and hunt_no = (select hunt_no from job where id = :job) and state in ('queued', 'running')""";
    private static final String START = """
        update analysis set state = 'running', progress = 0
         where id = :id and state in ('queued', 'running')
        returning id, job_id, hunt_no, state, progress, version, result, problem""";
    private static final String PENDING = "select id from analysis where state in ('queued', 'running') order by id";
    private static final String PROGRESS =
            "update analysis set progress = :progress where id = :id and state = 'running'";
    private static final String FINISH = """
        update analysis set state = :state, result = :result, problem = :problem, progress = 1, finished_at = now()
         where id = :id and state = 'running'""";

    private final JdbcClient jdbc;

    AnalysisStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** One analysis. */
    public record Row(
            long id,
            long jobId,
            int hunt,
            String state,
            double progress,
            String version,
            Optional<String> result,
            Optional<String> problem) {
        public boolean pending() {
            return state.equals("queued") || state.equals("running");
        }
    }

    private static Row row(ResultSet row, int index) throws SQLException {
        return new Row(
                row.getLong("id"),
                row.getLong("job_id"),
                row.getInt("hunt_no"),
                row.getString("state"),
                row.getDouble("progress"),
                row.getString("version"),
                Optional.ofNullable(row.getString("result")),
                Optional.ofNullable(row.getString("problem")));
    }

    public Optional<Row> latest(long jobId) {
        return jdbc.sql(LATEST).param("job", jobId).query(AnalysisStore::row).optional();
    }

    public Optional<Row> latestDone(long jobId) {
        return jdbc.sql(LATEST_DONE)
                .param("job", jobId)
                .query(AnalysisStore::row)
                .optional();
    }

    /**
     * A new analysis; one that waits or runs for the same job is dropped.
     *
     * @return its id
     */
    public long queue(long jobId, String version) {
        cancel(jobId);
        return jdbc.sql(QUEUE)
                .param("job", jobId)
                .param("version", version)
                .query(Long.class)
                .single();
    }

    public void cancel(long jobId) {
        jdbc.sql(DROP_WAITING).param("job", jobId).update();
    }

    /** Begins it, or begins it anew after it was broken off; empty when it was cancelled or is done. */
    public Optional<Row> start(long id) {
        return jdbc.sql(START).param("id", id).query(AnalysisStore::row).optional();
    }

    /** What waits or runs. */
    public List<Long> pending() {
        return jdbc.sql(PENDING).query(Long.class).list();
    }

    /** @return false when it was cancelled meanwhile */
    public boolean progress(long id, double progress) {
        return jdbc.sql(PROGRESS).param("id", id).param("progress", progress).update() == 1;
    }

    /** @return false when it was cancelled meanwhile, and the result is dropped */
    public boolean done(long id, String result) {
        return finish(id, "done", result, null);
    }

    public void failed(long id, String problem) {
        finish(id, "failed", null, problem);
    }

    private boolean finish(
            long id,
            String state,
            @org.jspecify.annotations.Nullable String result,
            @org.jspecify.annotations.Nullable String problem) {
        return jdbc.sql(FINISH)
                        .param("id", id)
                        .param("state", state)
                        .param("result", result)
                        .param("problem", problem)
                        .update()
                == 1;
    }
}
