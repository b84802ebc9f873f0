package ohmoscope.formats.photo;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.photomap.MapStep;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Steps of a photograph's map as JSON, one object each: {@code {"step":"put", …}} with the members that {@link MapStep} has.
 * What is stored is read by every later version; members that are not known are left out.
 */
public final class MapStepJson {
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "step")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = MapStep.Square.class, name = "square"),
        @JsonSubTypes.Type(value = MapStep.Align.class, name = "align"),
        @JsonSubTypes.Type(value = MapStep.Put.class, name = "put"),
        @JsonSubTypes.Type(value = MapStep.Row.class, name = "row"),
        @JsonSubTypes.Type(value = MapStep.Paint.class, name = "paint"),
        @JsonSubTypes.Type(value = MapStep.OfNet.class, name = "net"),
        @JsonSubTypes.Type(value = MapStep.Say.class, name = "say"),
        @JsonSubTypes.Type(value = MapStep.Take.class, name = "take")
    })
    private interface Named {}

    private static final JsonMapper MAPPER = JsonMapper.builder()
            .addMixIn(MapStep.class, Named.class)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .build();

    private MapStepJson() {}

    public static String write(MapStep step) {
        return MAPPER.writerFor(MapStep.class).writeValueAsString(step);
    }

    /** @throws InvalidMember where it is no step, or one that gives what no board can have */
    public static MapStep read(String json) {
        try {
            return MAPPER.readValue(json, MapStep.class);
        } catch (JacksonException broken) {
            for (Throwable cause = broken; cause != null; cause = cause.getCause()) {
                if (cause instanceof InvalidMember known) {
                    throw known;
                }
            }
            throw new InvalidMember("step", "is none that a map has: " + broken.getOriginalMessage());
        }
    }
}
