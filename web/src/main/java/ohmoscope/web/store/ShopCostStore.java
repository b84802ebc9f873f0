package ohmoscope.web.store;

import java.util.EnumMap;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.locate.RemovalCost.Minutes;
import ohmoscope.core.parts.Prices;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What minutes, parts and orders cost the shop: its own amounts, and the usual ones where it said none. */
@Repository
public class ShopCostStore {
    private static final String ALL = "select name, amount from shop_cost";
    private static final String ADD = "insert into shop_cost (name, amount) values (:name, :amount)";

    private final JdbcClient jdbc;

    ShopCostStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public Minutes minutes() {
        return minutes(all());
    }

    public Prices prices() {
        return prices(all());
    }

    private Map<String, Double> all() {
        Map<String, Double> amounts = new HashMap<>();
        jdbc.sql(ALL).query(row -> {
            amounts.put(row.getString("name"), row.getDouble("amount"));
        });
        return amounts;
    }

    private static Minutes minutes(Map<String, Double> amounts) {
        Minutes usual = Minutes.USUAL;
        return new Minutes(
                amounts.getOrDefault("minutes.look", usual.look()),
                amounts.getOrDefault("minutes.two_pads", usual.twoPads()),
                amounts.getOrDefault("minutes.small", usual.small()),
                amounts.getOrDefault("minutes.large", usual.large()),
                amounts.getOrDefault("minutes.connector", usual.connector()),
                amounts.getOrDefault("minutes.can", usual.can()));
    }

    private static Prices prices(Map<String, Double> amounts) {
        Prices usual = Prices.USUAL;
        Map<PartKind, Double> parts = new EnumMap<>(PartKind.class);
        for (PartKind kind : PartKind.values()) {
            parts.put(kind, amounts.getOrDefault(name(kind), usual.usual().get(kind)));
        }
        return new Prices(
                parts,
                amounts.getOrDefault("postage", usual.postage()),
                amounts.getOrDefault("wait_days", usual.waitDays()),
                amounts.getOrDefault("day_worth", usual.dayWorth()));
    }

    /** What the price of a kind is kept under. */
    public static String name(PartKind kind) {
        return "price." + kind.name().toLowerCase(Locale.ROOT);
    }

    /**
     * These amounts and no others; what is left out is as usual.
     *
     * @throws ohmoscope.core.board.InvalidMember for an amount that cannot be; nothing is changed then
     */
    @Transactional
    public void replace(Map<String, Double> amounts) {
        minutes(amounts);
        prices(amounts);
        jdbc.sql("delete from shop_cost").update();
        amounts.forEach((name, amount) ->
                jdbc.sql(ADD).param("name", name).param("amount", amount).update());
    }
}
