package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** How devices came in: words, hazards, what came with them, photographs. Rows are only ever added. */
@Repository
public class IntakeStore {
    private static final String LATEST = """
        select account, earlier_work, condition, hazards, recorded_at, recorded_by
          from intake where job_id = :job order by id desc limit 1""";
    private static final String ADD = """
        insert into intake (job_id, account, earlier_work, condition, hazards, recorded_by)
        values (:job, :account, :earlier, :condition, :hazards, :by)""";
    private static final String ITEMS = """
        select i.name, i.came, max(c.checked_at) as checked_at
          from fit_item i
          left join fit_check c on c.job_id = i.job_id and c.name = i.name
         where i.job_id = :job
         group by i.job_id, i.name, i.came, i.recorded_at
         order by i.recorded_at, i.name""";
    private static final String ADD_ITEM = """
        insert into fit_item (job_id, name, came, recorded_by) values (:job, :name, :came, :by)
        on conflict (job_id, name) do nothing""";
    private static final String CHECK = """
        insert into fit_check (job_id, name, checked_by)
        select job_id, name, :by from fit_item where job_id = :job and name = :name""";
    private static final String PHOTOS = """
        select p.id, p.caption, p.recorded_at, p.recorded_by, pin.ref
          from photo p
          left join lateral (select ref from photo_pin where photo_id = p.id order by id desc limit 1) pin on true
         where p.job_id = :job
         order by p.id""";
    private static final String ADD_PHOTO = """
        insert into photo (job_id, caption, media_type, content, recorded_by)
        values (:job, :caption, :type, :content, :by)
        returning id""";
    private static final String PIN = "insert into photo_pin (photo_id, ref, recorded_by) values (:photo, :ref, :by)";
    private static final String PHOTO = "select media_type, content from photo where job_id = :job and id = :id";

    private final JdbcClient jdbc;

    IntakeStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param hazards of swollen-cell, hot-cell, liquid, only-copy */
    public record Intake(String account, String earlierWork, String condition, List<String> hazards) {
        public Intake {
            hazards = List.copyOf(hazards);
        }
    }

    /** @param checked when it was last seen to be back in the device */
    public record Item(String name, boolean came, Optional<Instant> checked) {}

    /** A photograph without its content. @param pinned the part that it shows, by its newest name */
    public record Photo(long id, String caption, Instant at, String by, Optional<String> pinned) {}

    /** A photograph's content. */
    public record Content(String mediaType, byte[] bytes) {}

    public Optional<Intake> latest(long jobId) {
        return jdbc.sql(LATEST).param("job", jobId).query(IntakeStore::intake).optional();
    }

    private static Intake intake(ResultSet row, int index) throws SQLException {
        return new Intake(
                row.getString("account"),
                row.getString("earlier_work"),
                row.getString("condition"),
                Arrays.asList((String[]) row.getArray("hazards").getArray()));
    }

    public void add(long jobId, Intake intake, String by) {
        jdbc.sql(ADD)
                .param("job", jobId)
                .param("account", intake.account())
                .param("earlier", intake.earlierWork())
                .param("condition", intake.condition())
                .param("hazards", intake.hazards().toArray(String[]::new))
                .param("by", by)
                .update();
    }

    public List<Item> items(long jobId) {
        return jdbc.sql(ITEMS)
                .param("job", jobId)
                .query((row, i) -> new Item(
                        row.getString("name"),
                        row.getBoolean("came"),
                        Optional.ofNullable(row.getTimestamp("checked_at")).map(t -> t.toInstant())))
                .list();
    }

    /** @return whether it was not on the list yet */
    public boolean addItem(long jobId, String name, boolean came, String by) {
        return jdbc.sql(ADD_ITEM)
                        .param("job", jobId)
                        .param("name", name)
                        .param("came", came)
                        .param("by", by)
                        .update()
                == 1;
    }

    /**
     * Somebody saw that it is back in the device.
     *
     * @return whether it is on the list
     */
    public boolean check(long jobId, String name, String by) {
        return jdbc.sql(CHECK)
                        .param("job", jobId)
                        .param("name", name)
                        .param("by", by)
                        .update()
                == 1;
    }

    public List<Photo> photos(long jobId) {
        PointNames names = PointNames.of(jdbc, jobId);
        return jdbc.sql(PHOTOS)
                .param("job", jobId)
                .query((row, i) -> new Photo(
                        row.getLong("id"),
                        row.getString("caption"),
                        row.getTimestamp("recorded_at").toInstant(),
                        row.getString("recorded_by"),
                        Optional.ofNullable(row.getString("ref")).map(names::newest)))
                .list();
    }

    /** @return its id */
    public long addPhoto(long jobId, String caption, Content content, String by) {
        return jdbc.sql(ADD_PHOTO)
                .param("job", jobId)
                .param("caption", caption)
                .param("type", content.mediaType())
                .param("content", content.bytes())
                .param("by", by)
                .query(Long.class)
                .single();
    }

    /** From now on the picture shows this part. */
    public void pin(long photo, String ref, String by) {
        jdbc.sql(PIN).param("photo", photo).param("ref", ref).param("by", by).update();
    }

    public Optional<Content> photo(long jobId, long id) {
        return jdbc.sql(PHOTO)
                .param("job", jobId)
                .param("id", id)
                .query((row, i) -> new Content(row.getString("media_type"), row.getBytes("content")))
                .optional();
    }
}
