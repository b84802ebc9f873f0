package ohmoscope.web.inject;

import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.web.inject.InjectView.Given;
import org.jspecify.annotations.Nullable;

/**
 * What the page plans with, as far as it was said. Fields are named as in the page.
 *
 * @param leads ohms of both leads
 * @param volts a setting to try out
 * @param amps its limit
 * @param length of each lead, metres, and its gauge; they stand for the ohms where {@code by} is {@code wire}
 */
public record InjectForm(
        @Nullable Double leads,
        @Nullable Double rated,
        @Nullable Double mostV,
        @Nullable Double mostA,
        @Nullable Double pixel,
        @Nullable Double noise,
        @Nullable Double frames,
        @Nullable Double wanted,
        @Nullable Double volts,
        @Nullable Double amps,
        @Nullable Double length,
        @Nullable String gauge,
        @Nullable String by) {
    static final InjectForm EMPTY =
            new InjectForm(null, null, null, null, null, null, null, null, null, null, null, null, null);

    static InjectForm withLeads(double ohms) {
        return new InjectForm(ohms, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    /**
     * @param measured ohms of the leads as the last injection said
     * @param usual for what nobody said
     */
    Given given(OptionalDouble measured, Given usual) {
        return new Given(
                or(leads, measured.orElse(usual.leadOhms())),
                or(rated, usual.leadRatedA()),
                or(mostV, usual.mostV()),
                or(mostA, usual.mostA()),
                or(pixel, usual.pixelMm()),
                or(noise, usual.noiseK()),
                or(frames, usual.framesPerS()),
                or(wanted, usual.wantedMm()));
    }

    public boolean byWire() {
        return "wire".equals(by);
    }

    /** @throws InvalidMember where length or gauge is missing or none */
    Given reckoned(Given given) {
        if (length == null) {
            throw new InvalidMember("length", "is missing");
        }
        return given.withWire(length, gauge == null ? "" : gauge);
    }

    OptionalDouble triedVolts() {
        return volts == null ? OptionalDouble.empty() : OptionalDouble.of(volts);
    }

    OptionalDouble triedAmps() {
        return amps == null ? OptionalDouble.empty() : OptionalDouble.of(amps);
    }

    private static double or(@Nullable Double said, double usual) {
        return said == null ? usual : said;
    }
}
