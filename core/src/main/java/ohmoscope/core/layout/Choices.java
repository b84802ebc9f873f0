package ohmoscope.core.layout;

import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What somebody decided where the files of one board do not say the same; what is left open is decided as usual: the
 * fullest file is believed, and the axes in which most parts agree.
 *
 * @param first the file that is believed first
 * @param axes by file, how it is to be read
 * @param believed by the key of a {@link Disagreement}, the file that is believed in it
 */
public record Choices(Optional<String> first, Map<String, AxesChoice> axes, Map<String, String> believed) {
    public static final Choices NONE = new Choices(Optional.empty(), Map.of(), Map.of());

    public Choices {
        axes = Map.copyOf(axes);
        believed = Map.copyOf(believed);
    }

    /**
     * How one file is to be read; each empty to have it found.
     *
     * @param scale millimetres a unit
     * @param mirrored whether x runs the other way for parts on the bottom
     * @param down whether y runs down
     */
    public record AxesChoice(OptionalDouble scale, Optional<Boolean> mirrored, Optional<Boolean> down) {
        public static final AxesChoice FOUND =
                new AxesChoice(OptionalDouble.empty(), Optional.empty(), Optional.empty());

        boolean said() {
            return scale.isPresent() || mirrored.isPresent() || down.isPresent();
        }

        boolean allows(double otherScale, boolean otherMirrored, boolean otherDown) {
            return (scale.isEmpty() || scale.getAsDouble() == otherScale)
                    && mirrored.map(m -> m == otherMirrored).orElse(true)
                    && down.map(d -> d == otherDown).orElse(true);
        }
    }

    AxesChoice axesOf(String file) {
        return axes.getOrDefault(file, AxesChoice.FOUND);
    }
}
