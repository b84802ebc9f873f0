package ohmoscope.core.imaging;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;

/**
 * One capture, without its frames.
 *
 * @param width pixels in a row
 * @param height rows
 * @param kelvinPerCount kelvin = count × this + {@code kelvinAtZero}
 * @param netdK the camera's stated noise, kelvin; the noise is measured from the frames all the same
 * @param timesS one time for each frame, not falling, on the bundle's clock
 */
public record CaptureSpec(
        String id,
        Side side,
        int width,
        int height,
        double kelvinPerCount,
        double kelvinAtZero,
        OptionalDouble netdK,
        OptionalDouble emissivity,
        List<RegistrationPair> registration,
        List<Double> timesS) {
    /** The hottest board anybody looks at, kelvin; anything above is a scale error. */
    public static final double MAX_KELVIN = 2_000;

    public CaptureSpec {
        Check.text("id", id);
        if (!id.matches("[A-Za-z0-9][A-Za-z0-9._-]{0,63}")) {
            throw new InvalidMember("id", "must be up to 64 letters, digits, dots, dashes or underscores, was " + id);
        }
        Check.within("width", width, 8, 4096);
        Check.within("height", height, 8, 4096);
        Check.positive("kelvin_per_count", kelvinPerCount);
        Check.within("kelvin_at_zero", kelvinAtZero, -1000, MAX_KELVIN);
        Check.positive("netd_k", netdK);
        emissivity.ifPresent(e -> Check.within("emissivity", e, 0.01, 1));
        registration = List.copyOf(registration);
        Registration.requireUsable(registration);
        timesS = List.copyOf(timesS);
        if (timesS.isEmpty()) {
            throw new InvalidMember("times", "has no rows: a capture needs at least one frame");
        }
        for (int i = 0; i < timesS.size(); i++) {
            Check.within("t_s", timesS.get(i), -1e7, 1e7);
            if (i > 0 && timesS.get(i) < timesS.get(i - 1)) {
                throw new InvalidMember(
                        "t_s", "goes backwards at frame " + i + ": " + timesS.get(i) + " after " + timesS.get(i - 1));
            }
        }
    }

    public int frameCount() {
        return timesS.size();
    }

    public int pixels() {
        return width * height;
    }

    public double[] times() {
        return timesS.stream().mapToDouble(Double::doubleValue).toArray();
    }

    public double kelvin(int count) {
        return count * kelvinPerCount + kelvinAtZero;
    }

    public CaptureSpec withRegistration(List<RegistrationPair> pairs) {
        return new CaptureSpec(
                id,
                side,
                width,
                height,
                kelvinPerCount,
                kelvinAtZero,
                netdK,
                emissivity,
                new ArrayList<>(pairs),
                timesS);
    }
}
