package ohmoscope.sim;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;

/**
 * What stands on the simulated bench.
 *
 * @param faults ohms to ground by part reference; empty when the current goes straight into ground
 * @param rail the rail complained of
 * @param feedRef the part on whose pad the hot lead sits
 * @param feedNet the net that it touches; ground is taken for the rail by who holds it
 * @param views one capture each
 */
public record BenchSetup(
        Board board,
        String jobId,
        String title,
        Instant opened,
        Map<String, Double> faults,
        String rail,
        String feedRef,
        String feedNet,
        Supply supply,
        List<View> views,
        Camera camera,
        Oddities oddities,
        long seed) {
    /**
     * What a real bench adds to a tidy one.
     *
     * @param bodySpread how much bodies differ in heat capacity and contact from what their size says, natural log
     * @param copperFactor how well the board spreads heat against what its layers say
     * @param islands rectangles of much more or much less copper
     * @param wanderers parts that warm or cool by themselves, whatever the supply does
     * @param nudgePx how far the camera is kicked once, half-way, pixels
     * @param cableOhms a short beyond the board, in a cable or the lead itself, that takes the current; 0 for none
     * @param layers by which the heat solver cuts the board, each with its part of the copper
     */
    public record Oddities(
            double bodySpread,
            double copperFactor,
            int islands,
            int wanderers,
            double nudgePx,
            double cableOhms,
            int layers) {
        public static final int USUAL_LAYERS = 3;

        public static final Oddities NONE = new Oddities(0, 1, 0, 0, 0, 0, USUAL_LAYERS);

        public Oddities {
            Check.within("body_spread", bodySpread, 0, 1);
            Check.within("copper_factor", copperFactor, 0.1, 10);
            Check.within("islands", islands, 0, 50);
            Check.within("wanderers", wanderers, 0, 1000);
            Check.within("nudge_px", nudgePx, 0, 20);
            Check.notNegative("cable_ohms", cableOhms);
            Check.within("layers", layers, 2, 12);
        }
    }

    /**
     * The supply and its leads.
     *
     * @param onSeconds how long the output is on, in all
     * @param pulses in how many bursts, with pauses as long as the bursts
     */
    public record Supply(double setVolts, double limitAmps, double leadOhms, double onSeconds, int pulses) {
        public Supply {
            Check.positive("set_v", setVolts);
            Check.positive("limit_a", limitAmps);
            Check.positive("lead_ohms", leadOhms);
            Check.within("seconds", onSeconds, 0.2, 600);
            Check.within("pulses", pulses, 1, 100);
        }
    }

    /** One look: a side, and the part in the middle of a close view; the whole board when empty. */
    public record View(Side side, Optional<String> closeUpOn) {}

    /**
     * @param netdK noise of one pixel in one frame, kelvin
     * @param driftK how far the level wanders between re-zeroings, kelvin
     * @param rezeroes how often it re-zeroes itself during a capture
     * @param shakePx a hand's tremor, pixels root mean square; 0 on a stand
     * @param turnDegrees how far that hand turns the camera about its axis, root mean square
     * @param reflectionK how far the room's mirror image changes on a perfect mirror, kelvin
     * @param afterglowSeconds how long it looks on when the output is off for good
     */
    public record Camera(
            int width,
            int height,
            double framesPerSecond,
            double baselineSeconds,
            double netdK,
            double driftK,
            int rezeroes,
            double shakePx,
            double turnDegrees,
            double reflectionK,
            double afterglowSeconds) {
        public static final Camera STAND = new Camera(160, 120, 9, 2.2, 0.07, 0.3, 1, 0.03, 0.3);

        public Camera {
            Check.within("width", width, 16, 2048);
            Check.within("height", height, 16, 2048);
            Check.within("fps", framesPerSecond, 0.2, 200);
            Check.within("baseline", baselineSeconds, 0, 600);
            Check.positive("netd_k", netdK);
            Check.notNegative("drift_k", driftK);
            Check.within("rezeroes", rezeroes, 0, 20);
            Check.within("shake_px", shakePx, 0, 10);
            Check.within("turn_degrees", turnDegrees, 0, 1);
            Check.notNegative("reflection_k", reflectionK);
            Check.within("afterglow", afterglowSeconds, 0, 600);
        }

        /** One that is put away when the output is off. */
        public Camera(
                int width,
                int height,
                double framesPerSecond,
                double baselineSeconds,
                double netdK,
                double driftK,
                int rezeroes,
                double shakePx,
                double turnDegrees,
                double reflectionK) {
            this(
                    width,
                    height,
                    framesPerSecond,
                    baselineSeconds,
                    netdK,
                    driftK,
                    rezeroes,
                    shakePx,
                    turnDegrees,
                    reflectionK,
                    0);
        }

        /** One that is not turned. */
        public Camera(
                int width,
                int height,
                double framesPerSecond,
                double baselineSeconds,
                double netdK,
                double driftK,
                int rezeroes,
                double shakePx,
                double reflectionK) {
            this(width, height, framesPerSecond, baselineSeconds, netdK, driftK, rezeroes, shakePx, 0, reflectionK);
        }

        public Camera turned(double degrees) {
            return new Camera(
                    width,
                    height,
                    framesPerSecond,
                    baselineSeconds,
                    netdK,
                    driftK,
                    rezeroes,
                    shakePx,
                    degrees,
                    reflectionK,
                    afterglowSeconds);
        }

        /** The same at a live bench. */
        public Camera live(int width, int height, double framesPerSecond, double afterglowSeconds) {
            return new Camera(
                    width,
                    height,
                    framesPerSecond,
                    baselineSeconds,
                    netdK,
                    driftK,
                    rezeroes,
                    shakePx,
                    turnDegrees,
                    reflectionK,
                    afterglowSeconds);
        }
    }

    /** The same, looked at by another camera. */
    public BenchSetup with(Camera other) {
        return new BenchSetup(
                board, jobId, title, opened, faults, rail, feedRef, feedNet, supply, views, other, oddities, seed);
    }

    /** A tidy bench. */
    public BenchSetup(
            Board board,
            String jobId,
            String title,
            Instant opened,
            Map<String, Double> faults,
            String rail,
            String feedRef,
            String feedNet,
            Supply supply,
            List<View> views,
            Camera camera,
            long seed) {
        this(board, jobId, title, opened, faults, rail, feedRef, feedNet, supply, views, camera, Oddities.NONE, seed);
    }

    public BenchSetup {
        faults = Map.copyOf(faults);
        for (var fault : faults.entrySet()) {
            if (board.part(fault.getKey()).isEmpty()) {
                throw new InvalidMember(
                        "fault", "names the part " + fault.getKey() + ", which the board does not have");
            }
            Check.positive("fault " + fault.getKey(), fault.getValue());
        }
        if (board.net(rail).isEmpty() || board.net(feedNet).isEmpty()) {
            throw new InvalidMember("rail", "names a net that the board does not have: " + rail + ", " + feedNet);
        }
        if (board.part(feedRef).isEmpty()) {
            throw new InvalidMember("at", "names the part " + feedRef + ", which the board does not have");
        }
        views = List.copyOf(views);
        if (views.isEmpty()) {
            throw new InvalidMember("side", "needs at least one view");
        }
    }
}
