package ohmoscope.core.locate;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;

/** Radial tables of one capture under one heat model, made when first asked for. Safe for several threads. */
final class ResponseTables {
    /** Footprints and lags this close share a table, natural log. */
    private static final double SPREAD_CLASS = 0.05;

    /** Beyond this many lengths of diffusion there is no heat to speak of: less than a thousandth of the source's own. */
    private static final double REACH = 2.4;

    private static final double LAG_CLASS = 0.1;
    private static final double MIN_LAG_S = 0.02;

    private final HeatModel model;
    private final Waveform waveform;
    private final double[] timesS;
    private final double[][] basis;
    private final double pitchMm;
    private final double squareMm;
    private final double reachMm;
    private final Map<Integer, KernelProjection> kernels = new ConcurrentHashMap<>();
    private final Map<Key, RadialTable> tables = new ConcurrentHashMap<>();

    private final Map<Integer, double[]> flows = new ConcurrentHashMap<>();

    private record Key(boolean near, int spread, int lag) {}

    private record KernelProjection(TimeKernel kernel, double[][] projected) {}

    /**
     * @param pitchMm of the pixels that the blur is counted in
     * @param squareMm side of the square over which a value is the mean
     */
    ResponseTables(
            HeatModel model,
            Waveform waveform,
            double[] timesS,
            double[][] basis,
            double pitchMm,
            double squareMm,
            double boardMm) {
        this.model = model;
        this.waveform = waveform;
        this.timesS = timesS;
        this.basis = basis;
        this.pitchMm = pitchMm;
        this.squareMm = squareMm;
        double longest = Math.max(0.5, timesS[timesS.length - 1] - waveform.firstOnS());
        double spread = Math.sqrt(4 * model.slab().diffusivityMm2PerS() * longest + 8);
        reachMm = Math.min(boardMm, REACH * spread);
    }

    double reachMm() {
        return reachMm;
    }

    RadialTable of(HeatSource source, boolean near) {
        double blur = model.blurPx() * pitchMm;
        double spread2 = source.footprintMm2() + blur * blur + squareMm * squareMm / 12;
        int spreadClass = (int) Math.round(Math.log(spread2) / SPREAD_CLASS);
        int lagClass = lagClass(source);
        return tables.computeIfAbsent(new Key(near, spreadClass, lagClass), key -> {
            KernelProjection k = kernels.computeIfAbsent(lagClass, this::kernel);
            return new RadialTable(
                    slab(), near, Math.exp(spreadClass * SPREAD_CLASS), k.kernel(), k.projected(), reachMm);
        });
    }

    /** What flows from the source into the board, by temporal component, a watt in the end. Not to be modified. */
    double[] flow(HeatSource source) {
        return flows.computeIfAbsent(lagClass(source), lagClass -> {
            double[] flow = TimeKernel.lagged(waveform, timesS, model.offsetS(), Math.exp(lagClass * LAG_CLASS));
            double[] components = new double[basis.length];
            for (int j = 0; j < basis.length; j++) {
                for (int f = 0; f < flow.length; f++) {
                    components[j] += basis[j][f] * flow[f];
                }
            }
            return components;
        });
    }

    private int lagClass(HeatSource source) {
        double lag = Math.max(MIN_LAG_S, source.lagS() * model.lagFactor());
        return (int) Math.round(Math.log(lag) / LAG_CLASS);
    }

    private SlabParameters slab() {
        return model.slab();
    }

    private KernelProjection kernel(int lagClass) {
        TimeKernel kernel = new TimeKernel(waveform, timesS, model.offsetS(), Math.exp(lagClass * LAG_CLASS));
        return new KernelProjection(kernel, RadialTable.project(basis, kernel));
    }
}
