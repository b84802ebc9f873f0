package ohmoscope.core.locate;

import ohmoscope.core.heat.SlabParameters;

/**
 * What the movie decides about the board and the clocks, besides where the source is.
 *
 * @param offsetS supply clock against camera clock
 * @param lagFactor scales every source's own lag
 * @param blurPx σ of the camera's blur, camera pixels
 */
record HeatModel(SlabParameters slab, double offsetS, double lagFactor, double blurPx) {
    static HeatModel of(SlabParameters slab) {
        return new HeatModel(slab, 0, 1, 0.8);
    }
}
