package ohmoscope.core.locate.search;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.ProjectedKernel;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.capture.BodyMask;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.Places;
import ohmoscope.core.locate.model.Spot;

/** What the engine believes a side of the board looks like at a time, to lay beside what was measured. */
public final class PredictedPicture {
    private static final double CELL_MM = 0.75;
    /** σ of a usual camera's blur, pixels, and of a pixel's own square. */
    private static final double BLUR_PX = Math.hypot(HeatModel.USUAL_BLUR_PX, CaptureModel.PIXEL_SIGMA);

    private static final double LEAST_LAG_S = 0.02;

    private PredictedPicture() {}

    /**
     * @param board a large body's lid is of one temperature, that of the board under it on the whole
     * @param slab as the movie fitted it
     * @param offsetS the supply's clock against this capture's
     * @param heats what is taken to be warm
     * @param side that the camera looks at
     * @param tS when
     * @param blurMm one sigma of the camera's blur on the board, see {@link #blurMm}
     * @return kelvin above the time before power; not a number off the board
     */
    public static BoardField of(
            Board board,
            SlabParameters slab,
            Waveform waveform,
            double offsetS,
            List<FittedHeat> heats,
            Side side,
            double tS,
            double blurMm) {
        Outline outline = board.outline();
        BoardField field = BoardField.over(outline, CELL_MM);
        int cells = field.values().length;
        double diagonal = Math.hypot(outline.maxXMm() - outline.minXMm(), outline.maxYMm() - outline.minYMm());
        double[] at = {tS};
        double[][] one = {{1}};
        float[] xMm = new float[cells];
        float[] yMm = new float[cells];
        for (int c = 0; c < cells; c++) {
            xMm[c] = (float) field.xMm(c);
            yMm[c] = (float) field.yMm(c);
        }
        Places places = new Places(xMm, yMm, cells);
        Spot.Scratch scratch = new Spot.Scratch(cells);
        for (FittedHeat heat : heats) {
            TimeKernel kernel = new TimeKernel(waveform, at, offsetS, Math.max(LEAST_LAG_S, heat.lagS()));
            RadialTable table = new RadialTable(
                    slab,
                    heat.side() == side,
                    heat.footprintMm2() + blurMm * blurMm,
                    ProjectedKernel.of(one, kernel),
                    diagonal);
            float[] perWatt = new float[cells];
            new Spot(table, heat.xMm(), heat.yMm(), outline).addTo(places, perWatt, scratch);
            for (int c = 0; c < cells; c++) {
                field.values()[c] += (float) heat.watts() * perWatt[c];
            }
        }
        board.parts().stream()
                .filter(p -> p.side() == side && CapturePreparer.isLid(p))
                .forEach(lid -> evenOut(field, lid));
        for (FittedHeat heat : heats) {
            if (heat.side() == side && heat.bodyK().isPresent()) {
                double flow = TimeKernel.lagged(waveform, at, offsetS, Math.max(LEAST_LAG_S, heat.lagS()))[0];
                board.part(heat.what())
                        .ifPresent(
                                part -> stand(field, part, flow * heat.bodyK().getAsDouble(), blurMm));
            }
        }
        Outline.Inside inside = outline.inside();
        for (int c = 0; c < cells; c++) {
            if (!inside.test(field.xMm(c), field.yMm(c))) {
                field.values()[c] = Float.NaN;
            }
        }
        return field;
    }

    /** One sigma of a usual camera's blur on the board, as this capture lies, mm. */
    public static double blurMm(CaptureSpec spec) {
        double pitch =
                Registration.fit(spec.registration()).homography().pitchMm(spec.width() / 2.0, spec.height() / 2.0);
        return BLUR_PX * pitch;
    }

    private static void stand(BoardField field, Part part, double kelvin, double blurMm) {
        for (int c = 0; c < field.values().length; c++) {
            field.values()[c] += (float) (kelvin * BodyMask.share(part, field.xMm(c), field.yMm(c), blurMm));
        }
    }

    private static void evenOut(BoardField field, Part lid) {
        int[] under = IntStream.range(0, field.values().length)
                .filter(c -> lid.covers(field.xMm(c), field.yMm(c), 0))
                .toArray();
        double mean = Arrays.stream(under)
                .mapToDouble(c -> field.values()[c])
                .average()
                .orElse(0);
        for (int c : under) {
            field.values()[c] = (float) mean;
        }
    }
}
