package ohmoscope.formats.frames;

import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/** What a stack's numbers mean. */
public sealed interface Scale {
    /** Kelvin for a number of the file. */
    double kelvin(double value);

    /** Kelvin between two neighbouring numbers. */
    double kelvinPerStep();

    /** @param kelvinPerStep above 0 */
    record Linear(double kelvinPerStep, double kelvinAtZero) implements Scale {
        public Linear {
            Check.positive("kelvin_per_count", kelvinPerStep);
            Check.finite("kelvin_at_zero", kelvinAtZero);
        }

        @Override
        public double kelvin(double value) {
            return value * kelvinPerStep + kelvinAtZero;
        }
    }

    /** Numbers are degrees Celsius. */
    Scale CELSIUS = new Linear(1, 273.15);

    /** Numbers are kelvin. */
    Scale KELVIN = new Linear(1, 0);

    /**
     * A picture for the eye: one grey step is taken for a twentieth of a kelvin, so that places and time courses can be
     * used. Watts and kelvin that come of it mean nothing.
     */
    Scale SHAPE_ONLY = new Linear(0.05, 290);

    /** From two places or moments whose temperature is known. */
    static Scale through(double value, double celsius, double otherValue, double otherCelsius) {
        if (!(Math.abs(value - otherValue) > 1e-9) || !((celsius - otherCelsius) / (value - otherValue) > 0)) {
            throw new InvalidMember(
                    "scale", "needs two different numbers, the greater one of them at the higher temperature");
        }
        double perStep = (celsius - otherCelsius) / (value - otherValue);
        return new Linear(perStep, celsius + 273.15 - value * perStep);
    }
}
