package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.job.PastCase;
import ohmoscope.core.job.SharedCase;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Proven jobs that were kept for the next of their kind. */
@Repository
public class ExperienceStore {
    private static final String KEEP = """
        insert into experience (job_id, rail, rail_volts, complaint, fault, ref, code, ohms, draw_a, kept_by)
        values (:job, :rail, :volts, :complaint, :fault, :ref, :code, :ohms, :draw, :by)
        on conflict (job_id) do nothing""";
    private static final String KEPT = "select exists (select 1 from experience where job_id = :job)";
    /** Those of the same model, and of others those on a rail of about the same volts: the newest of either. */
    private static final String NEAR = """
        select j.number, b.family, e.rail, e.rail_volts, e.complaint, e.fault, e.ref, e.code, e.ohms, e.draw_a
          from experience e join job j on j.id = e.job_id join board b on b.id = j.board_id
         where b.family = :family or e.rail_volts between 0.85 * :volts and 1.18 * :volts
         order by e.job_id desc limit 4000""";

    private static final String OF_MODEL = """
        select j.number, b.family, e.rail, e.rail_volts, e.complaint, e.fault, e.ref, e.code, e.ohms, e.draw_a
          from experience e join job j on j.id = e.job_id join board b on b.id = j.board_id
         where b.family = :family
         order by e.job_id desc limit 60""";

    private static final String TOLD = """
        select b.name as board, b.revision, e.rail, e.complaint, e.code, e.ref, e.ohms, e.draw_a
          from experience e join job j on j.id = e.job_id join board b on b.id = j.board_id
         order by e.job_id""";

    private static final String FAMILY = "select coalesce(family, id) from board where id = :board";

    private final JdbcClient jdbc;

    ExperienceStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What boards of a kind share. */
    public long model(long boardId) {
        return jdbc.sql(FAMILY).param("board", boardId).query(Long.class).single();
    }

    public boolean kept(long jobId) {
        return jdbc.sql(KEPT).param("job", jobId).query(Boolean.class).single();
    }

    public void keep(long jobId, PastCase proven, String by) {
        jdbc.sql(KEEP)
                .param("job", jobId)
                .param("rail", proven.rail().orElse(null))
                .param("volts", Columns.nullable(proven.railVolts()))
                .param("complaint", proven.complaint())
                .param("fault", proven.fault())
                .param("ref", proven.ref())
                .param("code", proven.code().map(Enum::name).orElse(null))
                .param("ohms", Columns.nullable(proven.ohms()))
                .param("draw", Columns.nullable(proven.drawAmps()))
                .param("by", by)
                .update();
    }

    /** What may be like an open job. */
    public List<PastCase> near(PastCase now) {
        return jdbc.sql(NEAR)
                .param("family", now.model())
                .param("volts", now.railVolts().orElse(-1))
                .query(ExperienceStore::pastCase)
                .list();
    }

    /** The newest of a model, newest first. */
    public List<PastCase> ofModel(long family) {
        return jdbc.sql(OF_MODEL)
                .param("family", family)
                .query(ExperienceStore::pastCase)
                .list();
    }

    /** All that this shop may tell others. */
    public List<SharedCase> told() {
        return jdbc.sql(TOLD).query(OthersStore::shared).list();
    }

    private static PastCase pastCase(ResultSet row, int index) throws SQLException {
        return new PastCase(
                row.getString("number"),
                row.getLong("family"),
                Optional.ofNullable(row.getString("rail")),
                Columns.optional(row.getObject("rail_volts", Double.class)),
                row.getString("complaint"),
                row.getString("fault"),
                row.getString("ref"),
                Optional.ofNullable(row.getString("code")).map(Hypothesis.Code::valueOf),
                Columns.optional(row.getObject("ohms", Double.class)),
                Columns.optional(row.getObject("draw_a", Double.class)));
    }
}
