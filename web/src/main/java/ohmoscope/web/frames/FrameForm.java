package ohmoscope.web.frames;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.formats.frames.Depth;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.formats.frames.Scale;
import ohmoscope.formats.frames.StackCapture.Reading;
import ohmoscope.formats.frames.Turn;
import ohmoscope.web.store.CameraStore.Profile;
import org.jspecify.annotations.Nullable;

/**
 * What the page asks of uploaded frames. Fields are named as in the page.
 *
 * @param scale one of counts, two, celsius, kelvin, shape
 * @param fps frames a second
 * @param start of the first frame on the supply log's clock, seconds
 * @param on when the output came on after the first frame, for a job without a supply log
 * @param camera the profile's name; blank: not to be remembered
 */
record FrameForm(
        @Nullable String name,
        @Nullable Side side,
        @Nullable String scale,
        @Nullable Double perCount,
        @Nullable Double atZero,
        @Nullable Double value1,
        @Nullable Double celsius1,
        @Nullable Double value2,
        @Nullable Double celsius2,
        @Nullable Turn turn,
        @Nullable Double fps,
        @Nullable Double start,
        @Nullable Double netd,
        @Nullable Double on,
        @Nullable Double off,
        @Nullable Double volts,
        @Nullable Double amps,
        @Nullable String camera) {
    /** Ways of giving the scale, as the page offers them. */
    record Choice(String code, String words) {}

    static final List<Choice> SCALES = List.of(
            new Choice("counts", "kelvin a count, and kelvin at count 0"),
            new Choice("two", "two numbers whose temperature is known"),
            new Choice("celsius", "the numbers are degrees Celsius"),
            new Choice("kelvin", "the numbers are kelvin"),
            new Choice("shape", "unknown: use the shape only"));

    static final List<Choice> TURNS = List.of(
            new Choice("NONE", "as it is"),
            new Choice("RIGHT", "turned a quarter to the right"),
            new Choice("HALF", "upside down"),
            new Choice("LEFT", "turned a quarter to the left"),
            new Choice("MIRRORED", "mirrored left to right"));

    /** What to begin with: the camera's last reading, or what the files suggest. */
    static FrameForm first(FrameStack stack, Optional<Profile> profile, String name, Side side, double start) {
        String scale = profile.isPresent()
                ? "counts"
                : switch (stack.depth()) {
                    case EIGHT_BIT -> "shape";
                    case FLOAT -> "celsius";
                    case SIXTEEN_BIT -> "counts";
                };
        return new FrameForm(
                name,
                side,
                scale,
                profile.map(p -> p.scale().kelvinPerStep()).orElse(stack.depth() == Depth.SIXTEEN_BIT ? 0.01 : 0.05),
                profile.map(p -> p.scale().kelvinAtZero()).orElse(0.0),
                null,
                null,
                null,
                null,
                profile.map(Profile::turn).orElse(Turn.NONE),
                profile.map(Profile::framesPerSecond).orElse(stack.stillPictures() ? 0.2 : 9.0),
                start,
                profile.filter(p -> p.netdK().isPresent())
                        .map(p -> p.netdK().getAsDouble())
                        .orElse(null),
                null,
                null,
                null,
                null,
                profile.map(Profile::name).orElse(""));
    }

    Reading reading() {
        return new Reading(
                scaleOf(),
                turn == null ? Turn.NONE : turn,
                wanted("frames a second", fps),
                start == null ? 0 : start,
                netd == null ? OptionalDouble.empty() : OptionalDouble.of(netd));
    }

    private Scale scaleOf() {
        return switch (String.valueOf(scale).toLowerCase(Locale.ROOT)) {
            case "counts" -> new Scale.Linear(wanted("kelvin a count", perCount), atZero == null ? 0 : atZero);
            case "two" ->
                Scale.through(
                        wanted("first number", value1),
                        wanted("first temperature", celsius1),
                        wanted("second number", value2),
                        wanted("second temperature", celsius2));
            case "celsius" -> Scale.CELSIUS;
            case "kelvin" -> Scale.KELVIN;
            case "shape" -> Scale.SHAPE_ONLY;
            default -> throw new InvalidMember("scale", "is none of counts, two, celsius, kelvin, shape");
        };
    }

    static double wanted(String what, @Nullable Double value) {
        if (value == null) {
            throw new InvalidMember(what, "is missing");
        }
        return value;
    }

    boolean shapeOnly() {
        return "shape".equals(scale);
    }
}
