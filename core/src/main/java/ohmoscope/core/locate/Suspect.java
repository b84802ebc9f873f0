package ohmoscope.core.locate;

import ohmoscope.core.board.Part;

/**
 * A part that may be the fault.
 *
 * @param probability calibrated: of the parts given 0.9, nine in ten are the fault
 * @param offMm distance from the free source estimate to the part's centre, millimetres
 */
public record Suspect(Part part, double probability, double offMm) {}
