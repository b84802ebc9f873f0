package ohmoscope.web.store;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.diagnose.Schools;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Each technician's schools. */
@Repository
public class SchoolStore {
    private static final String OF = "select name, choice from school where technician = :technician";
    private static final String LEADS = "select lead_rated_a from injection_means where technician = :technician";
    private static final String SET = """
        insert into school (technician, name, choice) values (:technician, :name, :choice)
        on conflict (technician, name) do update set choice = excluded.choice""";

    private final JdbcClient jdbc;

    SchoolStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public Schools of(String technician) {
        Map<String, String> chosen = new HashMap<>();
        jdbc.sql(OF).param("technician", technician).query(row -> {
            chosen.put(row.getString("name"), row.getString("choice"));
        });
        Schools usual = Schools.DEFAULT;
        double ratedAmps = jdbc.sql(LEADS)
                .param("technician", technician)
                .query(Double.class)
                .optional()
                .orElse(usual.leadRatedAmps());
        return new Schools(
                choice(chosen, "meter", usual.meter()),
                choice(chosen, "lead", usual.lead()),
                choice(chosen, "proof", usual.proof()),
                choice(chosen, "injection", usual.injection()),
                choice(chosen, "port", usual.port()),
                choice(chosen, "warmth", usual.warmth()),
                choice(chosen, "memory", usual.memory()),
                ratedAmps);
    }

    private static <E extends Enum<E>> E choice(Map<String, String> chosen, String name, E usual) {
        String word = chosen.get(name);
        return word == null ? usual : Enum.valueOf(usual.getDeclaringClass(), word);
    }

    /** @throws InvalidMember for a school or a choice that does not exist */
    public void set(String technician, String name, String choice) {
        Enum<?> usual = switch (name) {
            case "meter" -> Schools.DEFAULT.meter();
            case "lead" -> Schools.DEFAULT.lead();
            case "proof" -> Schools.DEFAULT.proof();
            case "injection" -> Schools.DEFAULT.injection();
            case "port" -> Schools.DEFAULT.port();
            case "warmth" -> Schools.DEFAULT.warmth();
            case "memory" -> Schools.DEFAULT.memory();
            default ->
                throw new InvalidMember("school", "is none of meter, lead, proof, injection, port, warmth, memory");
        };
        String word = choice.toUpperCase(Locale.ROOT).replace('-', '_');
        for (Object known : usual.getDeclaringClass().getEnumConstants()) {
            if (((Enum<?>) known).name().equals(word)) {
                jdbc.sql(SET)
                        .param("technician", technician)
                        .param("name", name)
                        .param("choice", word)
                        .update();
                return;
            }
        }
        throw new InvalidMember(name, "has no choice " + choice);
    }
}
