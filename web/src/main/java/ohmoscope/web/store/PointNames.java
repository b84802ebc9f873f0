package ohmoscope.web.store;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What points of a job are called by now: what was typed is kept, and read by the newest name. */
final class PointNames {
    private static final String NAMES = "select was, called from point_name where job_id = :job order by id";

    private final List<Renaming> renamings;

    private record Renaming(String was, String called) {}

    private PointNames(List<Renaming> renamings) {
        this.renamings = renamings;
    }

    static PointNames of(JdbcClient jdbc, long jobId) {
        return new PointNames(jdbc.sql(NAMES)
                .param("job", jobId)
                .query((row, i) -> new Renaming(row.getString("was"), row.getString("called")))
                .list());
    }

    boolean none() {
        return renamings.isEmpty();
    }

    /** What was renamed twice is followed through both. */
    String newest(String name) {
        String now = name;
        for (Renaming one : renamings) {
            now = one.was().equals(now) ? one.called() : now;
        }
        return now;
    }
}
