package ohmoscope.core.board;

import java.util.Optional;

/**
 * What a good board reads from a net to ground, unpowered.
 *
 * @param ohms resistance, ohms
 * @param diodeVolts diode mode with the red lead on ground, volts
 */
public record Expectation(Optional<Range> ohms, Optional<Range> diodeVolts) {}
