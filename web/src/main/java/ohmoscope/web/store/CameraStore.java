package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.formats.frames.Scale;
import ohmoscope.formats.frames.StackCapture.Reading;
import ohmoscope.formats.frames.Turn;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Camera profiles: how files of a kind were read the last time. */
@Repository
public class CameraStore {
    private static final String FITTING = """
        select name, kelvin_per_step, kelvin_at_zero, turn, frames_per_second, netd_k from camera_profile
         where format = :format and width = :width and height = :height and depth = :depth
         order by used_at desc limit 1""";
    private static final String KNOWN = """
        select name, width, height, frames_per_second, netd_k from camera_profile order by used_at desc limit :most""";
    private static final String KEEP = """
        insert into camera_profile (name, format, width, height, depth, kelvin_per_step, kelvin_at_zero, turn,
                                    frames_per_second, netd_k, used_by)
        values (:name, :format, :width, :height, :depth, :step, :zero, :turn, :fps, :netd, :by)
        on conflict (name) do update
           set format = excluded.format, width = excluded.width, height = excluded.height, depth = excluded.depth,
               kelvin_per_step = excluded.kelvin_per_step, kelvin_at_zero = excluded.kelvin_at_zero,
               turn = excluded.turn, frames_per_second = excluded.frames_per_second, netd_k = excluded.netd_k,
               used_at = now(), used_by = excluded.used_by""";

    private final JdbcClient jdbc;

    CameraStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A camera by name, with the reading that was used last; its start is 0. */
    public record Profile(String name, Scale.Linear scale, Turn turn, double framesPerSecond, OptionalDouble netdK) {}

    /** The profile used last for files of this kind and size. */
    public Optional<Profile> fitting(FrameStack stack) {
        return jdbc.sql(FITTING)
                .param("format", stack.format())
                .param("width", stack.width())
                .param("height", stack.height())
                .param("depth", stack.depth().name())
                .query(CameraStore::profile)
                .optional();
    }

    /** A camera as the planner needs it. */
    public record Known(String name, int width, int height, double framesPerSecond, OptionalDouble netdK) {}

    /** The cameras used last, newest first. */
    public List<Known> known(int most) {
        return jdbc.sql(KNOWN)
                .param("most", most)
                .query((row, index) -> new Known(
                        row.getString("name"),
                        row.getInt("width"),
                        row.getInt("height"),
                        row.getDouble("frames_per_second"),
                        netd(row)))
                .list();
    }

    private static OptionalDouble netd(ResultSet row) throws SQLException {
        double netd = row.getDouble("netd_k");
        return netd > 0 ? OptionalDouble.of(netd) : OptionalDouble.empty();
    }

    private static Profile profile(ResultSet row, int index) throws SQLException {
        return new Profile(
                row.getString("name"),
                new Scale.Linear(row.getDouble("kelvin_per_step"), row.getDouble("kelvin_at_zero")),
                Turn.valueOf(row.getString("turn")),
                row.getDouble("frames_per_second"),
                netd(row));
    }

    /** Remembers how files of this kind were read. */
    public void keep(String name, FrameStack stack, Reading reading, String by) {
        jdbc.sql(KEEP)
                .param("name", name)
                .param("format", stack.format())
                .param("width", stack.width())
                .param("height", stack.height())
                .param("depth", stack.depth().name())
                .param("step", reading.scale().kelvinPerStep())
                .param("zero", reading.scale().kelvin(0))
                .param("turn", reading.turn().name())
                .param("fps", reading.framesPerSecond())
                .param("netd", reading.netdK().isPresent() ? reading.netdK().getAsDouble() : null)
                .param("by", by)
                .update();
    }
}
