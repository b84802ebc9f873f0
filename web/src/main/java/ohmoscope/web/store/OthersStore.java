package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.job.SharedCase;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Proven cases of other shops, by whose they are. */
@Repository
public class OthersStore {
    private static final String ADD_SOURCE = """
        insert into experience_source (name, weight, taken_by) values (:name, :weight, :by) returning id""";
    private static final String ADD = """
        insert into experience_of_others (source_id, board, revision, rail, complaint, code, ref, ohms, draw_a)
        values (:source, :board, :revision, :rail, :complaint, :code, :ref, :ohms, :draw)""";
    private static final String OF = """
        select o.board, o.revision, o.rail, o.complaint, o.code, o.ref, o.ohms, o.draw_a, s.weight
          from experience_of_others o join experience_source s on s.id = o.source_id
         where o.board = :board and o.revision = :revision
         order by o.id desc limit 60""";
    private static final String SOURCES = """
        select s.name, s.weight, s.taken_by, s.taken_at::date as day, count(o.id) as cases
          from experience_source s left join experience_of_others o on o.source_id = s.id
         group by s.id order by s.name""";
    private static final String FORGET = "delete from experience_source where name = :name";

    private final JdbcClient jdbc;

    OthersStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Takes in all of a source's cases in the place of those that it had. @param weight from 0 to 1 */
    @Transactional
    public void takeIn(String name, double weight, List<SharedCase> cases, String by) {
        forget(name);
        long source = jdbc.sql(ADD_SOURCE)
                .param("name", name)
                .param("weight", weight)
                .param("by", by)
                .query(Long.class)
                .single();
        for (SharedCase met : cases) {
            jdbc.sql(ADD)
                    .param("source", source)
                    .param("board", met.board())
                    .param("revision", met.revision())
                    .param("rail", met.rail().orElse(null))
                    .param("complaint", met.complaint())
                    .param("code", met.code().map(Enum::name).orElse(null))
                    .param("ref", met.ref())
                    .param("ohms", Columns.nullable(met.ohms()))
                    .param("draw", Columns.nullable(met.drawAmps()))
                    .update();
        }
    }

    public void forget(String name) {
        jdbc.sql(FORGET).param("name", name).update();
    }

    /** What others had on boards of this name and revision, each with its source's weight, newest first. */
    public List<Map.Entry<SharedCase, Double>> of(String board, String revision) {
        return jdbc.sql(OF)
                .param("board", board)
                .param("revision", revision)
                .query((row, i) -> Map.entry(shared(row, i), row.getDouble("weight")))
                .list();
    }

    static SharedCase shared(ResultSet row, int index) throws SQLException {
        return new SharedCase(
                row.getString("board"),
                row.getString("revision"),
                Optional.ofNullable(row.getString("rail")),
                row.getString("complaint"),
                Optional.ofNullable(row.getString("code")).map(Hypothesis.Code::valueOf),
                row.getString("ref"),
                Columns.optional(row.getObject("ohms", Double.class)),
                Columns.optional(row.getObject("draw_a", Double.class)));
    }

    /** A shop whose cases were taken in. */
    public record Source(String name, double weight, long cases, LocalDate day, String by) {}

    public List<Source> sources() {
        return jdbc.sql(SOURCES)
                .query((row, i) -> new Source(
                        row.getString("name"),
                        row.getDouble("weight"),
                        row.getLong("cases"),
                        row.getObject("day", LocalDate.class),
                        row.getString("taken_by")))
                .list();
    }
}
