package ohmoscope.web.inject;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.core.inject.InjectionPlan;
import ohmoscope.core.inject.InjectionPlan.Expected;
import ohmoscope.core.inject.InjectionPlan.Rung;
import ohmoscope.core.inject.InjectionReview;
import ohmoscope.core.inject.Means;
import ohmoscope.core.inject.WarmSpot;
import ohmoscope.core.inject.Wire;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.CameraStore;
import ohmoscope.web.store.MeansStore.Kept;

/** The ladder of an injection, what was measured on it, and what a setting would do. */
public record InjectView(
        JobHead head,
        List<AdviceView.StopLine> stops,
        Given given,
        String ceiling,
        String fault,
        String school,
        List<Line> ladder,
        String enough,
        List<String> signs,
        Optional<Plot> plot,
        WhatIf whatIf,
        Where where,
        List<CameraChoice> cameras,
        List<String> words) {
    private static final double GUESSED = 3;
    /** A picture of the whole board has some paper round it. */
    private static final double AROUND = 1.1;

    private static final int PLOT_W = 300;
    private static final int PLOT_H = 170;
    private static final int PLOT_PAD = 34;

    /** What there is to work with, as given on the page. */
    public record Given(
            double leadOhms,
            double leadRatedA,
            double mostV,
            double mostA,
            double pixelMm,
            double noiseK,
            double framesPerS,
            double wantedMm) {
        private static final double MOST_RATED = 100;

        public static final Given USUAL = new Given(0.06, 4, 30, 5, 0.5, 0.06, 9, 0.6);

        /** The usual camera, with the leads and the supply that somebody keeps. */
        public static Given usual(Optional<Kept> kept) {
            return kept.map(k -> new Given(
                            k.leadOhms(),
                            k.leadRatedA(),
                            k.mostV(),
                            k.mostA(),
                            USUAL.pixelMm,
                            USUAL.noiseK,
                            USUAL.framesPerS,
                            USUAL.wantedMm))
                    .orElse(USUAL);
        }

        /** Whether it is planned with just these leads and this supply. */
        boolean isWith(Kept kept) {
            return kept.equals(new Kept(leadOhms, leadRatedA, mostV, mostA));
        }

        /** A number as an input shows it. */
        public String text(double value) {
            return new BigDecimal(String.format(Locale.ROOT, "%.4g", value))
                    .stripTrailingZeros()
                    .toPlainString();
        }

        /**
         * The same with leads whose ohms nobody measured.
         *
         * @param lengthM of one of two alike
         * @throws ohmoscope.core.board.InvalidMember for a gauge that is none
         */
        Given withWire(double lengthM, String gauge) {
            Wire wire = Wire.of(lengthM, gauge);
            double amps = Math.min(Math.round(10 * wire.ratedAmps()) / 10.0, MOST_RATED);
            return new Given(
                    Math.round(1000 * wire.ohms()) / 1000.0, amps, mostV, mostA, pixelMm, noiseK, framesPerS, wantedMm);
        }

        Means.Leads leads() {
            return new Means.Leads(leadOhms, leadRatedA);
        }

        Means.Bench bench() {
            return new Means.Bench(mostV, mostA);
        }

        Means.Camera camera() {
            return new Means.Camera(pixelMm, noiseK, framesPerS, 0.6 * pixelMm);
        }
    }

    /** @param done whether it has been tried @param fill the entry line for what the supply shows */
    public record Line(
            int number,
            String set,
            String limit,
            String time,
            String expect,
            String sees,
            String until,
            boolean done,
            String fill) {}

    /** Volts against amperes, in pixels. */
    public record Plot(
            int width, int height, List<double[]> points, double[] line, String volts, String amps, String words) {}

    /** What one setting would do. @param rings radius in mm with its label */
    public record WhatIf(
            double volts,
            double amps,
            double mostVolts,
            double mostAmps,
            String numbers,
            String picture,
            String verdict,
            List<Ring> rings,
            List<String> limits) {}

    /**
     * Where the leads go.
     *
     * @param series about the series part that joins the rail; empty when there is none
     * @param pictures the sides with the best pads marked
     */
    public record Where(List<Pad> hot, List<Pad> back, String series, List<BoardPicture> pictures) {}

    /** A pad in words. */
    public record Pad(String place, String why) {}

    /** A camera to plan with. @param name a capture of this job or a camera that is known by name */
    public record CameraChoice(String name, String numbers, String pixel, String noise, String frames) {
        static CameraChoice of(String name, double pixelMm, double noiseK, double framesPerS) {
            Given shown = Given.USUAL;
            return new CameraChoice(
                    name,
                    Eng.significant(pixelMm, 2) + " mm a pixel, " + Eng.fixed(1000 * noiseK, 0) + " mK, "
                            + Eng.significant(framesPerS, 2) + " frames a second",
                    shown.text(pixelMm),
                    shown.text(noiseK),
                    shown.text(framesPerS));
        }
    }

    /** A line of equal warmth. */
    public record Ring(double mm, String label) {}

    /**
     * @param joined the nets that anything conducts to from the job's rail
     * @param known cameras by name
     */
    static InjectView of(
            OpenJobs.Open open,
            Set<String> joined,
            Given given,
            OptionalDouble volts,
            OptionalDouble amps,
            List<CameraStore.Known> known) {
        String rail = open.job().bundle().rail();
        Planned planned = Planned.of(open, joined, given);
        InjectionReview review = planned.review();
        InjectionPlan plan = planned.plan();
        InjectionPlan.Estimate fault = plan.fault();
        Schools.Injection school = open.schools().injection();
        return new InjectView(
                open.head(),
                AdviceView.stops(open),
                given,
                Eng.significant(plan.ceilingVolts(), 2) + " V"
                        + (plan.ceilingNet().equals(rail) ? "" : ", as " + plan.ceilingNet() + " hangs on it"),
                Eng.prefixed(fault.ohms(), "Ω", 2) + ", " + Eng.prefixed(fault.low(), "Ω", 2) + " to "
                        + Eng.prefixed(fault.high(), "Ω", 2)
                        + (review.points().isEmpty() ? ", guessed: nothing has been injected yet" : ""),
                school(school),
                ladder(planned, rail),
                enough(plan),
                review.signs().stream().map(InjectView::words).toList(),
                plot(review),
                whatIf(plan, given, volts, amps),
                where(open, rail),
                cameras(open, known),
                AdviceView.words(open.job().board()));
    }

    /** As this job's captures lay; then every known camera, as if it just saw the whole board. */
    private static List<CameraChoice> cameras(OpenJobs.Open open, List<CameraStore.Known> known) {
        List<CameraChoice> choices = new ArrayList<>();
        for (LocateInput.Capture capture : open.job().bundle().captures()) {
            CaptureSpec spec = capture.spec();
            double span =
                    spec.timesS().get(spec.frameCount() - 1) - spec.timesS().get(0);
            double noise = open.analysis()
                    .flatMap(a -> a.capture(spec.id()))
                    .map(c -> c.noiseK())
                    .orElse(spec.netdK().orElse(Given.USUAL.noiseK()));
            choices.add(CameraChoice.of(
                    "as " + spec.id() + " lay",
                    Registration.fit(spec.registration()).homography().pitchMm(spec.width() / 2.0, spec.height() / 2.0),
                    noise,
                    span > 0 ? (spec.frameCount() - 1) / span : Given.USUAL.framesPerS()));
        }
        Outline outline = open.job().board().outline();
        double across = outline.maxXMm() - outline.minXMm();
        double down = outline.maxYMm() - outline.minYMm();
        for (CameraStore.Known camera : known) {
            choices.add(CameraChoice.of(
                    camera.name(),
                    AROUND * Math.max(across / camera.width(), down / camera.height()),
                    camera.netdK().orElse(Given.USUAL.noiseK()),
                    camera.framesPerSecond()));
        }
        return choices;
    }

    private static Where where(OpenJobs.Open open, String rail) {
        Board board = open.job().board();
        InjectionPlaces places = Planned.places(open, rail);
        List<BoardPicture.Spot> spots = new ArrayList<>();
        places.hot().stream().limit(1).forEach(p -> spots.add(spot(p, "hot lead")));
        places.back().stream().limit(1).forEach(p -> spots.add(spot(p, "return")));
        List<BoardPicture> pictures = spots.stream()
                .map(BoardPicture.Spot::side)
                .distinct()
                .map(side -> BoardPicture.pointing(board, rail, side, spots))
                .toList();
        return new Where(
                places.hot().stream().map(InjectView::pad).toList(),
                places.back().stream().map(InjectView::pad).toList(),
                places.series()
                        .map(s ->
                                s.ref() + " joins " + rail + " to " + s.before().net() + ". Feed it on the "
                                        + rail + " side (pad " + s.behind().name()
                                        + ") and its own heat stays out of the picture; fed from the "
                                        + s.before().net()
                                        + " side (pad " + s.before().name() + ") it warms too.")
                        .orElse(""),
                pictures);
    }

    private static BoardPicture.Spot spot(InjectionPlaces.Place place, String words) {
        return new BoardPicture.Spot(place.side(), place.xMm(), place.yMm(), words);
    }

    private static Pad pad(InjectionPlaces.Place place) {
        String clear = Double.isInfinite(place.clearMm())
                ? "no suspect near"
                : Eng.significant(place.clearMm(), 2) + " mm from the nearest suspect";
        return new Pad(
                Planned.words(place), clear + ", about " + Eng.significant(place.padMm2(), 1) + " mm² to sit on");
    }

    private static String school(Schools.Injection school) {
        return switch (school) {
            case LOW_AND_CLIMB ->
                "Low, and climb: below 0.3 V nothing but the short conducts, and a hard short warms with the current, not the volts.";
            case RAIL_VOLTAGE ->
                "The rail's voltage behind a limit: partial shorts show too, but protection may shut the rail off after a burst.";
        };
    }

    private static List<Line> ladder(Planned planned, String rail) {
        List<Line> lines = new ArrayList<>();
        for (Rung r : planned.plan().rungs()) {
            lines.add(new Line(
                    lines.size() + 1,
                    Eng.significant(r.setVolts(), 2) + " V",
                    Eng.significant(r.limitAmps(), 2) + " A",
                    r.pulses() > 0 ? r.pulses() + " × 1 s on, 1 s off" : Eng.significant(r.seconds(), 1) + " s",
                    Eng.prefixed(r.volts(), "V", 2) + ", " + Eng.significant(r.amps(), 2) + " A, "
                            + Eng.prefixed(r.watts(), "W", 2) + (r.silent() ? ", all else silent" : ""),
                    "+" + Eng.significant(r.riseK(), 2) + " K; " + sees(r.surety(), r.sigmaMm()),
                    words(r.stopWhen()),
                    planned.tried(r),
                    "inj " + rail + " " + Eng.significant(r.setVolts(), 2) + "V " + Eng.significant(r.limitAmps(), 2)
                            + "A "));
        }
        return lines;
    }

    public static String sees(double surety, double sigmaMm) {
        if (surety < GUESSED) {
            return "not seen if the short is as hard as it may be";
        }
        return (surety < WarmSpot.SEEN ? "barely seen, " : "") + "place to ±" + Eng.significant(sigmaMm, 1) + " mm";
    }

    public static String words(InjectionPlan.StopWhen stop) {
        return switch (stop) {
            case SHARP_ENOUGH -> "sharp enough: stop here";
            case ANYTHING_WARMS -> "anything warms: stop and look";
            case LEADS_AT_THEIR_RATING -> "the leads carry no more";
            case SUPPLY_AT_ITS_END -> "the supply gives no more";
            case CEILING_REACHED -> "the rail bears no more";
            case HOT_ENOUGH -> "seconds only: the part itself gets hot";
        };
    }

    private static String words(InjectionReview.Sign sign) {
        return switch (sign) {
            case CONTACT_LOST -> "No current: a lead is not touching.";
            case INTO_GROUND ->
                "The leads alone explain it: the hot lead may sit on ground, or the short is very hard.";
            case SUPPLY_RESTARTS -> "The supply restarts again and again: set it lower, behind a lower limit.";
            case SHUT_OFF -> "It shut itself off after a burst: protection hides the heat. Go low.";
            case BURNED_OPEN ->
                "The short has become an open: what burned is still damaged, and may come back. Read the rail again.";
            case JUNCTION -> "Ohms fall as volts rise: a junction conducts. Stay under 0.3 V to see the short alone.";
            case RISES_WITH_HEAT -> "Ohms rise with the current: it warms, or a contact does.";
            case CURRENT_LIMITED ->
                "The supply holds its current limit: the volts are what is left. Raise the limit to see more heat.";
        };
    }

    private static String enough(InjectionPlan plan) {
        return plan.enough()
                .map(i -> "Step " + (i + 1)
                        + " tells the place sharply enough, even if the short is as hard as it may be.")
                .orElse("No step tells the place as sharply as wanted: move the camera closer, or pulse for longer.");
    }

    private static Optional<Plot> plot(InjectionReview review) {
        if (review.points().isEmpty()) {
            return Optional.empty();
        }
        double mostA = 1.15
                * review.points().stream()
                        .mapToDouble(InjectionReview.Point::amps)
                        .max()
                        .orElse(1);
        double mostV = 1.15
                * review.points().stream()
                        .mapToDouble(InjectionReview.Point::volts)
                        .max()
                        .orElse(1);
        List<double[]> points = review.points().stream()
                .map(p -> new double[] {x(p.amps() / mostA), y(p.volts() / mostV)})
                .toList();
        double slope = review.points().stream()
                        .mapToDouble(p -> p.volts() * p.amps())
                        .sum()
                / review.points().stream().mapToDouble(p -> p.amps() * p.amps()).sum();
        double end = Math.min(mostA, mostV / slope);
        return Optional.of(new Plot(
                PLOT_W,
                PLOT_H,
                points,
                new double[] {x(0), y(0), x(end / mostA), y(slope * end / mostV)},
                Eng.prefixed(mostV, "V", 2).toString(),
                Eng.significant(mostA, 2) + " A",
                "The short: " + Eng.prefixed(review.ohms().orElse(0), "Ω", 2) + " ± "
                        + Eng.prefixed(review.sigmaOhms().orElse(0), "Ω", 1) + ", leads taken off."));
    }

    private static double x(double share) {
        return PLOT_PAD + share * (PLOT_W - PLOT_PAD - 8);
    }

    private static double y(double share) {
        return PLOT_H - PLOT_PAD + 8 - share * (PLOT_H - PLOT_PAD - 4);
    }

    private static WhatIf whatIf(InjectionPlan plan, Given given, OptionalDouble volts, OptionalDouble amps) {
        Optional<Rung> usual = plan.enough()
                .map(i -> plan.rungs().get(i))
                .or(() -> plan.rungs().stream().reduce((a, b) -> b));
        double v = volts.orElse(usual.map(Rung::setVolts).orElse(1.0));
        double a = amps.orElse(usual.map(Rung::limitAmps).orElse(2.0));
        Expected e = InjectionPlan.expect(plan.fault(), given.leadOhms(), v, a);
        List<Ring> rings = new ArrayList<>();
        for (double kelvin : new double[] {0.1, 0.3, 1, 3, 10, 30}) {
            double mm = plan.spot().radiusMm(e.watts(), kelvin);
            if (mm > 0.3 && mm < 44) {
                rings.add(new Ring(mm, Eng.significant(kelvin, 1) + " K"));
            }
        }
        List<String> limits = new ArrayList<>();
        if (v > plan.ceilingVolts()) {
            limits.add("Above what " + plan.ceilingNet() + " bears: never set it so.");
        }
        if (e.amps() > given.leadRatedA()) {
            limits.add("More than the leads carry: they would be the hottest thing in the picture.");
        }
        if (e.watts() > 3) {
            limits.add("Watts in one small part: smoke within seconds. A hand on the output key.");
        }
        if (e.volts() - e.amps() * given.leadOhms() > 0.3) {
            limits.add("Over 0.3 V on the rail: junctions may conduct beside the short.");
        }
        return new WhatIf(
                v,
                a,
                Math.max(1, Math.min(plan.ceilingVolts(), given.mostV())),
                given.mostA(),
                Eng.prefixed(e.volts(), "V", 2) + " · " + Eng.significant(e.amps(), 2) + " A · "
                        + Eng.prefixed(e.watts(), "W", 2) + (e.limited() ? " · at the limit" : ""),
                "+" + Eng.significant(plan.spot().riseK(e.watts()), 2) + " K after " + Math.round(InjectionPlan.SECONDS)
                        + " s",
                sees(plan.spot().expectedSurety(e.watts(), 1), plan.spot().expectedSigmaMm(e.watts(), 1)),
                rings,
                limits);
    }
}
