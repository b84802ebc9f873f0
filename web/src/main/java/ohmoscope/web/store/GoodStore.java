package ohmoscope.web.store;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ohmoscope.core.evidence.GoodDraws;
import ohmoscope.core.evidence.GoodReadings;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What good boards of a family read and drew: typed, taken from tables, learnt from proven jobs. Rows are only ever added. */
@Repository
public class GoodStore {
    private static final String READINGS = """
        select g.net, g.mode, g.value, g.red_on_ground, g.point, g.meter from good_reading g join board b on b.id = g.board_id
         where b.family = (select family from board where id = :board) order by g.id""";
    private static final String ADD = """
        insert into good_reading (board_id, net, mode, value, red_on_ground, point, meter, recorded_by)
        values (:board, :net, :mode, :value, :red, :point, :meter, :by)""";
    private static final String LEARN = """
        insert into good_reading (board_id, job_id, net, mode, value, red_on_ground, point, meter, recorded_by)
        values (:board, :job, :net, :mode, :value, :red, :point, :meter, :by)
        on conflict (job_id, net, mode) where job_id is not null do nothing""";
    private static final String LEARNT = """
        select exists (select 1 from good_reading where job_id = :job)
            or exists (select 1 from good_draw where job_id = :job)""";
    private static final String BEHIND = """
        select g.net, count(distinct coalesce(g.job_id, -g.id)) as boards, max(g.recorded_at) as newest
          from good_reading g join board b on b.id = g.board_id
         where b.family = (select family from board where id = :board) group by g.net""";
    private static final String DRAWS = """
        select g.port, g.phase, g.amps from good_draw g join board b on b.id = g.board_id
         where b.family = (select family from board where id = :board) order by g.id""";
    private static final String LEARN_DRAW = """
        insert into good_draw (board_id, job_id, port, phase, amps, recorded_by)
        values (:board, :job, :port, :phase, :amps, :by)
        on conflict (job_id, port, phase) do nothing""";

    private final JdbcClient jdbc;

    GoodStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What good boards of this one's family were read at. */
    public List<GoodReadings.Good> readings(long boardId) {
        return jdbc.sql(READINGS)
                .param("board", boardId)
                .query((row, i) -> new GoodReadings.Good(
                        row.getString("net"),
                        ReadMode.valueOf(row.getString("mode")),
                        row.getDouble("value"),
                        row.getBoolean("red_on_ground"),
                        Optional.ofNullable(row.getString("point")),
                        Optional.ofNullable(row.getString("meter"))))
                .list();
    }

    public void add(long boardId, GoodReadings.Good good, String by) {
        with(jdbc.sql(ADD), boardId, good, by).update();
    }

    private static JdbcClient.StatementSpec with(
            JdbcClient.StatementSpec sql, long boardId, GoodReadings.Good good, String by) {
        return sql.param("board", boardId)
                .param("net", good.net())
                .param("mode", good.mode().name())
                .param("value", good.value())
                .param("red", good.redOnGround())
                .param("point", good.point().orElse(null))
                .param("meter", good.meter().orElse(null))
                .param("by", by);
    }

    /** What a proven job taught, each net and mode once. */
    public void learn(long boardId, long jobId, List<GoodReadings.Good> readings, String by) {
        for (GoodReadings.Good good : readings) {
            with(jdbc.sql(LEARN), boardId, good, by).param("job", jobId).update();
        }
    }

    /** Whether what a job taught has been kept. */
    public boolean learnt(long jobId) {
        return jdbc.sql(LEARNT).param("job", jobId).query(Boolean.class).single();
    }

    /** What a net's good readings rest on. @param boards how many, each job's being one */
    public record Behind(int boards, Instant newest) {}

    /** By net, over a board's family. */
    public Map<String, Behind> behind(long boardId) {
        Map<String, Behind> behind = new TreeMap<>();
        jdbc.sql(BEHIND)
                .param("board", boardId)
                .query((row, i) -> behind.put(
                        row.getString("net"),
                        new Behind(
                                row.getInt("boards"), row.getTimestamp("newest").toInstant())))
                .list();
        return behind;
    }

    /** What good devices of this board's family drew at their ports. */
    public List<GoodDraws.Good> draws(long boardId) {
        return jdbc.sql(DRAWS)
                .param("board", boardId)
                .query((row, i) -> new GoodDraws.Good(
                        row.getString("port"), GoodDraws.Phase.valueOf(row.getString("phase")), row.getDouble("amps")))
                .list();
    }

    /** What a proven job drew, each port and phase once. */
    public void learnDraws(long boardId, long jobId, List<GoodDraws.Good> draws, String by) {
        for (GoodDraws.Good draw : draws) {
            jdbc.sql(LEARN_DRAW)
                    .param("board", boardId)
                    .param("job", jobId)
                    .param("port", draw.port())
                    .param("phase", draw.phase().name())
                    .param("amps", draw.amps())
                    .param("by", by)
                    .update();
        }
    }
}
