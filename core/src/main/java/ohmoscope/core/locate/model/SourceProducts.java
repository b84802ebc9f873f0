package ohmoscope.core.locate.model;

import java.util.Optional;

/**
 * What one capture says of a source of one watt: its weighted products, stripes and still pictures out.
 *
 * @param square with itself
 * @param data with the data
 * @param nuisances with each nuisance
 * @param own of the source's own body, where this camera sees it
 */
public record SourceProducts(double square, double data, double[] nuisances, Optional<Own> own) {
    /**
     * Products of the body's own warmth.
     *
     * @param source with the source's column
     */
    public record Own(double square, double data, double source, double[] nuisances) {}
}
