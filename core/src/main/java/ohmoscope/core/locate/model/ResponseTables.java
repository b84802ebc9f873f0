package ohmoscope.core.locate.model;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.locate.capture.MovieTime;

/** Radial tables of one capture under one heat model, made when first asked for. Safe for several threads. */
public final class ResponseTables {
    /** Footprints and lags this close share a table, natural log. */
    private static final double SPREAD_CLASS = 0.05;

    /** Beyond this many lengths of diffusion there is no heat to speak of: less than a thousandth of the source's own. */
    private static final double REACH = 2.4;

    private static final double LAG_CLASS = 0.1;
    private static final double MIN_LAG_S = 0.02;

    private final HeatModel model;
    private final MovieTime time;
    private final double pitchMm;
    private final double squareMm;
    private final double reachMm;
    private final Map<Key, RadialTable> tables = new ConcurrentHashMap<>();
    private final Map<Integer, double[]> flows = new ConcurrentHashMap<>();

    private record Key(boolean near, int spread, int lag) {}

    /**
     * @param pitchMm of the pixels that the blur is counted in
     * @param squareMm side of the square over which a value is the mean
     */
    public ResponseTables(HeatModel model, MovieTime time, double pitchMm, double squareMm, double boardMm) {
        this.model = model;
        this.time = time;
        this.pitchMm = pitchMm;
        this.squareMm = squareMm;
        double longest = Math.max(0.5, time.longestS());
        double spread = Math.sqrt(4 * model.slab().diffusivityMm2PerS() * longest + 8);
        reachMm = Math.min(boardMm, REACH * spread);
    }

    public RadialTable of(HeatSource source, boolean near) {
        double blur = model.blurPx() * pitchMm;
        double spread2 = source.footprintMm2() + blur * blur + squareMm * squareMm / 12;
        int spreadClass = (int) Math.round(Math.log(spread2) / SPREAD_CLASS);
        int lagClass = lagClass(source);
        return tables.computeIfAbsent(
                new Key(near, spreadClass, lagClass),
                key -> new RadialTable(
                        model.slab(),
                        model.sheets(),
                        near,
                        Math.exp(spreadClass * SPREAD_CLASS),
                        time.kernel(model.offsetS(), lagS(lagClass)),
                        reachMm));
    }

    /** What flows from the source into the board, by temporal component, a watt in the end. Not to be modified. */
    public double[] flow(HeatSource source) {
        return flows.computeIfAbsent(lagClass(source), lagClass -> time.flow(model.offsetS(), lagS(lagClass)));
    }

    private int lagClass(HeatSource source) {
        double lag = Math.max(MIN_LAG_S, source.lagS() * model.lagFactor());
        return (int) Math.round(Math.log(lag) / LAG_CLASS);
    }

    private static double lagS(int lagClass) {
        return Math.exp(lagClass * LAG_CLASS);
    }
}
