package ohmoscope.web.store;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.formats.BoardJson;
import ohmoscope.web.config.LastUsed;
import ohmoscope.web.config.NotFoundException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Boards: each row is one version and never changes. */
@Repository
public class BoardStore {
    private static final String DOCUMENT = "select document from board where id = :id";
    private static final String ADD = """
        insert into board (digest, name, revision, document, library, notes, family)
        values (:digest, :name, :revision, :document, :library, :notes, :family)
        on conflict (digest) do update set library = board.library or excluded.library
        returning id""";
    private static final String FAMILY = "update board set family = id where id = :id and family is null";
    private static final String MADE_FROM =
            "update board set made_from = :before where id = :id and made_from is null and id > :before";
    private static final String OFFER = """
        update board set library = (id = :id)
         where coalesce(family, id) = (select coalesce(family, id) from board where id = :id)""";
    private static final String ROWS = """
        select b.id, b.name, b.revision, b.library, b.notes, b.recorded_at, b.made_from,
               (select count(*) from job j where j.board_id = b.id) as jobs,
               (select count(*) from good_reading g join board f on f.id = g.board_id where f.family = b.family) as good
          from board b""";
    private static final String LIBRARY = ROWS + """

         where b.library and (:pattern = '' or lower(b.name || ' ' || b.revision) like :pattern)
         order by jobs desc, b.name, b.id limit 200""";
    private static final String ONE = ROWS + " where b.id = :id";
    private static final String VERSIONS = ROWS + """

         where b.family = (select family from board where id = :id)
         order by b.id desc limit 100""";

    /** A photograph that lies over a version lies over what is made of it. */
    private static final String CARRY_PHOTOS = """
        insert into photo_laid (board_id, side, document)
        select :id, side, document from photo_laid where board_id = :before
        on conflict (board_id, side) do nothing""";

    private static final String ADD_FILE =
            "insert into board_file (board_id, no, name, content) values (:board, :no, :name, :content) on conflict do nothing";
    private static final String FILES = """
        select f.name, f.content from board_file f join board b on b.id = f.board_id
         where b.family = (select family from board where id = :board) order by f.board_id, f.no""";
    private static final String HAS_FILES = """
        select exists (select 1 from board_file f join board b on b.id = f.board_id
         where b.family = (select family from board where id = :board))""";
    private static final String CHOICES = "select choices from board where id = :board";
    private static final String CHOOSE = "update board set choices = :choices where id = :board";
    private static final int KEPT = 64;

    private final JdbcClient jdbc;
    private final Map<Long, Board> boards = LastUsed.map(KEPT);

    BoardStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * One version of a board.
     *
     * @param offered whether the library offers it for the next job
     * @param jobs how many jobs are on this version
     * @param good how many good readings its family has
     * @param notes how it came about, a line each
     * @param madeFrom the version that it was made from; empty for the first
     */
    public record Row(
            long id,
            String name,
            String revision,
            boolean offered,
            int jobs,
            int good,
            List<String> notes,
            Instant recordedAt,
            Optional<Long> madeFrom) {
        public Row {
            notes = List.copyOf(notes);
        }
    }

    /** A stored board. Boards never change, so the last few read are kept. */
    public Board board(long id) throws IOException {
        Board known = boards.get(id);
        if (known != null) {
            return known;
        }
        String document = jdbc.sql(DOCUMENT)
                .param("id", id)
                .query(String.class)
                .optional()
                .orElseThrow(() -> new NotFoundException("There is no such board in the library."));
        Board read = BoardJson.read(new ByteArrayInputStream(document.getBytes(StandardCharsets.UTF_8)), "board.json");
        boards.put(id, read);
        return read;
    }

    /** Boards that a job can begin with, those with most jobs first. @param words in name or revision; empty for all */
    public List<Row> library(String words) {
        return jdbc.sql(LIBRARY)
                .param("pattern", JobStore.pattern(words))
                .query(BoardStore::row)
                .list();
    }

    /** @throws NotFoundException when there is none */
    public Row row(long id) {
        return jdbc.sql(ONE)
                .param("id", id)
                .query(BoardStore::row)
                .optional()
                .orElseThrow(() -> new NotFoundException("There is no such board in the library."));
    }

    /** All versions of a board's family, the newest first. */
    public List<Row> versions(long id) {
        return jdbc.sql(VERSIONS).param("id", id).query(BoardStore::row).list();
    }

    private static Row row(ResultSet row, int index) throws SQLException {
        return new Row(
                row.getLong("id"),
                row.getString("name"),
                row.getString("revision"),
                row.getBoolean("library"),
                row.getInt("jobs"),
                row.getInt("good"),
                row.getString("notes").lines().toList(),
                row.getTimestamp("recorded_at").toInstant(),
                Optional.ofNullable(row.getObject("made_from", Long.class)));
    }

    /**
     * @param library whether it is offered for the next job
     * @param notes how it came about, a line each
     * @return the board's id; the same board is kept once
     */
    public long add(Board board, boolean library, List<String> notes) {
        return add(board, library, notes, Optional.empty());
    }

    /** The next version of a board; the library offers it where it offered the one before. */
    public long edited(long before, Board board) {
        Row row = row(before);
        return edited(row, board, row.notes());
    }

    /** The same, with notes of its own. */
    public long edited(long before, Board board, List<String> notes) {
        return edited(row(before), board, notes);
    }

    private long edited(Row row, Board board, List<String> notes) {
        long before = row.id();
        Optional<Long> family = jdbc.sql("select family from board where id = :id")
                .param("id", before)
                .query(Long.class)
                .optional();
        long id = add(board, row.offered(), notes, family);
        jdbc.sql(MADE_FROM).param("id", id).param("before", before).update();
        jdbc.sql(CARRY_PHOTOS).param("id", id).param("before", before).update();
        if (row.offered()) {
            offer(id);
        }
        return id;
    }

    /** Makes this version the one of its family that the library offers. */
    public void offer(long id) {
        jdbc.sql(OFFER).param("id", id).update();
    }

    private long add(Board board, boolean library, List<String> notes, Optional<Long> family) {
        byte[] document = BoardJson.write(board);
        long id = jdbc.sql(ADD)
                .param("digest", digest(document))
                .param("name", board.name())
                .param("revision", board.revision())
                .param("document", new String(document, StandardCharsets.UTF_8))
                .param("library", library)
                .param("notes", String.join("\n", notes))
                .param("family", family.orElse(null))
                .query(Long.class)
                .single();
        jdbc.sql(FAMILY).param("id", id).update();
        return id;
    }

    /** One of the files that a board was read from. */
    public record File(String name, byte[] content) {}

    /** Keeps the files that a board was read from; once. */
    public void keepFiles(long id, List<File> files) {
        for (int i = 0; i < files.size(); i++) {
            jdbc.sql(ADD_FILE)
                    .param("board", id)
                    .param("no", i + 1)
                    .param("name", files.get(i).name())
                    .param("content", files.get(i).content())
                    .update();
        }
    }

    /** The files that a board's family was read from, as they were given. */
    public List<File> files(long id) {
        return jdbc.sql(FILES)
                .param("board", id)
                .query((row, i) -> new File(row.getString("name"), row.getBytes("content")))
                .list();
    }

    public boolean hasFiles(long id) {
        return jdbc.sql(HAS_FILES).param("board", id).query(Boolean.class).single();
    }

    /** What was decided where they disagree, as it was kept; empty for nothing. */
    public String choices(long id) {
        return jdbc.sql(CHOICES).param("board", id).query(String.class).single();
    }

    public void choose(long id, String choices) {
        jdbc.sql(CHOOSE).param("board", id).param("choices", choices).update();
    }

    private static String digest(byte[] bytes) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every JDK has SHA-256", impossible);
        }
    }
}
