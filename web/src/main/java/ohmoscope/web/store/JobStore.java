package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import ohmoscope.core.job.Hunt;
import ohmoscope.web.config.NotFoundException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Jobs and their boards. */
@Repository
public class JobStore {
    private static final String PAGE = """
        with shown as (
            select id, number, title, device, board_id, hunt_no, opened_at from job
             where (:pattern = '' or search_text like :pattern)
             order by opened_at desc, id desc
             limit :size offset :skip)
        select j.id, j.number, j.title, coalesce(nullif(j.device, ''), b.name) as device, b.revision,
               coalesce(h.rail, s.rail, '') as rail, h.rail is not null as rail_stated, j.opened_at,
               coalesce(s.step, 'RECEIVE') as step, s.next_step, s.verdict, s.lead_ref, s.lead_probability,
               s.lead_by
          from shown j
          join board b on b.id = j.board_id
          join hunt h on h.job_id = j.id and h.no = j.hunt_no
          left join job_state s on s.job_id = j.id
         order by j.opened_at desc, j.id desc""";
    private static final String COUNT = "select count(*) from job where (:pattern = '' or search_text like :pattern)";
    private static final String ROW = """
        select j.id, j.number, j.title, j.device, j.board_id, j.hunt_no, h.rail, j.opened_at, j.imported_at
          from job j join hunt h on h.job_id = j.id and h.no = j.hunt_no""";
    private static final String BY_NUMBER = ROW + " where j.number = :number";
    private static final String BY_ID = ROW + " where j.id = :id";
    private static final String ADD_JOB = """
        with added as (
            insert into job (number, title, device, board_id, opened_at, search_text)
            values (:number, :title, :device, :board, :opened, :search)
            on conflict (number) do nothing
            returning id, imported_at)
        insert into hunt (job_id, no, rail, opened_at) select id, 1, :rail, imported_at from added
        returning job_id""";
    private static final String HUNTS = "select no, rail from hunt where job_id = :job order by no";
    private static final String ADD_HUNT = """
        with added as (
            insert into hunt (job_id, no, rail) select :job, max(no) + 1, :rail from hunt where job_id = :job
            returning no)
        update job set hunt_no = (select no from added) where id = :job""";
    private static final String GO_TO_HUNT = """
        update job set hunt_no = :hunt
         where id = :job and exists (select 1 from hunt where job_id = :job and no = :hunt)""";
    private static final String SET_RAIL = """
        update hunt set rail = :rail where job_id = :id and no = (select hunt_no from job where id = :id)""";
    private static final String SET_STATE = """
        insert into job_state (job_id, step, next_step, verdict, lead_ref, lead_probability, lead_by, rail)
        values (:job, :step, :next, :verdict, :ref, :probability, :by, :rail)
        on conflict (job_id) do update
           set step = excluded.step, next_step = excluded.next_step, verdict = excluded.verdict,
               lead_ref = excluded.lead_ref, lead_probability = excluded.lead_probability,
               lead_by = excluded.lead_by, rail = excluded.rail""";

    private static final String BOARD_NAME = "select name || ' ' || revision from board where id = :id";
    private static final String NEXT_NUMBER = """
        with newest as (
            select substring(number from '^(.*?)[0-9]{1,9}$') as stem, length(substring(number from '[0-9]{1,9}$')) as digits
              from job where number ~ '[0-9]{1,9}$' order by imported_at desc, id desc limit 1),
        chosen as (select stem, digits from newest union all select 'J-', 4 where not exists (select 1 from newest)),
        last as (
            select c.stem, c.digits, coalesce(max(substring(j.number from '[0-9]{1,9}$')::bigint), 0) + 1 as next
              from chosen c left join job j on j.number ~ '[0-9]{1,9}$' and substring(j.number from '^(.*?)[0-9]{1,9}$') = c.stem
             group by c.stem, c.digits)
        select stem || lpad(next::text, greatest(digits, length(next::text)), '0') from last""";
    private static final String DEVICES =
            "select device from job where device <> '' group by device order by count(*) desc, device limit 200";

    private final JdbcClient jdbc;

    JobStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What may stand in an address as one part of it. */
    private static final Pattern NUMBER = Pattern.compile("[A-Za-z0-9._-]{1,40}");

    private static final String RENAME = """
        update job set number = :number, search_text = replace(search_text, lower(number), lower(:number))
         where id = :id and not exists (select 1 from job where number = :number)""";

    /** Whether a job can be opened by this number: letters, digits, dots, underscores and hyphens, 1 to 40 of them. */
    public static boolean usable(String number) {
        return NUMBER.matcher(number).matches() && !number.matches("\\.+");
    }

    /**
     * Gives a job another number.
     *
     * @return false when that number is taken
     */
    public boolean rename(long id, String number) {
        return jdbc.sql(RENAME).param("id", id).param("number", number).update() == 1;
    }

    /** @param words searched in number, title, device and rail; empty for all */
    public List<ShelfRow> page(String words, int size, long skip) {
        return jdbc.sql(PAGE)
                .param("pattern", pattern(words))
                .param("size", size)
                .param("skip", skip)
                .query(JobStore::shelfRow)
                .list();
    }

    public long count(String words) {
        return jdbc.sql(COUNT)
                .param("pattern", pattern(words))
                .query(Long.class)
                .single();
    }

    /** For {@code like}: anywhere in lower case text; empty for all. */
    static String pattern(String words) {
        String clean = words.trim().toLowerCase(Locale.ROOT);
        return clean.isEmpty()
                ? ""
                : "%" + clean.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    private static ShelfRow shelfRow(ResultSet row, int index) throws SQLException {
        String ref = row.getString("lead_ref");
        String by = row.getString("lead_by");
        Optional<Lead> lead = ref == null
                ? Optional.empty()
                : Optional.of(new Lead(
                        ref,
                        row.getDouble("lead_probability"),
                        by == null ? Lead.By.FRAMES : Lead.By.valueOf(by.toUpperCase(Locale.ROOT))));
        return new ShelfRow(
                row.getLong("id"),
                row.getString("number"),
                row.getString("title"),
                row.getString("device"),
                row.getString("revision"),
                row.getString("rail"),
                row.getBoolean("rail_stated"),
                row.getTimestamp("opened_at").toInstant(),
                row.getString("step"),
                Optional.ofNullable(row.getString("next_step")),
                Optional.ofNullable(row.getString("verdict")),
                lead);
    }

    /** @throws NotFoundException when no job has the number */
    public JobRow named(String number) {
        return find(number).orElseThrow(() -> new NotFoundException("There is no job " + number + " on this shelf."));
    }

    public Optional<JobRow> find(String number) {
        return jdbc.sql(BY_NUMBER)
                .param("number", number)
                .query(JobStore::jobRow)
                .optional();
    }

    public JobRow byId(long id) {
        return jdbc.sql(BY_ID).param("id", id).query(JobStore::jobRow).single();
    }

    private static JobRow jobRow(ResultSet row, int index) throws SQLException {
        return new JobRow(
                row.getLong("id"),
                row.getString("number"),
                row.getString("title"),
                row.getString("device"),
                row.getLong("board_id"),
                row.getInt("hunt_no"),
                Optional.ofNullable(row.getString("rail")),
                row.getTimestamp("opened_at").toInstant(),
                row.getTimestamp("imported_at").toInstant());
    }

    /**
     * A job to be put on the shelf.
     *
     * @param device what it is; empty where the board's name says it
     * @param rail what somebody said that it is about
     */
    public record Opening(
            String number, String title, String device, long boardId, Optional<String> rail, Instant opened) {}

    /** @return the new job's id, empty when the number is taken */
    public Optional<Long> add(Opening job) {
        String search = String.join(
                        " ",
                        job.number(),
                        job.title(),
                        job.device(),
                        jdbc.sql(BOARD_NAME)
                                .param("id", job.boardId())
                                .query(String.class)
                                .single(),
                        job.rail().orElse(""))
                .toLowerCase(Locale.ROOT);
        return jdbc.sql(ADD_JOB)
                .param("number", job.number())
                .param("title", job.title())
                .param("device", job.device())
                .param("board", job.boardId())
                .param("rail", job.rail().orElse(null))
                .param("opened", job.opened().atOffset(ZoneOffset.UTC))
                .param("search", search)
                .query(Long.class)
                .optional();
    }

    /** The number that follows the newest job's: K-0431 after K-0430. */
    public String nextNumber() {
        return jdbc.sql(NEXT_NUMBER).query(String.class).single();
    }

    /** What devices were called before. */
    public List<String> devices() {
        return jdbc.sql(DEVICES).query(String.class).list();
    }

    /** A job's hunts in their order. */
    public List<Hunt> hunts(long jobId) {
        return jdbc.sql(HUNTS)
                .param("job", jobId)
                .query((row, i) -> new Hunt(row.getInt("no"), Optional.ofNullable(row.getString("rail"))))
                .list();
    }

    /** Opens another hunt and goes to it. @param rail what it is about, empty where the evidence has to tell */
    public void addHunt(long jobId, Optional<String> rail) {
        jdbc.sql(ADD_HUNT).param("job", jobId).param("rail", rail.orElse(null)).update();
    }

    /** @throws NotFoundException where the job has no such hunt */
    public void goToHunt(long jobId, int hunt) {
        if (jdbc.sql(GO_TO_HUNT).param("job", jobId).param("hunt", hunt).update() == 0) {
            throw new NotFoundException("This job has no hunt " + hunt + ".");
        }
    }

    /** States what the current hunt is about, or takes the statement back. */
    public void setRail(long jobId, Optional<String> rail) {
        jdbc.sql(SET_RAIL).param("id", jobId).param("rail", rail.orElse(null)).update();
    }

    /** Puts another board under a job: the same with a point more. */
    public void setBoard(long jobId, long boardId) {
        jdbc.sql("update job set board_id = :board where id = :id")
                .param("id", jobId)
                .param("board", boardId)
                .update();
    }

    /** The part that leads. @param probability that it is the fault; 1 where it is proven */
    public record Lead(String ref, double probability, By by) {
        /** Who says so. */
        public enum By {
            FRAMES,
            METER,
            PROOF
        }
    }

    /** Keeps the shelf's line up to date. */
    public void setState(
            long jobId, String step, String next, Optional<String> verdict, Optional<Lead> lead, String rail) {
        jdbc.sql(SET_STATE)
                .param("job", jobId)
                .param("step", step)
                .param("next", next)
                .param("rail", rail)
                .param("verdict", verdict.orElse(null))
                .param("ref", lead.map(Lead::ref).orElse(null))
                .param("probability", lead.map(Lead::probability).orElse(null))
                .param(
                        "by",
                        lead.map(l -> l.by().name().toLowerCase(Locale.ROOT)).orElse(null))
                .update();
    }
}
