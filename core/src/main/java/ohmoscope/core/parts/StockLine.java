package ohmoscope.core.parts;

import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.PartKind;

/**
 * What a shop has of one kind of part.
 *
 * @param value as printed; empty where it has none, as a port
 * @param packageName its package or size, as the shop says it; may be empty
 * @param count how many there are, 0 and more
 * @param least how many there should be
 * @param place where they lie; may be empty
 * @param price of one, in the shop's money
 */
public record StockLine(
        PartKind kind,
        String value,
        String packageName,
        OptionalDouble voltsRated,
        int count,
        int least,
        String place,
        OptionalDouble price) {
    private static final int MOST = 1_000_000;
    private static final int LONGEST = 120;

    public StockLine {
        Check.positive("volts_rated", voltsRated);
        price.ifPresent(p -> Check.within("price", p, 0, MOST));
        Check.within("count", count, 0, MOST);
        Check.within("least", least, 0, MOST);
        Check.within("value's length", value.length(), 0, LONGEST);
        Check.within("package's length", packageName.length(), 0, LONGEST);
        Check.within("place's length", place.length(), 0, LONGEST);
    }

    public boolean runsOut() {
        return count < least;
    }

    /** How well it would do in a part's place. A package that both sides name must be the same. */
    public WantedPart.Fit fit(WantedPart wanted) {
        String asked = wanted.part().packageName().strip();
        boolean otherPackage =
                !asked.isEmpty() && !packageName.isBlank() && !asked.equalsIgnoreCase(packageName.strip());
        return kind != wanted.part().kind() || otherPackage || count == 0
                ? WantedPart.Fit.NO
                : wanted.fit(value, voltsRated);
    }
}
