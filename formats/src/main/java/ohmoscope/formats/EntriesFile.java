package ohmoscope.formats;

import java.time.Instant;
import java.util.List;
import ohmoscope.core.evidence.Observation;
import org.apache.commons.csv.CSVFormat;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** All entries of a job as a file, for whoever keeps records elsewhere: a table, or JSON with the contract's observations. */
public final class EntriesFile {
    private EntriesFile() {}

    /**
     * One entry.
     *
     * @param by who made it
     * @param headline as pages print it
     * @param meaning what it comes to, in a sentence; may be empty
     */
    public record Row(Observation observation, Instant at, String by, String headline, String meaning) {}

    /** Columns {@code seq,recorded_at,by,entry,meaning}; times in UTC. */
    public static String csv(List<Row> rows) {
        StringBuilder text = new StringBuilder("seq,recorded_at,by,entry,meaning\n");
        for (Row row : rows) {
            text.append(CSVFormat.DEFAULT.format(
                            row.observation().seq(), row.at(), row.by(), row.headline(), row.meaning()))
                    .append('\n');
        }
        return text.toString();
    }

    /** {@code {"job":…,"entries":[{"recorded_at":…,"by":…,"meaning":…,"observation":{…}}]}}. */
    public static String json(String job, List<Row> rows) {
        ObjectNode root = Fields.object();
        root.put("job", job);
        ArrayNode entries = root.putArray("entries");
        for (Row row : rows) {
            ObjectNode node = entries.addObject();
            node.put("recorded_at", row.at().toString());
            node.put("by", row.by());
            Fields.text(node, "meaning", row.meaning());
            node.set("observation", ObservationJson.node(row.observation()));
        }
        return Fields.compact(root);
    }
}
