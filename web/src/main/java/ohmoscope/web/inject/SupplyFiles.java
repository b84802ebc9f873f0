package ohmoscope.web.inject;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.inject.ShownLevels;
import ohmoscope.core.inject.ShownLevels.Level;
import ohmoscope.formats.TraceCsv;
import ohmoscope.web.entry.Bench;
import org.springframework.stereotype.Service;

/** What a supply wrote while it was injected, as entries. */
@Service
class SupplyFiles {
    private final Bench bench;

    SupplyFiles(Bench bench) {
        this.bench = bench;
    }

    /**
     * Every level that the supply held becomes an entry.
     *
     * @param csv time, volts and amperes
     * @param file named in errors
     * @param leadOhms of both leads
     * @param clock whether the job's frames are to be timed by this file
     * @throws IOException when the file is not understood, naming the line
     * @throws InvalidMember when it holds no levels, or cannot be the frames' clock
     */
    void keep(String number, String rail, String csv, String file, double leadOhms, boolean clock, String by)
            throws IOException {
        Check.within("leads", leadOhms, Injection.LEAST_LEAD_OHMS, Injection.MOST_LEAD_OHMS);
        Trace trace = TraceCsv.read(csv, file);
        List<Level> levels = ShownLevels.of(trace);
        bench.injected(
                number,
                first -> entries(levels, first, rail, leadOhms),
                clock ? Optional.of(log(trace)) : Optional.empty(),
                by);
    }

    private static List<Observation> entries(List<Level> levels, int first, String rail, double leadOhms) {
        List<Observation> entries = new ArrayList<>();
        for (Level level : levels) {
            entries.add(new Inject(
                    first + entries.size(),
                    rail,
                    Optional.empty(),
                    OptionalDouble.empty(),
                    OptionalDouble.empty(),
                    OptionalDouble.of(thousandths(level.volts())),
                    OptionalDouble.of(thousandths(level.amps())),
                    OptionalDouble.of(leadOhms),
                    Optional.of(level.shape()),
                    Optional.empty()));
        }
        return entries;
    }

    private static SupplyLog log(Trace trace) {
        double[] volts = trace.volts().orElseThrow();
        double[] amps = trace.amps().orElseThrow();
        List<SupplyLog.Row> rows = new ArrayList<>();
        for (int i = 0; i < volts.length; i++) {
            rows.add(new SupplyLog.Row(trace.timesS()[i], volts[i], amps[i], ShownLevels.on(volts[i], amps[i])));
        }
        return new SupplyLog(rows);
    }

    private static double thousandths(double value) {
        return Math.round(Math.max(0, value) * 1000) / 1000.0;
    }
}
