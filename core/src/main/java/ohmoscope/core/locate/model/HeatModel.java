package ohmoscope.core.locate.model;

import java.util.List;
import ohmoscope.core.heat.Sheets;
import ohmoscope.core.heat.SlabParameters;

/**
 * What the movies decide about the board and the clocks, besides where the source is.
 *
 * @param sheets how the board is cut through its thickness
 * @param offsetS supply clock against the first capture's camera
 * @param lagFactor scales every source's own lag
 * @param blurPx σ of the camera's blur, camera pixels
 * @param laterS what each further capture's clock is off besides, seconds; captures beyond the list's end are not
 */
public record HeatModel(
        SlabParameters slab, Sheets sheets, double offsetS, double lagFactor, double blurPx, List<Double> laterS) {
    /** σ of a usual camera's blur, camera pixels. */
    public static final double USUAL_BLUR_PX = 0.8;

    public HeatModel {
        laterS = List.copyOf(laterS);
    }

    /** Of a board of few sheets. */
    public HeatModel(SlabParameters slab, double offsetS, double lagFactor, double blurPx, List<Double> laterS) {
        this(slab, Sheets.FEW, offsetS, lagFactor, blurPx, laterS);
    }

    /** All captures by one clock. */
    public HeatModel(SlabParameters slab, double offsetS, double lagFactor, double blurPx) {
        this(slab, offsetS, lagFactor, blurPx, List.of());
    }

    public static HeatModel of(SlabParameters slab) {
        return new HeatModel(slab, 0, 1, USUAL_BLUR_PX);
    }

    /** The model by one capture's clock. @param capture counted from 0 */
    public HeatModel by(int capture) {
        boolean own = capture > 0 && capture <= laterS.size();
        return own
                ? new HeatModel(slab, sheets, offsetS + laterS.get(capture - 1), lagFactor, blurPx, List.of())
                : this;
    }

    /** The model with a sharp core, for finding a place: the hottest pixels then decide, which uneven copper moves least. */
    public HeatModel sharp() {
        return new HeatModel(slab, Sheets.MANY, offsetS, lagFactor, blurPx, laterS);
    }
}
