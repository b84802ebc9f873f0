package ohmoscope.sim;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.random.RandomGenerator;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.sim.BenchSetup.Camera;
import ohmoscope.sim.BenchSetup.Oddities;
import ohmoscope.sim.BenchSetup.View;

/** A thermal camera over one side of the board: geometry, emissivity, reflections, blur, noise, drift, shake with turning. */
final class CameraSimulator {
    static final double AMBIENT_K = 295;
    private static final double BOARD_EMISSIVITY = 0.94;
    private static final double CLICK_PX = 0.6;
    private static final double BLUR_PX = 0.75;
    private static final double CLOSE_UP_MM = 26;
    private static final double WIRE_MM = 1.3;
    static final double KELVIN_PER_COUNT = 0.01;

    private final Board board;
    private final View view;
    private final Camera camera;
    private final RandomGenerator random;
    private final double cx;
    private final double cy;
    private final double pxPerMm;
    private final double turn;
    private final double tiltX;
    private final double tiltY;
    private final double[] emissivity;
    private final int[] partAt;
    private final double[] xMm;
    private final double[] yMm;
    private final boolean[] onBoard;
    private final boolean[] wire;
    private final double[] warmUnevenness;
    private final int[] rezeroAt;
    private final int frames;
    private final int nudgeAt;
    private final double nudgeXPx;
    private final double nudgeYPx;
    /** How fast each part drifts towards a temperature of its own, K/s; 0 for all but a few. */
    private final double[] wanderKPerS;

    private double shakeX;
    private double shakeY;
    private double shakeTurn;
    private double level;
    private double levelSlope;
    private char[] frozen = new char[0];
    private int frozenLeft;

    CameraSimulator(
            Board board,
            View view,
            Camera camera,
            Oddities oddities,
            ProbePlace hot,
            int frames,
            RandomGenerator random) {
        this.board = board;
        this.view = view;
        this.camera = camera;
        this.random = random;
        this.frames = frames;
        Outline o = board.outline();
        double w = o.maxXMm() - o.minXMm();
        double h = o.maxYMm() - o.minYMm();
        boolean close = view.closeUpOn().isPresent();
        Part centre = close ? board.part(view.closeUpOn().get()).orElseThrow() : null;
        cx = close ? centre.xMm() + 3 * (random.nextDouble() - 0.5) : o.minXMm() + w / 2;
        cy = close ? centre.yMm() + 3 * (random.nextDouble() - 0.5) : o.minYMm() + h / 2;
        double spanX = close ? CLOSE_UP_MM : w * 1.06;
        double spanY = close ? CLOSE_UP_MM * camera.height() / camera.width() : h * 1.06;
        pxPerMm = Math.min(camera.width() / spanX, camera.height() / spanY);
        turn = Math.toRadians(3 * random.nextGaussian());
        tiltX = 0.0004 * random.nextGaussian();
        tiltY = 0.0004 * random.nextGaussian();
        int n = camera.width() * camera.height();
        emissivity = new double[n];
        partAt = new int[n];
        xMm = new double[n];
        yMm = new double[n];
        onBoard = new boolean[n];
        wire = new boolean[n];
        warmUnevenness = new double[n];
        place();
        lead(hot);
        rezeroAt = new int[camera.rezeroes()];
        for (int i = 0; i < rezeroAt.length; i++) {
            rezeroAt[i] = (int) (frames * (i + 0.55 + 0.3 * random.nextDouble()) / (rezeroAt.length + 0.4));
        }
        levelSlope = camera.driftK() * (random.nextDouble() - 0.5) / Math.max(1, frames / 2.0);
        double nudgeAngle = oddities.nudgePx() > 0 ? 2 * Math.PI * random.nextDouble() : 0;
        nudgeAt = frames / 2;
        nudgeXPx = oddities.nudgePx() * Math.cos(nudgeAngle);
        nudgeYPx = oddities.nudgePx() * Math.sin(nudgeAngle);
        wanderKPerS = new double[board.parts().size()];
        for (int i = 0; i < oddities.wanderers(); i++) {
            wanderKPerS[random.nextInt(wanderKPerS.length)] = 0.04 * random.nextGaussian();
        }
    }

    /** Inverse of {@link #toPx}: a few fixed-point steps suffice for such slight tilts. */
    private double[] toMm(double px, double py) {
        double[] mm = {cx, cy};
        for (int i = 0; i < 12; i++) {
            double[] at = toPx(mm[0], mm[1]);
            double ex = (px - at[0]) / pxPerMm;
            double ey = (py - at[1]) / pxPerMm;
            double mirror = view.side() == Side.TOP ? 1 : -1;
            mm[0] += mirror * (ex * Math.cos(turn) + ey * Math.sin(turn));
            mm[1] += -(-ex * Math.sin(turn) + ey * Math.cos(turn));
        }
        return mm;
    }

    private double[] toPx(double x, double y) {
        double u = (view.side() == Side.TOP ? 1 : -1) * (x - cx);
        double v = -(y - cy);
        double ru = u * Math.cos(turn) - v * Math.sin(turn);
        double rv = u * Math.sin(turn) + v * Math.cos(turn);
        double depth = 1 + tiltX * ru + tiltY * rv;
        return new double[] {
            pxPerMm * ru / depth + (camera.width() - 1) / 2.0, pxPerMm * rv / depth + (camera.height() - 1) / 2.0
        };
    }

    private void place() {
        Outline.Inside inside = board.outline().inside();
        double[] byPart = new double[board.parts().size()];
        for (int i = 0; i < byPart.length; i++) {
            byPart[i] = emissivityOf(board.parts().get(i).kind());
        }
        for (int p = 0; p < partAt.length; p++) {
            double[] mm = toMm(p % camera.width(), p / camera.width());
            xMm[p] = mm[0];
            yMm[p] = mm[1];
            onBoard[p] = inside.test(mm[0], mm[1]);
            partAt[p] = -1;
            emissivity[p] = onBoard[p] ? BOARD_EMISSIVITY : 0.9;
            warmUnevenness[p] = 0.12 * Math.sin(mm[0] / 9 + 1) * Math.cos(mm[1] / 11);
            for (int i = 0; i < byPart.length && onBoard[p]; i++) {
                Part part = board.parts().get(i);
                boolean can = part.kind() == PartKind.SHIELD;
                if (part.side() == view.side() && part.covers(mm[0], mm[1], 0) && (partAt[p] < 0 || can)) {
                    partAt[p] = i;
                    emissivity[p] = byPart[i];
                }
            }
        }
    }

    /** Where the hot lead is set: its wire stands before the board. */
    void lead(ProbePlace hot) {
        double wireAngle = 2 * Math.PI * random.nextDouble();
        for (int p = 0; p < wire.length; p++) {
            double dx = xMm[p] - hot.xMm();
            double dy = yMm[p] - hot.yMm();
            double along = dx * Math.cos(wireAngle) + dy * Math.sin(wireAngle);
            double across = -dx * Math.sin(wireAngle) + dy * Math.cos(wireAngle);
            wire[p] = hot.side() == view.side() && along > 0 && Math.abs(across) < WIRE_MM / 2;
        }
    }

    private double emissivityOf(PartKind kind) {
        double spread = 0.06 * random.nextGaussian();
        double middle = switch (kind) {
            case CAPACITOR -> 0.72;
            case RESISTOR -> 0.86;
            case IC, MOSFET, TRANSISTOR, DIODE, TVS -> 0.9;
            case INDUCTOR, FERRITE -> 0.78;
            case SHIELD -> 0.22;
            case CONNECTOR, SWITCH -> 0.4;
            case CRYSTAL -> 0.3;
            default -> 0.85;
        };
        return Math.max(0.1, Math.min(0.97, middle + spread));
    }

    /**
     * Pairs clicked on corners and part centres in view.
     *
     * @return at least six
     */
    List<RegistrationPair> clickedPairs() {
        List<double[]> places = new ArrayList<>();
        board.outline().corners().forEach(c -> places.add(new double[] {c.xMm(), c.yMm()}));
        for (Part part : board.parts()) {
            if (part.side() == view.side() && part.wMm() * part.hMm() > 8) {
                places.add(new double[] {part.xMm(), part.yMm()});
            }
        }
        for (Part part : board.parts()) {
            if (part.side() == view.side()) {
                for (Pin pin : part.pins()) {
                    places.add(new double[] {pin.xMm(), pin.yMm()});
                }
            }
        }
        double apart = Math.min(camera.width(), camera.height()) / 4.0;
        List<RegistrationPair> pairs = clicked(places, apart);
        while (!Registration.usable(pairs) && apart > 1) {
            apart *= 0.7;
            pairs = clicked(places, apart);
        }
        return pairs;
    }

    private List<RegistrationPair> clicked(List<double[]> places, double apart) {
        List<RegistrationPair> pairs = new ArrayList<>();
        for (double[] mm : places) {
            double[] px = toPx(mm[0], mm[1]);
            boolean seen = px[0] > 1 && px[1] > 1 && px[0] < camera.width() - 2 && px[1] < camera.height() - 2;
            boolean fresh = pairs.stream().allMatch(p -> Math.hypot(p.xPx() - px[0], p.yPx() - px[1]) > apart);
            if (seen && fresh && pairs.size() < 6) {
                pairs.add(new RegistrationPair(
                        rounded(px[0] + CLICK_PX * random.nextGaussian()),
                        rounded(px[1] + CLICK_PX * random.nextGaussian()),
                        mm[0],
                        mm[1]));
            }
        }
        return pairs;
    }

    private static double rounded(double px) {
        return Double.parseDouble(String.format(Locale.ROOT, "%.1f", px));
    }

    /** The next frame, as counts. */
    char[] frame(int index, double tS, HeatSolver heat, double wireK) {
        if (frozenLeft > 0) {
            frozenLeft--;
            if (frozenLeft == 0) {
                level += camera.driftK() * 1.4 * (random.nextDouble() - 0.5);
                levelSlope = -levelSlope;
            }
            return frozen.clone();
        }
        level += levelSlope;
        shakeX += -0.25 * shakeX + 0.66 * camera.shakePx() * random.nextGaussian();
        shakeY += -0.25 * shakeY + 0.66 * camera.shakePx() * random.nextGaussian();
        boolean turns = camera.turnDegrees() > 0;
        if (turns) {
            shakeTurn += -0.25 * shakeTurn + 0.66 * Math.toRadians(camera.turnDegrees()) * random.nextGaussian();
        }
        double room = camera.reflectionK() * Math.sin(2 * Math.PI * tS / 11 + 0.7);
        float[] scene = new float[partAt.length];
        for (int p = 0; p < scene.length; p++) {
            double rise = 0;
            if (onBoard[p]) {
                rise = partAt[p] < 0
                        ? heat.faceK(xMm[p], yMm[p], view.side())
                        : heat.lidK(partAt[p]) + wanderKPerS[partAt[p]] * tS;
            }
            double surface = AMBIENT_K + (onBoard[p] ? 1.5 + warmUnevenness[p] : 0) + rise;
            double mirrored = AMBIENT_K - 2 + room;
            scene[p] = (float)
                    (wire[p] ? AMBIENT_K + 0.8 * wireK : emissivity[p] * surface + (1 - emissivity[p]) * mirrored);
        }
        double x = shakeX + (index >= nudgeAt ? nudgeXPx : 0);
        double y = shakeY + (index >= nudgeAt ? nudgeYPx : 0);
        float[] seen = turns
                ? CameraOptics.blurredAndTurned(scene, camera.width(), camera.height(), BLUR_PX, x, y, shakeTurn)
                : CameraOptics.blurredAndMoved(scene, camera.width(), camera.height(), BLUR_PX, x, y);
        char[] counts = new char[seen.length];
        double[] rows = stripes(camera.height());
        double[] columns = stripes(camera.width());
        for (int p = 0; p < seen.length; p++) {
            double kelvin = seen[p]
                    + level
                    + camera.netdK() * random.nextGaussian()
                    + rows[p / camera.width()]
                    + columns[p % camera.width()];
            counts[p] = (char) Math.max(0, Math.min(65535, Math.round(kelvin / KELVIN_PER_COUNT)));
        }
        for (int at : rezeroAt) {
            // A camera that goes on for ever begins its cycle anew.
            if (at == index % frames && index != frames - 1) {
                frozen = counts.clone();
                frozenLeft = 3 + random.nextInt(4);
            }
        }
        return counts;
    }

    private double[] stripes(int count) {
        double[] stripes = new double[count];
        for (int i = 0; i < count; i++) {
            stripes[i] = 0.12 * camera.netdK() * random.nextGaussian();
        }
        return stripes;
    }
}
