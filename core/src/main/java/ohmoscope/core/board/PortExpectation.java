package ohmoscope.core.board;

import java.util.Optional;

/** What a connector through which the device is powered shows on a good device: volts and amperes. */
public record PortExpectation(
        Optional<Range> volts,
        Optional<Range> standbyAmps,
        Optional<Range> runAmps,
        Optional<Range> chargeAmps,
        boolean reversible) {}
