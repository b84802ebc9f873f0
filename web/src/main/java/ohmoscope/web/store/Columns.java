package ohmoscope.web.store;

import java.util.OptionalDouble;
import org.jspecify.annotations.Nullable;

/** Numbers that a row may lack. */
final class Columns {
    private Columns() {}

    static @Nullable Double nullable(OptionalDouble value) {
        return value.isPresent() ? value.getAsDouble() : null;
    }

    static OptionalDouble optional(@Nullable Double value) {
        return value == null ? OptionalDouble.empty() : OptionalDouble.of(value);
    }
}
