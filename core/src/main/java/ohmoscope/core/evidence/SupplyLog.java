package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/** What the bench supply showed, at its own terminals, in rising time. */
public record SupplyLog(List<Row> rows) {
    /** Seconds on the bundle's clock, volts, amperes, and whether the output was on. */
    public record Row(double tS, double volts, double amps, boolean output) {
        public Row {
            Check.within("t_s", tS, -1e7, 1e7);
            Check.within("volts", volts, -200, 200);
            Check.within("amps", amps, -200, 200);
        }
    }

    /**
     * The output was on from {@code fromS} to {@code toS}. The log may be sparse: each end lies somewhere between two
     * rows, so it is the middle of that gap and carries half its width.
     *
     * @param amps mean current while on
     * @param volts mean voltage while on
     */
    public record OnSpan(double fromS, double fromSigmaS, double toS, double toSigmaS, double volts, double amps) {}

    public SupplyLog {
        rows = List.copyOf(rows);
        for (int i = 1; i < rows.size(); i++) {
            if (rows.get(i).tS() < rows.get(i - 1).tS()) {
                throw new InvalidMember(
                        "t_s",
                        "goes backwards in row " + (i + 2) + ": " + rows.get(i).tS() + " after "
                                + rows.get(i - 1).tS());
            }
        }
    }

    public static SupplyLog empty() {
        return new SupplyLog(List.of());
    }

    /** Those of {@link #onSpans} that reach into a time, such as a capture's. */
    public List<OnSpan> onSpansDuring(double fromS, double toS) {
        return onSpans().stream()
                .filter(s -> s.toS() > fromS && s.fromS() < toS)
                .toList();
    }

    /** The spans during which power was injected, in time order. A span that is on at the last row ends there, plus an hour. */
    public List<OnSpan> onSpans() {
        List<OnSpan> spans = new ArrayList<>();
        int start = -1;
        for (int i = 0; i <= rows.size(); i++) {
            boolean on = i < rows.size() && rows.get(i).output();
            if (on && start < 0) {
                start = i;
            } else if (!on && start >= 0) {
                spans.add(span(start, i));
                start = -1;
            }
        }
        return spans;
    }

    private OnSpan span(int first, int end) {
        double from = rows.get(first).tS();
        double fromSigma = 0;
        if (first > 0) {
            double before = rows.get(first - 1).tS();
            fromSigma = (from - before) / 2;
            from = (from + before) / 2;
        }
        double to = rows.get(end - 1).tS() + 3600;
        double toSigma = 0;
        if (end < rows.size()) {
            double after = rows.get(end).tS();
            toSigma = (after - rows.get(end - 1).tS()) / 2;
            to = (after + rows.get(end - 1).tS()) / 2;
        }
        double volts = rows.subList(first, end).stream()
                .mapToDouble(Row::volts)
                .average()
                .orElseThrow();
        double amps = rows.subList(first, end).stream()
                .mapToDouble(Row::amps)
                .average()
                .orElseThrow();
        return new OnSpan(from, fromSigma, to, toSigma, volts, amps);
    }
}
