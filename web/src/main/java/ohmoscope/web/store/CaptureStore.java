package ohmoscope.web.store;

import java.io.IOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.OptionalDouble;
import javax.sql.DataSource;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.RegistrationJson;
import ohmoscope.web.config.NotFoundException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.jdbc.support.SQLExceptionSubclassTranslator;
import org.springframework.stereotype.Repository;

/** Captures and their frames. Frames go in and out a few at a time. */
@Repository
public class CaptureStore {
    private static final int BATCH = 32;
    private static final String ANY = """
        select exists (select 1 from capture
         where job_id = :job and not taking and hunt_no = (select hunt_no from job where id = :job))""";
    private static final String OF_HUNT = """
        select c.id, c.name, c.side, c.width, c.height, c.kelvin_per_count, c.kelvin_at_zero, c.netd_k, c.emissivity,
               c.taken_at,
               (select r.pairs from registration r where r.capture_id = c.id order by r.id desc limit 1) as pairs
          from capture c
         where c.job_id = :job and c.hunt_no = :hunt and not c.taking
         order by c.position""";
    /** Names are the job's: an address of another hunt's capture still leads to it. */
    private static final String OF_NAME = OF_HUNT.replace("c.hunt_no = :hunt", "c.name = :name");

    private static final String TIMES = "select t_s from frame where capture_id = :capture order by frame_no";
    private static final String FRAMES = """
        select frame_no, counts from frame
         where capture_id = :capture and frame_no >= :from
         order by frame_no limit :count""";
    private static final String ADD = """
        insert into capture (job_id, hunt_no, name, position, side, width, height, kelvin_per_count, kelvin_at_zero, netd_k,
                             emissivity, frame_count)
        values (:job, (select hunt_no from job where id = :job), :name, :position, :side, :width, :height, :scale, :zero, :netd, :emissivity, :frames)
        returning id""";
    private static final String ADD_FRAME = "insert into frame (capture_id, frame_no, t_s, counts) values (?, ?, ?, ?)";
    private static final String BEGIN = "update capture set taking = true where id = :capture";
    private static final String TAKEN = """
        update capture set taking = false, taken_at = now(),
               frame_count = (select count(*) from frame where capture_id = :capture)
         where id = :capture""";
    private static final String TAKING = """
        select c.id, c.job_id, c.hunt_no, c.name, j.number from capture c join job j on j.id = c.job_id
         where c.taking order by c.id""";
    private static final String ADD_ROW =
            "insert into supply_row (capture_id, t_s, volts, amps, output) values (?, ?, ?, ?, ?)";
    private static final String ROWS =
            "select t_s, volts, amps, output from supply_row where capture_id = :capture order by id";
    private static final String NAMES = "select name from capture where job_id = :job";
    private static final String ADD_REGISTRATION =
            "insert into registration (capture_id, pairs, recorded_by) values (:capture, :pairs, :by)";

    private final JdbcClient jdbc;
    private final DataSource dataSource;

    CaptureStore(JdbcClient jdbc, DataSource dataSource) {
        this.jdbc = jdbc;
        this.dataSource = dataSource;
    }

    /**
     * A stored capture: its row's id and what a bundle would hold of it.
     *
     * @param takenAt when it was taken in; the hour of the import for what came with the job
     */
    public record Stored(long id, CaptureSpec spec, FrameSource frames, Instant takenAt) {
        public Capture capture() {
            return new Capture(spec, frames);
        }
    }

    public boolean any(long jobId) {
        return jdbc.sql(ANY).param("job", jobId).query(Boolean.class).single();
    }

    /** The captures of one of a job's hunts. */
    public List<Stored> ofHunt(long jobId, int hunt) throws IOException {
        return of(jdbc.sql(OF_HUNT).param("job", jobId).param("hunt", hunt));
    }

    private List<Stored> of(JdbcClient.StatementSpec question) throws IOException {
        List<Row> rows = question.query(CaptureStore::row).list();
        List<Stored> captures = new ArrayList<>();
        for (Row row : rows) {
            List<Double> times =
                    jdbc.sql(TIMES).param("capture", row.id).query(Double.class).list();
            CaptureSpec spec = new CaptureSpec(
                    row.name,
                    row.side,
                    row.width,
                    row.height,
                    row.kelvinPerCount,
                    row.kelvinAtZero,
                    row.netdK,
                    row.emissivity,
                    RegistrationJson.read(row.pairs),
                    times);
            captures.add(new Stored(row.id, spec, () -> new StoredFrames(row.id, spec), row.takenAt));
        }
        return captures;
    }

    /** @throws NotFoundException when the job has no capture of that name */
    public Stored named(long jobId, String name) throws IOException {
        return of(jdbc.sql(OF_NAME).param("job", jobId).param("name", name)).stream()
                .findFirst()
                .orElseThrow(() -> new NotFoundException("This job has no capture " + name + "."));
    }

    private record Row(
            long id,
            String name,
            Side side,
            int width,
            int height,
            double kelvinPerCount,
            double kelvinAtZero,
            OptionalDouble netdK,
            OptionalDouble emissivity,
            String pairs,
            Instant takenAt) {}

    private static Row row(ResultSet row, int index) throws SQLException {
        return new Row(
                row.getLong("id"),
                row.getString("name"),
                Side.valueOf(row.getString("side")),
                row.getInt("width"),
                row.getInt("height"),
                row.getDouble("kelvin_per_count"),
                row.getDouble("kelvin_at_zero"),
                optional(row, "netd_k"),
                optional(row, "emissivity"),
                row.getString("pairs"),
                row.getTimestamp("taken_at").toInstant());
    }

    private static OptionalDouble optional(ResultSet row, String column) throws SQLException {
        double value = row.getDouble(column);
        return row.wasNull() ? OptionalDouble.empty() : OptionalDouble.of(value);
    }

    /** Counts of some frames from one on, fewer at the end. */
    public List<char[]> frames(Stored capture, int from, int count) {
        CaptureSpec spec = capture.spec();
        return jdbc.sql(FRAMES)
                .param("capture", capture.id())
                .param("from", from)
                .param("count", count)
                .query((row, i) -> unpacked(row.getBytes("counts"), spec))
                .list();
    }

    private static char[] unpacked(byte[] packed, CaptureSpec spec) {
        char[] counts = new char[spec.pixels()];
        FrameCodec.unpack(packed, spec.width(), counts);
        return counts;
    }

    /** Told after each batch how many frames of all have been written; may throw to end the work. */
    @FunctionalInterface
    public interface Written {
        void frames(int done);
    }

    /**
     * Stores a capture with all its frames; belongs into a transaction.
     *
     * @return its row's id
     */
    public long add(long jobId, int position, Capture capture, String by, Written written) throws IOException {
        CaptureSpec spec = capture.spec();
        long id = jdbc.sql(ADD)
                .param("job", jobId)
                .param("name", spec.id())
                .param("position", position)
                .param("side", spec.side().name())
                .param("width", spec.width())
                .param("height", spec.height())
                .param("scale", spec.kelvinPerCount())
                .param("zero", spec.kelvinAtZero())
                .param("netd", spec.netdK().isPresent() ? spec.netdK().getAsDouble() : null)
                .param(
                        "emissivity",
                        spec.emissivity().isPresent() ? spec.emissivity().getAsDouble() : null)
                .param("frames", spec.frameCount())
                .query(Long.class)
                .single();
        addRegistration(id, spec.registration(), by);
        Connection connection = DataSourceUtils.getConnection(dataSource);
        try (PreparedStatement statement = connection.prepareStatement(ADD_FRAME);
                FrameSource.Cursor cursor = capture.frames().open()) {
            char[] counts = new char[spec.pixels()];
            int frame = 0;
            while (cursor.next(counts)) {
                batch(statement, id, frame, spec.timesS().get(frame), counts, spec.width());
                frame++;
                if (frame % BATCH == 0) {
                    statement.executeBatch();
                    written.frames(frame);
                }
            }
            statement.executeBatch();
            written.frames(frame);
            return id;
        } catch (SQLException failed) {
            throw new SQLExceptionSubclassTranslator().translate("storing frames", ADD_FRAME, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    /** A capture that was being taken when the application ended. */
    public record Unfinished(long id, long jobId, int huntNo, String name, String number) {}

    public List<Unfinished> unfinished() {
        return jdbc.sql(TAKING).query(Unfinished.class).list();
    }

    /** Names of all that was taken or is being taken in a job. */
    public List<String> names(long jobId) {
        return jdbc.sql(NAMES).param("job", jobId).query(String.class).list();
    }

    /**
     * Begins a capture with the frames that are there; it is none yet until {@link #taken}. Belongs into a transaction.
     *
     * @return its row's id
     */
    public long begin(long jobId, int position, Capture capture, String by) throws IOException {
        long id = add(jobId, position, capture, by, done -> {});
        jdbc.sql(BEGIN).param("capture", id).update();
        return id;
    }

    /**
     * More frames of a capture that is being taken. Belongs into a transaction.
     *
     * @param from the number of the first of them
     */
    public void more(long capture, int from, int width, List<char[]> counts, List<Double> timesS) {
        Connection connection = DataSourceUtils.getConnection(dataSource);
        try (PreparedStatement statement = connection.prepareStatement(ADD_FRAME)) {
            for (int i = 0; i < counts.size(); i++) {
                batch(statement, capture, from + i, timesS.get(i), counts.get(i), width);
            }
            statement.executeBatch();
        } catch (SQLException failed) {
            throw new SQLExceptionSubclassTranslator().translate("storing frames", ADD_FRAME, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    private static void batch(PreparedStatement statement, long capture, int frame, double tS, char[] counts, int width)
            throws SQLException {
        statement.setLong(1, capture);
        statement.setInt(2, frame);
        statement.setDouble(3, tS);
        statement.setBytes(4, FrameCodec.packed(counts, width));
        statement.addBatch();
    }

    /** What the supply showed since. Belongs into a transaction. */
    public void rows(long capture, List<SupplyLog.Row> rows) {
        Connection connection = DataSourceUtils.getConnection(dataSource);
        try (PreparedStatement statement = connection.prepareStatement(ADD_ROW)) {
            for (SupplyLog.Row row : rows) {
                statement.setLong(1, capture);
                statement.setDouble(2, row.tS());
                statement.setDouble(3, row.volts());
                statement.setDouble(4, row.amps());
                statement.setBoolean(5, row.output());
                statement.addBatch();
            }
            statement.executeBatch();
        } catch (SQLException failed) {
            throw new SQLExceptionSubclassTranslator().translate("storing the supply's rows", ADD_ROW, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    /** It is a capture from now on. @return what the supply showed */
    public List<SupplyLog.Row> taken(long capture) {
        jdbc.sql(TAKEN).param("capture", capture).update();
        return jdbc.sql(ROWS)
                .param("capture", capture)
                .query((row, i) -> new SupplyLog.Row(
                        row.getDouble("t_s"), row.getDouble("volts"), row.getDouble("amps"), row.getBoolean("output")))
                .list();
    }

    public void addRegistration(long captureId, List<RegistrationPair> pairs, String by) {
        jdbc.sql(ADD_REGISTRATION)
                .param("capture", captureId)
                .param("pairs", RegistrationJson.write(pairs))
                .param("by", by)
                .update();
    }

    /** Frames out of the database, a batch at a time. */
    private final class StoredFrames implements FrameSource.Cursor {
        private final long captureId;
        private final CaptureSpec spec;
        private final Deque<byte[]> ahead = new ArrayDeque<>();
        private int next;

        StoredFrames(long captureId, CaptureSpec spec) {
            this.captureId = captureId;
            this.spec = spec;
        }

        @Override
        public boolean next(char[] counts) {
            if (ahead.isEmpty()) {
                ahead.addAll(jdbc.sql(FRAMES)
                        .param("capture", captureId)
                        .param("from", next)
                        .param("count", BATCH)
                        .query((row, i) -> row.getBytes("counts"))
                        .list());
            }
            if (ahead.isEmpty()) {
                return false;
            }
            FrameCodec.unpack(ahead.poll(), spec.width(), counts);
            next++;
            return true;
        }

        @Override
        public void close() {
            ahead.clear();
        }
    }
}
