package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import ohmoscope.core.layout.Draft;
import ohmoscope.formats.BundleException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A Gerber job file: name, thickness and number of copper layers of a set. */
public final class GerberJob implements BoardFormat {
    private static final int MOST_BYTES = 4 << 20;

    @Override
    public String name() {
        return "a Gerber job file (.gbrjob)";
    }

    @Override
    public boolean recognises(String file, String head) {
        return head.contains("\"GeneralSpecs\"")
                || file.endsWith(".gbrjob") && head.stripLeading().startsWith("{");
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        byte[] bytes = in.readNBytes(MOST_BYTES + 1);
        if (bytes.length > MOST_BYTES) {
            throw new BundleException(file, "", "is larger than 4 MB: no job file is");
        }
        JsonNode specs;
        try {
            specs = JsonMapper.shared().readTree(bytes).path("GeneralSpecs");
        } catch (JacksonException broken) {
            throw new BundleException(file, "", "is no JSON: " + broken.getOriginalMessage());
        }
        Drafting draft = new Drafting();
        draft.name = specs.path("ProjectId").path("Name").asString("");
        draft.revision = specs.path("ProjectId").path("Revision").asString("");
        double thickness = specs.path("BoardThickness").asDouble(0);
        draft.thicknessMm = thickness > 0 ? OptionalDouble.of(thickness) : OptionalDouble.empty();
        int layers = specs.path("LayerNumber").asInt(0);
        draft.copperLayers = layers > 0 ? OptionalInt.of(layers) : OptionalInt.empty();
        return draft.of(file);
    }
}
