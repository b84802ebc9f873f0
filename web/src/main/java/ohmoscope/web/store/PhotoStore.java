package ohmoscope.web.store;

import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.MapStep;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.formats.photo.MapStepJson;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Photographs of boards, the steps of maps that are being made, and how photographs lie over kept versions. */
@Repository
public class PhotoStore {
    private static final String ADD = """
        insert into board_photo (family, side, width, height, content, recorded_by)
        values ((select coalesce(family, id) from board where id = :board), :side, :width, :height, :content, :by)
        returning id""";
    private static final String PHOTOS = """
        select id, side, width, height, recorded_at from board_photo
         where family = (select coalesce(family, id) from board where id = :board) order by id desc limit 40""";
    private static final String CONTENT = """
        select content from board_photo
         where id = :id and family = (select coalesce(family, id) from board where id = :board)""";
    private static final String STEPS = "select document from map_step where board_id = :board order by seq";
    private static final String ADD_STEP = """
        insert into map_step (board_id, seq, document, recorded_by)
        select :board, coalesce(max(seq), 0) + 1, :document, :by from map_step where board_id = :board""";
    private static final String UNDO = """
        delete from map_step
         where board_id = :board and seq = (select max(seq) from map_step where board_id = :board)""";
    private static final String LAID = "select document from photo_laid where board_id = :board";
    private static final String LAY = """
        insert into photo_laid (board_id, side, document) values (:board, :side, :document)
        on conflict (board_id, side) do update set document = excluded.document""";
    private static final String SIDES_OF_JOB = """
        select l.board_id, l.side from photo_laid l join job j on j.board_id = l.board_id where j.number = :number""";
    private static final String SIDES_OF_BOARD = "select board_id, side from photo_laid where board_id = :board";

    private final JdbcClient jdbc;

    PhotoStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A photograph without its content. */
    public record Photo(long id, Side side, int width, int height, Instant at) {}

    /** @param jpeg upright, as it was held */
    public long add(long board, Side side, int width, int height, byte[] jpeg, String by) {
        return jdbc.sql(ADD)
                .param("board", board)
                .param("side", side.name())
                .param("width", width)
                .param("height", height)
                .param("content", jpeg)
                .param("by", by)
                .query(Long.class)
                .single();
    }

    /** Of a board's family, the newest first. */
    public List<Photo> photos(long board) {
        return jdbc.sql(PHOTOS)
                .param("board", board)
                .query((row, i) -> new Photo(
                        row.getLong("id"),
                        Side.valueOf(row.getString("side")),
                        row.getInt("width"),
                        row.getInt("height"),
                        row.getTimestamp("recorded_at").toInstant()))
                .list();
    }

    /** A photograph as JPEG; empty where the board's family has none of that number. */
    public Optional<byte[]> content(long board, long id) {
        return jdbc.sql(CONTENT)
                .param("board", board)
                .param("id", id)
                .query(byte[].class)
                .optional();
    }

    public List<MapStep> steps(long board) {
        return jdbc.sql(STEPS).param("board", board).query(String.class).list().stream()
                .map(MapStepJson::read)
                .toList();
    }

    public void addStep(long board, MapStep step, String by) {
        jdbc.sql(ADD_STEP)
                .param("board", board)
                .param("document", MapStepJson.write(step))
                .param("by", by)
                .update();
    }

    /** Takes the last step away. */
    public void undo(long board) {
        jdbc.sql(UNDO).param("board", board).update();
    }

    /** Forgets the steps: they have become a version. */
    public void clear(long board) {
        jdbc.sql("delete from map_step where board_id = :board")
                .param("board", board)
                .update();
    }

    /** How photographs lie over a kept version. */
    public Map<Side, PhotoMap.Laid> laid(long board) {
        Map<Side, PhotoMap.Laid> laid = new EnumMap<>(Side.class);
        for (String document :
                jdbc.sql(LAID).param("board", board).query(String.class).list()) {
            if (MapStepJson.read(document) instanceof MapStep.Square square) {
                laid.put(square.side(), new PhotoMap.Laid(square.photo(), square.squared()));
            }
        }
        return laid;
    }

    public void lay(long board, Map<Side, PhotoMap.Laid> laid) {
        laid.forEach((side, photo) -> jdbc.sql(LAY)
                .param("board", board)
                .param("side", side.name())
                .param("document", MapStepJson.write(new MapStep.Square(side, photo.photo(), photo.squared())))
                .update());
    }

    /** Which sides of a job's board have a photograph under them, by the board's number. */
    public Map<Side, Long> sidesOfJob(String number) {
        return sides(jdbc.sql(SIDES_OF_JOB).param("number", number));
    }

    public Map<Side, Long> sidesOfBoard(long board) {
        return sides(jdbc.sql(SIDES_OF_BOARD).param("board", board));
    }

    private static Map<Side, Long> sides(JdbcClient.StatementSpec question) {
        Map<Side, Long> sides = new EnumMap<>(Side.class);
        question.query((row, i) -> sides.put(Side.valueOf(row.getString("side")), row.getLong("board_id")))
                .list();
        return sides;
    }
}
