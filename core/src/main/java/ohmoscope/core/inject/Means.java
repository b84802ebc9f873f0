package ohmoscope.core.inject;

import ohmoscope.core.board.Check;
import ohmoscope.core.evidence.Injection;

/** What there is to inject and to look with. */
public final class Means {
    private Means() {}

    /**
     * Both leads together.
     *
     * @param ohms what they read alone, above 0
     * @param ratedAmps what they carry without becoming the hottest thing in the picture
     */
    public record Leads(double ohms, double ratedAmps) {
        public Leads {
            Check.within("lead_ohms", ohms, Injection.LEAST_LEAD_OHMS, Injection.MOST_LEAD_OHMS);
            Check.within("lead_rated_a", ratedAmps, 0.1, 100);
        }
    }

    /** The bench supply's ends. */
    public record Bench(double mostVolts, double mostAmps) {
        public Bench {
            Check.within("most_v", mostVolts, 0.1, 100);
            Check.within("most_a", mostAmps, 0.1, 100);
        }
    }

    /**
     * The thermal camera over the board.
     *
     * @param pixelMm what one pixel covers
     * @param noiseK of one pixel in one frame, one sigma
     * @param framesPerS frames a second
     * @param blurMm one sigma of its sharpness on the board
     */
    public record Camera(double pixelMm, double noiseK, double framesPerS, double blurMm) {
        public Camera {
            Check.within("pixel_mm", pixelMm, 0.02, 10);
            Check.within("noise_k", noiseK, 0.001, 5);
            Check.within("frames_per_s", framesPerS, 0.1, 1000);
            Check.within("blur_mm", blurMm, 0, 10);
        }
    }
}
