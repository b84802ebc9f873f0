package ohmoscope.web.store;

import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.inject.Means;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Each technician's leads and bench supply. */
@Repository
public class MeansStore {
    private static final String OF = """
        select lead_ohms, lead_rated_a, most_v, most_a from injection_means where technician = :technician""";
    private static final String KEEP = """
        insert into injection_means (technician, lead_ohms, lead_rated_a, most_v, most_a)
        values (:technician, :ohms, :rated, :volts, :amps)
        on conflict (technician) do update
           set lead_ohms = excluded.lead_ohms, lead_rated_a = excluded.lead_rated_a,
               most_v = excluded.most_v, most_a = excluded.most_a""";

    private final JdbcClient jdbc;

    MeansStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What somebody injects with.
     *
     * @param leadOhms both leads together, tips touching
     * @param leadRatedA what they carry
     * @param mostV the supply's most
     * @param mostA likewise
     */
    public record Kept(double leadOhms, double leadRatedA, double mostV, double mostA) {
        /** @throws InvalidMember for leads or a supply that nobody has */
        public Kept {
            new Means.Leads(leadOhms, leadRatedA);
            new Means.Bench(mostV, mostA);
        }
    }

    public Optional<Kept> of(String technician) {
        return jdbc.sql(OF)
                .param("technician", technician)
                .query((row, i) -> new Kept(
                        row.getDouble("lead_ohms"),
                        row.getDouble("lead_rated_a"),
                        row.getDouble("most_v"),
                        row.getDouble("most_a")))
                .optional();
    }

    public void keep(String technician, Kept kept) {
        jdbc.sql(KEEP)
                .param("technician", technician)
                .param("ohms", kept.leadOhms())
                .param("rated", kept.leadRatedA())
                .param("volts", kept.mostV())
                .param("amps", kept.mostA())
                .update();
    }
}
