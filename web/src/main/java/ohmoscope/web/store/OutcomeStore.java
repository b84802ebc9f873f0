package ohmoscope.web.store;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.job.Outcome;
import ohmoscope.core.job.Outcome.Stage;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** How each job went. */
@Repository
public class OutcomeStore {
    private static final String PUT = """
        insert into outcome (job_id, proven, ref, named_ref, named_p, heated, innocent,
                             measuring_s, injecting_s, reworking_s, proving_s, technician, words)
        values (:job, :proven, :ref, :named, :p, :heated, :innocent,
                :measuring, :injecting, :reworking, :proving, :technician, :words)
        on conflict (job_id) do update
           set proven = excluded.proven, ref = excluded.ref, named_ref = excluded.named_ref, named_p = excluded.named_p,
               heated = excluded.heated, innocent = excluded.innocent, measuring_s = excluded.measuring_s,
               injecting_s = excluded.injecting_s, reworking_s = excluded.reworking_s, proving_s = excluded.proving_s,
               technician = excluded.technician, words = excluded.words""";
    private static final String NAMED = """
        select lead_ref, lead_probability from decision
         where job_id = :job and evidence_seq = :seq order by id limit 1""";
    private static final String WITHOUT =
            "select id from job j where not exists (select 1 from outcome o where o.job_id = j.id) order by id";

    private final JdbcClient jdbc;

    OutcomeStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Led(Optional<String> ref, OptionalDouble probability) {
        static final Led NOTHING = new Led(Optional.empty(), OptionalDouble.empty());
    }

    /**
     * @param technician who wrote down most of it
     * @param words all that its entries say, for being searched
     */
    public void put(long jobId, Outcome outcome, String technician, String words) {
        Led led =
                outcome.firstHeat().isPresent() ? led(jobId, outcome.firstHeat().getAsInt()) : Led.NOTHING;
        Map<Stage, Duration> worked = outcome.worked();
        jdbc.sql(PUT)
                .param("job", jobId)
                .param("proven", outcome.proven())
                .param("ref", outcome.repair().map(Change::target).orElse(null))
                .param("named", led.ref.orElse(null))
                .param("p", Columns.nullable(led.probability))
                .param("heated", outcome.firstHeat().isPresent())
                .param("innocent", outcome.innocent())
                .param("measuring", seconds(worked, Stage.MEASURING))
                .param("injecting", seconds(worked, Stage.INJECTING))
                .param("reworking", seconds(worked, Stage.REWORKING))
                .param("proving", seconds(worked, Stage.PROVING))
                .param("technician", technician)
                .param("words", words)
                .update();
    }

    private Led led(long jobId, int seq) {
        return jdbc.sql(NAMED)
                .param("job", jobId)
                .param("seq", seq)
                .query((row, i) -> new Led(
                        Optional.ofNullable(row.getString("lead_ref")),
                        Columns.optional(row.getObject("lead_probability", Double.class))))
                .optional()
                .orElse(Led.NOTHING);
    }

    private static long seconds(Map<Stage, Duration> worked, Stage stage) {
        return worked.getOrDefault(stage, Duration.ZERO).toSeconds();
    }

    /** Jobs that nobody has worked it out for: those of an earlier version. */
    public List<Long> without() {
        return jdbc.sql(WITHOUT).query(Long.class).list();
    }
}
