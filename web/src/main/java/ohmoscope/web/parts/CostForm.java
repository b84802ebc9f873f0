package ohmoscope.web.parts;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.locate.RemovalCost.Minutes;
import ohmoscope.core.parts.Prices;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.ShopCostStore;

/** What things cost the shop, as a form shows it: a field each. */
record CostForm(List<Field> minutes, List<Field> orders, List<Field> parts) {
    /** @param name what the amount is kept under @param value as it is now */
    record Field(String name, String words, String value) {}

    static CostForm of(Minutes minutes, Prices prices) {
        List<Field> parts = new ArrayList<>();
        for (PartKind kind : PartKind.values()) {
            parts.add(field(
                    ShopCostStore.name(kind), Words.of(kind), prices.usual().get(kind)));
        }
        return new CostForm(
                List.of(
                        field("minutes.look", "to inject and look once more", minutes.look()),
                        field("minutes.two_pads", "a part on two pads", minutes.twoPads()),
                        field("minutes.small", "a small one with more legs", minutes.small()),
                        field("minutes.large", "one of more than 9 mm²", minutes.large()),
                        field("minutes.connector", "a connector", minutes.connector()),
                        field("minutes.can", "more, under a can", minutes.can())),
                List.of(
                        field("postage", "postage of an order", prices.postage()),
                        field("wait_days", "days until it comes", prices.waitDays()),
                        field("day_worth", "what a day of waiting is worth", prices.dayWorth())),
                parts);
    }

    private static Field field(String name, String words, double value) {
        return new Field(name, words, Eng.plain(value));
    }

    /** @throws InvalidMember naming the field that is no amount */
    static Map<String, Double> amounts(Map<String, String> fields) {
        CostForm known = of(Minutes.USUAL, Prices.USUAL);
        Set<String> names = Stream.of(known.minutes, known.orders, known.parts)
                .flatMap(List::stream)
                .map(Field::name)
                .collect(Collectors.toSet());
        Map<String, Double> amounts = new LinkedHashMap<>();
        fields.forEach((name, text) -> {
            if (names.contains(name) && !text.isBlank()) {
                amounts.put(name, amount(name, text));
            }
        });
        return amounts;
    }

    private static double amount(String name, String text) {
        try {
            double amount = Double.parseDouble(text.strip().replace(',', '.'));
            if (amount >= 0 && amount < 1e9) {
                return amount;
            }
        } catch (NumberFormatException noNumber) {
            // Said below.
        }
        throw new InvalidMember(name, "must be a number of 0 or more, was \"" + text + "\"");
    }
}
