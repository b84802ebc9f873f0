package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.rework.AirGain;
import ohmoscope.core.rework.Way;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Each technician's kit for rework, and how parts really came off. */
@Repository
public class ReworkStore {
    private static final String KIT = "select kit from rework_kit where technician = :technician";
    private static final String KEEP = """
        insert into rework_kit (technician, kit) values (:technician, :kit)
        on conflict (technician) do update set kit = excluded.kit""";
    private static final String ADD = """
        insert into rework_done
               (job_id, evidence_seq, technician, ref, method, nozzle_mm, set_c, planned_s, gain, took_s)
        values (:job, :seq, :technician, :ref, :method, :nozzle, :set, :planned, :gain, :took)""";
    private static final String BLOWN = """
        select planned_s, took_s, gain from rework_done
         where technician = :technician and nozzle_mm is not null and planned_s >= 1 and took_s >= 1
         order by id desc limit 6""";
    /** The same part's first, then the newest, of other jobs on boards of the same family. */
    private static final String OF_MODEL = """
        select j.number, d.evidence_seq, d.ref, d.method, d.nozzle_mm, d.set_c, d.planned_s, d.gain, d.took_s
          from rework_done d join job j on j.id = d.job_id join board b on b.id = j.board_id
         where b.family = (select family from board where id = :board) and d.job_id <> :job and d.took_s is not null
         order by d.ref = :ref desc, d.id desc limit 4""";

    private static final String OF_JOB = """
        select evidence_seq, ref, method, nozzle_mm, set_c, planned_s, gain, took_s
          from rework_done where job_id = :job order by id""";

    private final JdbcClient jdbc;

    ReworkStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * How a part came off.
     *
     * @param plannedS when its last joint was to melt, under the gain of then
     * @param tookS when it did
     */
    public record Done(
            int seq,
            String ref,
            Way.Method method,
            OptionalDouble nozzleMm,
            OptionalDouble setC,
            OptionalDouble plannedS,
            double gain,
            OptionalDouble tookS) {}

    /** The kit's JSON. */
    public Optional<String> kit(String technician) {
        return jdbc.sql(KIT).param("technician", technician).query(String.class).optional();
    }

    public void keepKit(String technician, String kit) {
        jdbc.sql(KEEP).param("technician", technician).param("kit", kit).update();
    }

    public void add(long job, String technician, Done done) {
        jdbc.sql(ADD)
                .param("job", job)
                .param("seq", done.seq())
                .param("technician", technician)
                .param("ref", done.ref())
                .param("method", done.method().name())
                .param("nozzle", Columns.nullable(done.nozzleMm()))
                .param("set", Columns.nullable(done.setC()))
                .param("planned", Columns.nullable(done.plannedS()))
                .param("gain", done.gain())
                .param("took", Columns.nullable(done.tookS()))
                .update();
    }

    /** How this technician's last parts came off under air, newest first. */
    public List<AirGain.Told> airTold(String technician) {
        return jdbc.sql(BLOWN)
                .param("technician", technician)
                .query((row, i) ->
                        new AirGain.Told(row.getDouble("planned_s"), row.getDouble("took_s"), row.getDouble("gain")))
                .list();
    }

    /** How this job's parts came off. */
    public List<Done> ofJob(long job) {
        return jdbc.sql(OF_JOB).param("job", job).query(ReworkStore::done).list();
    }

    /** How a part came off on another job's board. */
    public record Earlier(String job, Done done) {}

    /** How parts came off on other boards of the model, where somebody counted the seconds; the same part's first. */
    public List<Earlier> ofModel(long board, long job, String ref) {
        return jdbc.sql(OF_MODEL)
                .param("board", board)
                .param("job", job)
                .param("ref", ref)
                .query((row, i) -> new Earlier(row.getString("number"), done(row, i)))
                .list();
    }

    private static Done done(ResultSet row, int index) throws SQLException {
        return new Done(
                row.getInt("evidence_seq"),
                row.getString("ref"),
                Way.Method.valueOf(row.getString("method")),
                Columns.optional(row.getObject("nozzle_mm", Double.class)),
                Columns.optional(row.getObject("set_c", Double.class)),
                Columns.optional(row.getObject("planned_s", Double.class)),
                row.getDouble("gain"),
                Columns.optional(row.getObject("took_s", Double.class)));
    }
}
