package ohmoscope.web.store;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.formats.BoardJson;
import ohmoscope.web.config.LastUsed;
import ohmoscope.web.config.NotFoundException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Jobs and their boards. */
@Repository
public class JobStore {
    private static final String PAGE = """
        select j.id, j.number, j.title, b.name as device, b.revision, j.rail, j.opened_at,
               coalesce(s.step, 'RECEIVE') as step, s.next_step, s.verdict, s.lead_ref, s.lead_probability,
               s.lead_by
          from job j
          join board b on b.id = j.board_id
          left join job_state s on s.job_id = j.id
         where (:pattern = '' or j.search_text like :pattern)
         order by j.opened_at desc, j.id desc
         limit :size offset :skip""";
    private static final String COUNT = "select count(*) from job where (:pattern = '' or search_text like :pattern)";
    private static final String BY_NUMBER =
            "select id, number, title, board_id, rail, opened_at, imported_at from job where number = :number";
    private static final String BY_ID =
            "select id, number, title, board_id, rail, opened_at, imported_at from job where id = :id";
    private static final String BOARD = "select document from board where id = :id";
    private static final String ADD_BOARD = """
        insert into board (digest, name, revision, document) values (:digest, :name, :revision, :document)
        on conflict (digest) do update set digest = excluded.digest
        returning id""";
    private static final String ADD_JOB = """
        insert into job (number, title, board_id, rail, opened_at, search_text)
        values (:number, :title, :board, :rail, :opened, :search)
        on conflict (number) do nothing
        returning id""";
    private static final String SET_STATE = """
        insert into job_state (job_id, step, next_step, verdict, lead_ref, lead_probability, lead_by)
        values (:job, :step, :next, :verdict, :ref, :probability, :by)
        on conflict (job_id) do update
           set step = excluded.step, next_step = excluded.next_step, verdict = excluded.verdict,
               lead_ref = excluded.lead_ref, lead_probability = excluded.lead_probability,
               lead_by = excluded.lead_by""";

    private static final int BOARDS_KEPT = 64;

    private final JdbcClient jdbc;
    private final Map<Long, Board> boards = LastUsed.map(BOARDS_KEPT);

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

    private static String pattern(String words) {
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
                row.getLong("board_id"),
                row.getString("rail"),
                row.getTimestamp("opened_at").toInstant(),
                row.getTimestamp("imported_at").toInstant());
    }

    /** A stored board. Boards never change, so the last few read are kept. */
    public Board board(long boardId) throws IOException {
        Board known = boards.get(boardId);
        if (known != null) {
            return known;
        }
        Board read = readBoard(boardId);
        boards.put(boardId, read);
        return read;
    }

    private Board readBoard(long boardId) throws IOException {
        String document =
                jdbc.sql(BOARD).param("id", boardId).query(String.class).single();
        return BoardJson.read(new ByteArrayInputStream(document.getBytes(StandardCharsets.UTF_8)), "board.json");
    }

    /** @return the new job's id, empty when the number is taken */
    public Optional<Long> add(String number, String title, Board board, String rail, Instant opened) {
        long boardId = addBoard(board);
        String search = String.join(" ", number, title, board.name(), board.revision(), rail)
                .toLowerCase(Locale.ROOT);
        return jdbc.sql(ADD_JOB)
                .param("number", number)
                .param("title", title)
                .param("board", boardId)
                .param("rail", rail)
                .param("opened", opened.atOffset(ZoneOffset.UTC))
                .param("search", search)
                .query(Long.class)
                .optional();
    }

    private long addBoard(Board board) {
        byte[] document = BoardJson.write(board);
        return jdbc.sql(ADD_BOARD)
                .param("digest", digest(document))
                .param("name", board.name())
                .param("revision", board.revision())
                .param("document", new String(document, StandardCharsets.UTF_8))
                .query(Long.class)
                .single();
    }

    private static String digest(byte[] bytes) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every JDK has SHA-256", impossible);
        }
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
    public void setState(long jobId, String step, String next, Optional<String> verdict, Optional<Lead> lead) {
        jdbc.sql(SET_STATE)
                .param("job", jobId)
                .param("step", step)
                .param("next", next)
                .param("verdict", verdict.orElse(null))
                .param("ref", lead.map(Lead::ref).orElse(null))
                .param("probability", lead.map(Lead::probability).orElse(null))
                .param(
                        "by",
                        lead.map(l -> l.by().name().toLowerCase(Locale.ROOT)).orElse(null))
                .update();
    }
}
