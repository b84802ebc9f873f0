package ohmoscope.core.parts;

import java.util.EnumMap;
import java.util.Map;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.PartKind;

/**
 * What things cost a shop, in its own money.
 *
 * @param usual what a part of each kind costs where no line of the stock says it; every kind has one
 * @param postage of one order, whatever is in it
 * @param waitDays from an order to the part
 * @param dayWorth what a day is worth on which the device lies and waits
 */
public record Prices(Map<PartKind, Double> usual, double postage, double waitDays, double dayWorth) {
    private static final double MOST = 1_000_000;

    /** To begin with, until a shop says its own. */
    public static final Prices USUAL = new Prices(usualPrices(), 8, 3, 10);

    public Prices {
        EnumMap<PartKind, Double> all = usualPrices();
        all.putAll(usual);
        all.forEach((kind, price) -> Check.within("price of " + kind, price, 0, MOST));
        usual = Map.copyOf(all);
        Check.within("postage", postage, 0, MOST);
        Check.within("wait_days", waitDays, 0, 1000);
        Check.within("day_worth", dayWorth, 0, MOST);
    }

    private static EnumMap<PartKind, Double> usualPrices() {
        EnumMap<PartKind, Double> prices = new EnumMap<>(PartKind.class);
        for (PartKind kind : PartKind.values()) {
            prices.put(
                    kind,
                    switch (kind) {
                        case CAPACITOR, RESISTOR, FERRITE -> 0.1;
                        case INDUCTOR, DIODE, TVS, TRANSISTOR, FUSE -> 0.5;
                        case MOSFET, CRYSTAL, SWITCH, SHIELD, OTHER -> 1.0;
                        case CONNECTOR -> 4.0;
                        case IC -> 8.0;
                    });
        }
        return prices;
    }

    /** What another order costs: its postage, and the days that the device waits for it. */
    public double secondOrder() {
        return postage + waitDays * dayWorth;
    }
}
