package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.layout.Draft;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.layout.Columns.Column;

/** A parts list (BOM): one line for each sort of part, with all its references. */
public final class PartsListCsv implements BoardFormat {
    private static final List<Column> NEEDED = List.of(Column.REF, Column.VALUE);
    private static final Pattern RANGE = Pattern.compile("([A-Za-z]+)(\\d+)\\s*[-–]\\s*(?:\\1)?(\\d+)");
    private static final int LONGEST_RANGE = 2_000;

    @Override
    public String name() {
        return "a parts list (references, value)";
    }

    @Override
    public boolean recognises(String file, String head) {
        return Columns.hasHeader(head, NEEDED) && !Columns.hasHeader(head, List.of(Column.REF, Column.X, Column.Y));
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        Drafting draft = new Drafting();
        for (Columns.Row row : Columns.read(in, file, NEEDED).rows()) {
            String value = row.text(Column.VALUE);
            String rating = row.text(Column.RATING);
            String whole = rating.isBlank() || value.contains(rating) ? value : value + " " + rating;
            for (String ref : refs(row, file)) {
                draft.part(new Draft.DraftPart(
                        ref,
                        whole,
                        row.text(Column.PACKAGE),
                        Optional.empty(),
                        Optional.empty(),
                        List.of(),
                        fitted(row)));
            }
        }
        return draft.of(file);
    }

    private static boolean fitted(Columns.Row row) {
        String empty = row.text(Column.EMPTY).toLowerCase(Locale.ROOT);
        String fitted = row.text(Column.FITTED).toLowerCase(Locale.ROOT);
        boolean stays =
                !empty.isBlank() && !List.of("0", "no", "n", "false", "-").contains(empty);
        return !stays
                && !List.of("0", "no", "n", "false").contains(fitted)
                && !row.text(Column.VALUE).matches("(?i)dnp|dni|dnf|do not (?:populate|fit|place)|not fitted");
    }

    private static List<String> refs(Columns.Row row, String file) throws IOException {
        List<String> refs = new ArrayList<>();
        for (String word : row.text(Column.REF).replaceAll("\\s*[-–]\\s*", "-").split("[,;\\s]+")) {
            Matcher range = RANGE.matcher(word);
            if (range.matches() && range.group(2).length() < 9 && range.group(3).length() < 9) {
                int from = Integer.parseInt(range.group(2));
                int to = Integer.parseInt(range.group(3));
                if (to < from || to - from > LONGEST_RANGE) {
                    throw new BundleException(
                            file, "line " + row.line(), word + " is no run of references such as C5-C9");
                }
                for (int i = from; i <= to; i++) {
                    refs.add(range.group(1) + i);
                }
            } else if (!word.isBlank()) {
                refs.add(word);
            }
        }
        return refs;
    }
}
