package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import ohmoscope.core.board.Check;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The logbook: how all jobs went, searched and counted. */
@Repository
public class LogbookStore {
    private static final String OF = """
          from job j
          join board b on b.id = j.board_id
          left join outcome o on o.job_id = j.id
         where (:pattern = '' or j.search_text like :pattern or o.words like :pattern)
           and (:state = '' or (:state = 'proven' and o.proven) or (:state = 'open' and not coalesce(o.proven, false))
                or (:state = 'wrong' and o.innocent > 0) or (:state = 'back' and j.back_from is not null))
           and (:device = '' or coalesce(nullif(j.device, ''), b.name) = :device)
           and (:technician = '' or o.technician = :technician)
           and (:dealer = '' or j.dealer = :dealer)
           and (:tag = '' or exists (select 1 from job_tag t where t.job_id = j.id and t.tag = :tag))
           and (cast(:from as date) is null or j.opened_at >= cast(:from as date))
           and (cast(:to as date) is null or j.opened_at < cast(:to as date) + 1)""";
    private static final String PAGE = """
        with shown as (select j.id
        """ + OF + """
         order by j.opened_at desc, j.id desc limit :size offset :skip)
        select j.number, j.title, coalesce(nullif(j.device, ''), b.name) as device,
               coalesce(h.rail, s.rail, '') as rail, j.opened_at, coalesce(o.proven, false) as proven, o.ref,
               o.named_ref, o.named_p, coalesce(o.innocent, 0) as innocent,
               coalesce(o.measuring_s + o.injecting_s + o.reworking_s + o.proving_s, 0) as worked_s,
               coalesce(o.technician, '') as technician, j.dealer, j.owner,
               (select string_agg(t.tag, ',' order by t.tag) from job_tag t where t.job_id = j.id) as tags
          from shown
          join job j on j.id = shown.id
          join board b on b.id = j.board_id
          join hunt h on h.job_id = j.id and h.no = j.hunt_no
          left join job_state s on s.job_id = j.id
          left join outcome o on o.job_id = j.id
         order by j.opened_at desc, j.id desc""";
    private static final String COUNT = "select count(*) " + OF;
    private static final String DEVICES = """
        select coalesce(nullif(j.device, ''), b.name) as device from job j join board b on b.id = j.board_id
         group by 1 order by count(*) desc, 1 limit 100""";
    private static final String TECHNICIANS =
            "select technician from outcome where technician <> '' group by technician order by count(*) desc limit 50";
    private static final String DEALERS =
            "select dealer from job where dealer <> '' group by dealer order by count(*) desc, dealer limit 100";
    /** What is searched for a job begins with what it came with; who brought it and whose it is stand behind a mark. */
    private static final String PEOPLE = """
        update job set dealer = :dealer, owner = :owner,
               search_text = split_part(search_text, E'\\x1f', 1) || E'\\x1f' || lower(:dealer || ' ' || :owner)
         where id = :job""";

    private static final String PEOPLE_OF = "select dealer, owner from job where id = :job";
    private static final String TAGS = "select tag from job_tag group by tag order by count(*) desc, tag limit 100";
    private static final String TAGS_OF = "select tag from job_tag where job_id = :job";
    private static final String ADD_TAG =
            "insert into job_tag (job_id, tag) values (:job, :tag) on conflict (job_id, tag) do nothing";
    private static final String BACK = "update job set back_from = :from where id = :job";
    private static final String BACK_FROM =
            "select e.number from job j join job e on e.id = j.back_from where j.id = :job";
    private static final String COUNTS = """
        select %s as name, count(*) as jobs, count(*) filter (where o.proven) as proven,
               count(*) filter (where o.proven and o.heated) as heated,
               count(*) filter (where o.proven and o.heated and o.named_ref = o.ref) as named,
               sum(o.innocent) as innocent, count(*) filter (where j.back_from is not null) as back,
               avg(nullif(o.measuring_s, 0)) filter (where o.proven) as measuring_s,
               avg(nullif(o.injecting_s, 0)) filter (where o.proven) as injecting_s,
               avg(nullif(o.reworking_s, 0)) filter (where o.proven) as reworking_s,
               avg(nullif(o.proving_s, 0)) filter (where o.proven) as proving_s
          from outcome o join job j on j.id = o.job_id join board b on b.id = j.board_id
         group by 1 order by %s limit :most""";
    private static final String STATED = """
        select width_bucket(named_p, array[0.3, 0.5, 0.7, 0.85, 0.95]) as bin, count(*) as jobs, avg(named_p) as stated,
               avg(case when named_ref = ref then 1.0 else 0.0 end) as right_share
          from outcome where proven and heated and named_p is not null
         group by 1 order by 1""";

    private final JdbcClient jdbc;

    LogbookStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What is asked for; empty where all will do. @param state proven, open, wrong (a part taken off for nothing) or back */
    public record Asked(
            String words,
            String state,
            String device,
            String technician,
            String dealer,
            String tag,
            Optional<LocalDate> from,
            Optional<LocalDate> to) {}

    /** A job in the logbook. @param named what led when the first part was heated @param workedSeconds without pauses */
    public record Row(
            String number,
            String title,
            String device,
            String rail,
            Instant openedAt,
            boolean proven,
            Optional<String> ref,
            Optional<String> named,
            OptionalDouble namedProbability,
            int innocent,
            int workedSeconds,
            String technician,
            People people,
            String tags) {}

    /** Who brought a device, and whose it is; empty where nobody said. */
    public record People(String dealer, String owner) {
        private static final int LONGEST = 120;

        public People {
            Check.within("dealer's length", dealer.length(), 0, LONGEST);
            Check.within("owner's length", owner.length(), 0, LONGEST);
        }
    }

    public List<Row> page(Asked asked, int size, long skip) {
        return with(jdbc.sql(PAGE), asked)
                .param("size", size)
                .param("skip", skip)
                .query(LogbookStore::row)
                .list();
    }

    public long count(Asked asked) {
        return with(jdbc.sql(COUNT), asked).query(Long.class).single();
    }

    private static JdbcClient.StatementSpec with(JdbcClient.StatementSpec sql, Asked asked) {
        return sql.param("pattern", JobStore.pattern(asked.words()))
                .param("state", asked.state())
                .param("device", asked.device())
                .param("technician", asked.technician())
                .param("dealer", asked.dealer())
                .param("tag", asked.tag())
                .param("from", asked.from().orElse(null))
                .param("to", asked.to().orElse(null));
    }

    private static Row row(ResultSet row, int index) throws SQLException {
        String tags = row.getString("tags");
        return new Row(
                row.getString("number"),
                row.getString("title"),
                row.getString("device"),
                row.getString("rail"),
                row.getTimestamp("opened_at").toInstant(),
                row.getBoolean("proven"),
                Optional.ofNullable(row.getString("ref")),
                Optional.ofNullable(row.getString("named_ref")),
                Columns.optional(row.getObject("named_p", Double.class)),
                row.getInt("innocent"),
                row.getInt("worked_s"),
                row.getString("technician"),
                people(row, index),
                tags == null ? "" : tags);
    }

    public List<String> devices() {
        return jdbc.sql(DEVICES).query(String.class).list();
    }

    public List<String> technicians() {
        return jdbc.sql(TECHNICIANS).query(String.class).list();
    }

    private static People people(ResultSet row, int index) throws SQLException {
        return new People(row.getString("dealer"), row.getString("owner"));
    }

    public List<String> dealers() {
        return jdbc.sql(DEALERS).query(String.class).list();
    }

    public People people(long jobId) {
        return jdbc.sql(PEOPLE_OF)
                .param("job", jobId)
                .query(LogbookStore::people)
                .single();
    }

    /** Says who brought a job's device and whose it is. */
    public void people(long jobId, People people) {
        jdbc.sql(PEOPLE)
                .param("job", jobId)
                .param("dealer", people.dealer())
                .param("owner", people.owner())
                .update();
    }

    public List<String> tags() {
        return jdbc.sql(TAGS).query(String.class).list();
    }

    public Set<String> tags(long jobId) {
        return new TreeSet<>(
                jdbc.sql(TAGS_OF).param("job", jobId).query(String.class).list());
    }

    /** Gives a job these tags and no others. */
    public void tag(long jobId, Set<String> tags) {
        jdbc.sql("delete from job_tag where job_id = :job").param("job", jobId).update();
        tags.forEach(t -> jdbc.sql(ADD_TAG).param("job", jobId).param("tag", t).update());
    }

    /** Says that a job's device came back from an earlier one, or takes that back. */
    public void backFrom(long jobId, Optional<Long> earlier) {
        jdbc.sql(BACK).param("job", jobId).param("from", earlier.orElse(null)).update();
    }

    public Optional<String> backFrom(long jobId) {
        return jdbc.sql(BACK_FROM).param("job", jobId).query(String.class).optional();
    }

    /** What some jobs came to. @param named of those heated, how many had the right part named before; times in seconds */
    public record Counted(
            String name,
            long jobs,
            long proven,
            long heated,
            long named,
            long innocent,
            long back,
            double measuring,
            double injecting,
            double reworking,
            double proving) {}

    /** By what jobs are counted. */
    public enum By {
        ALL("''", "1"),
        MONTH("to_char(j.opened_at, 'YYYY-MM')", "1 desc"),
        DEVICE("coalesce(nullif(j.device, ''), b.name)", "count(*) desc, 1"),
        TECHNICIAN("o.technician", "count(*) desc, 1"),
        DEALER("coalesce(nullif(j.dealer, ''), 'by its owner')", "count(*) desc, 1");

        private final String sql;

        By(String name, String order) {
            this.sql = COUNTS.formatted(name, order);
        }
    }

    public List<Counted> counted(By by, int most) {
        return jdbc.sql(by.sql)
                .param("most", most)
                .query((row, i) -> new Counted(
                        row.getString("name"),
                        row.getLong("jobs"),
                        row.getLong("proven"),
                        row.getLong("heated"),
                        row.getLong("named"),
                        row.getLong("innocent"),
                        row.getLong("back"),
                        row.getDouble("measuring_s"),
                        row.getDouble("injecting_s"),
                        row.getDouble("reworking_s"),
                        row.getDouble("proving_s")))
                .list();
    }

    /** What was stated of parts before they were heated, and how often it was so; by how sure it was. */
    public record Stated(long jobs, double stated, double right) {}

    public List<Stated> stated() {
        return jdbc.sql(STATED)
                .query((row, i) ->
                        new Stated(row.getLong("jobs"), row.getDouble("stated"), row.getDouble("right_share")))
                .list();
    }
}
