package ohmoscope.web.store;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Benches and the addresses of their instruments. */
@Repository
public class BenchStore {
    private static final String ALL = "select id, name from bench order by name";
    private static final String NAMED = "select id, name from bench where id = :id";
    private static final String ADD = "insert into bench (name) values (:name) returning id";
    private static final String REMOVE = "delete from bench where id = :id";
    private static final String OF = """
        select role, address, dialect, beyond, kelvin_per_count, kelvin_at_zero
          from bench_instrument where bench_id = :bench order by role""";
    private static final String KEEP = """
        insert into bench_instrument (bench_id, role, address, dialect, beyond, kelvin_per_count, kelvin_at_zero)
        values (:bench, :role, :address, :dialect, :beyond, :scale, :zero)
        on conflict (bench_id, role) do update
           set address = excluded.address, dialect = excluded.dialect, beyond = excluded.beyond,
               kelvin_per_count = excluded.kelvin_per_count, kelvin_at_zero = excluded.kelvin_at_zero""";
    private static final String LET_GO = "delete from bench_instrument where bench_id = :bench and role = :role";

    private final JdbcClient jdbc;

    BenchStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A bench by its name. */
    public record Named(long id, String name) {}

    /** What an instrument is there for. */
    public enum Role {
        SUPPLY,
        METER,
        CAMERA,
        INLINE
    }

    /**
     * Where an instrument is reached, as somebody typed it.
     *
     * @param dialect by its name; empty where it speaks none
     * @param beyond whether it is not on this machine, and that is meant
     * @param kelvinPerCount a camera's, where it does not say so itself; likewise {@code kelvinAtZero}
     */
    public record Entered(
            Role role, String address, String dialect, boolean beyond, double kelvinPerCount, double kelvinAtZero) {
        private static final int MOST_ADDRESS = 300;

        public Entered {
            Check.text("address", address);
            if (address.length() > MOST_ADDRESS) {
                throw new InvalidMember("address", "must have at most " + MOST_ADDRESS + " letters");
            }
            Check.positive("kelvin_per_count", kelvinPerCount);
        }
    }

    public List<Named> all() {
        return jdbc.sql(ALL).query(Named.class).list();
    }

    public Optional<Named> find(long id) {
        return jdbc.sql(NAMED).param("id", id).query(Named.class).optional();
    }

    /** @throws InvalidMember where another has that name already */
    public long add(String name) {
        Check.text("name", name);
        try {
            return jdbc.sql(ADD).param("name", name).query(Long.class).single();
        } catch (DuplicateKeyException taken) {
            throw new InvalidMember("name", "is that of another bench already: " + name);
        }
    }

    public void remove(long id) {
        jdbc.sql(REMOVE).param("id", id).update();
    }

    public List<Entered> of(long bench) {
        return jdbc.sql(OF)
                .param("bench", bench)
                .query((row, i) -> new Entered(
                        Role.valueOf(row.getString("role")),
                        row.getString("address"),
                        row.getString("dialect"),
                        row.getBoolean("beyond"),
                        row.getDouble("kelvin_per_count"),
                        row.getDouble("kelvin_at_zero")))
                .list();
    }

    public void keep(long bench, Entered entered) {
        jdbc.sql(KEEP)
                .param("bench", bench)
                .param("role", entered.role().name())
                .param("address", entered.address())
                .param("dialect", entered.dialect())
                .param("beyond", entered.beyond())
                .param("scale", entered.kelvinPerCount())
                .param("zero", entered.kelvinAtZero())
                .update();
    }

    public void letGo(long bench, Role role) {
        jdbc.sql(LET_GO).param("bench", bench).param("role", role.name()).update();
    }
}
