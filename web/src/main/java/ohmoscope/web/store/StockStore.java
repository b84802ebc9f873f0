package ohmoscope.web.store;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.StockLine;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What the shop has of parts. */
@Repository
public class StockStore {
    private static final String ALL = """
        select id, kind, value, package, volts_rated, count, least, place, price from stock_line
         order by count < least desc, kind, value, id""";
    private static final String OF_KIND = """
        select id, kind, value, package, volts_rated, count, least, place, price from stock_line
         where kind = :kind and count > 0 order by value, id""";
    private static final String ADD = """
        insert into stock_line (kind, value, package, volts_rated, count, least, place, price)
        values (:kind, :value, :package, :volts, :count, :least, :place, :price)""";
    private static final String TAKE = "update stock_line set count = count - 1 where id = :id and count > 0";

    private final JdbcClient jdbc;

    StockStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A line and the number by which one is taken from it. */
    public record Kept(long id, StockLine line) {}

    /** What runs out first. */
    public List<Kept> all() {
        return jdbc.sql(ALL).query(StockStore::kept).list();
    }

    /** What there is of a kind. */
    public List<Kept> of(PartKind kind) {
        return jdbc.sql(OF_KIND)
                .param("kind", kind.name())
                .query(StockStore::kept)
                .list();
    }

    private static Kept kept(ResultSet row, int index) throws SQLException {
        return new Kept(
                row.getLong("id"),
                new StockLine(
                        PartKind.valueOf(row.getString("kind")),
                        row.getString("value"),
                        row.getString("package"),
                        Columns.optional(row.getObject("volts_rated", Double.class)),
                        row.getInt("count"),
                        row.getInt("least"),
                        row.getString("place"),
                        Columns.optional(row.getObject("price", Double.class))));
    }

    /** These lines and no others. */
    @Transactional
    public void replace(List<StockLine> lines) {
        jdbc.sql("delete from stock_line").update();
        for (StockLine line : lines) {
            jdbc.sql(ADD)
                    .param("kind", line.kind().name())
                    .param("value", line.value())
                    .param("package", line.packageName())
                    .param("volts", Columns.nullable(line.voltsRated()))
                    .param("count", line.count())
                    .param("least", line.least())
                    .param("place", line.place())
                    .param("price", Columns.nullable(line.price()))
                    .update();
        }
    }

    /** @return false where there is none left */
    public boolean take(long id) {
        return jdbc.sql(TAKE).param("id", id).update() == 1;
    }
}
