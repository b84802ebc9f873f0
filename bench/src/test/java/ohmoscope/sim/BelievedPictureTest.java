package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.Onset;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.imaging.WarmthMap;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.core.locate.search.PredictedPicture;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;

/** What the engine believes, against what the simulated camera saw; and frames and clicks that are not as they should be. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class BelievedPictureTest {
    private final Board board = DemoBoards.beck();
    private final Part fault = board.partsOn("VBAT")
            .filter(p -> p.packageName().equals("0603") && p.side() == Side.TOP)
            .skip(4)
            .findFirst()
            .orElseThrow();
    private LocateInput input;
    private LocateResult result;

    @BeforeAll
    void hunt() throws IOException {
        BenchSetup setup = new BenchSetup(
                board,
                "T-1",
                "test",
                Instant.parse("2026-01-01T00:00:00Z"),
                Map.of(fault.ref(), 0.08),
                "VBAT",
                "C28",
                "VBAT",
                new BenchSetup.Supply(1, 2.5, 0.05, 5, 1),
                List.of(new BenchSetup.View(Side.TOP, Optional.empty())),
                new BenchSetup.Camera(120, 90, 8, 1.5, 0.06, 0.2, 1, 0.03, 0.2),
                31);
        input = BenchSimulator.run(setup).bundle().locateInput();
        result = new Locator().locate(input, Progress.SILENT);
        assertThat(result.suspects().get(0).part().ref()).isEqualTo(fault.ref());
    }

    private CaptureSpec spec() {
        return input.captures().get(0).spec();
    }

    private OnSpan span() {
        return input.supplyLog().onSpans().get(0);
    }

    @Test
    void thePredictedPictureIsWhatTheCameraSaw() throws IOException {
        List<FittedHeat> heats = result.heats().stream()
                .filter(h -> !h.suspect() || h.what().equals(fault.ref()))
                .toList();
        assertThat(heats).extracting(FittedHeat::what).contains("lead", "return");
        double last = Math.min(span().toS(), spec().timesS().get(spec().frameCount() - 1));
        BoardField predicted = PredictedPicture.of(
                board,
                result.slab(),
                Waveform.resistive(input.supplyLog()),
                result.captures().get(0).clockOffsetS(),
                heats,
                Side.TOP,
                last,
                PredictedPicture.blurMm(spec()));
        WarmthMap seen = WarmthMap.of(
                spec(),
                input.captures().get(0).frames(),
                result.captures().get(0).scan(),
                result.captures().get(0).registration(),
                board.outline(),
                span());
        double xy = 0;
        double xx = 0;
        double yy = 0;
        for (int c = 0; c < predicted.values().length; c++) {
            int column = (int) Math.round((predicted.xMm(c) - seen.xMinMm()) / seen.stepMm());
            int row = (int) Math.round((predicted.yMm(c) - seen.yMinMm()) / seen.stepMm());
            boolean near = Math.hypot(predicted.xMm(c) - fault.xMm(), predicted.yMm(c) - fault.yMm()) < 12;
            if (near && column >= 0 && row >= 0 && column < seen.columns() && row < seen.rows()) {
                float measured = seen.kelvin()[row * seen.columns() + column];
                if (!Float.isNaN(measured) && !Float.isNaN(predicted.values()[c])) {
                    xy += measured * predicted.values()[c];
                    xx += measured * measured;
                    yy += predicted.values()[c] * predicted.values()[c];
                }
            }
        }
        assertThat(xy / Math.sqrt(xx * yy)).isGreaterThan(0.9);
        assertThat(xy / yy).isBetween(0.6, 1.6);
    }

    @Test
    void heatIsFirstWhereItStarts() throws IOException {
        BoardField onset = Onset.of(
                spec(),
                input.captures().get(0).frames(),
                result.captures().get(0).scan(),
                result.captures().get(0).registration().homography(),
                board.outline(),
                span());
        double at = secondsAt(onset, fault.xMm(), fault.yMm());
        double beside = secondsAt(onset, fault.xMm(), fault.yMm() - 5);
        assertThat(at).isLessThan(2.5);
        assertThat(Double.isNaN(beside) || beside > at).isTrue();
    }

    private static double secondsAt(BoardField field, double xMm, double yMm) {
        int column = (int) Math.round((xMm - field.x0Mm()) / field.stepMm());
        int row = (int) Math.round((yMm - field.y0Mm()) / field.stepMm());
        return field.values()[row * field.columns() + column];
    }

    private LocateInput with(CaptureSpec spec, FrameSource frames) {
        return new LocateInput(
                board,
                input.rail(),
                input.injection(),
                input.supplyLog(),
                List.of(new LocateInput.Capture(spec, frames)),
                input.observations());
    }

    @Test
    void contradictingClicksAreMendedByThePicture() throws IOException {
        List<RegistrationPair> pairs = new ArrayList<>(spec().registration());
        for (int i : new int[] {0, 2}) {
            RegistrationPair p = pairs.get(i);
            pairs.set(i, new RegistrationPair(p.xPx() + (i == 0 ? 9 : -8), p.yPx() + 7, p.xMm(), p.yMm()));
        }
        CaptureSpec off = new CaptureSpec(
                spec().id(),
                spec().side(),
                spec().width(),
                spec().height(),
                spec().kelvinPerCount(),
                spec().kelvinAtZero(),
                spec().netdK(),
                spec().emissivity(),
                pairs,
                spec().timesS());
        Registration clicked = Registration.fit(pairs);
        assertThat(clicked.poor()).isTrue();
        LocateResult mended =
                new Locator().locate(with(off, input.captures().get(0).frames()), Progress.SILENT);
        Registration used = mended.captures().get(0).registration();
        Registration right = Registration.fit(spec().registration());
        assertThat(apartPx(used, right))
                .isLessThan(0.5 * apartPx(clicked, right))
                .isLessThan(2);
        assertThat(mended.suspects().get(0).part().ref()).isEqualTo(fault.ref());
        assertThat(mended.warnings()).containsKey(Warning.REGISTRATION_POOR);
    }

    /** How far two maps put the board's parts apart, on the mean. */
    private double apartPx(Registration a, Registration b) {
        return board.parts().stream()
                .mapToDouble(p -> Math.hypot(
                        a.homography().xPx(p.xMm(), p.yMm()) - b.homography().xPx(p.xMm(), p.yMm()),
                        a.homography().yPx(p.xMm(), p.yMm()) - b.homography().yPx(p.xMm(), p.yMm())))
                .average()
                .orElseThrow();
    }

    @Test
    void deadPixelsOnTheHeatDoNotHideIt() throws IOException {
        Registration map = Registration.fit(spec().registration());
        int x = (int) Math.round(map.homography().xPx(fault.xMm(), fault.yMm()));
        int y = (int) Math.round(map.homography().yPx(fault.xMm(), fault.yMm()));
        int w = spec().width();
        int[] stuck = {y * w + x, (y - 2) * w + x + 3, 20 * w + 17, 61 * w + 80};
        FrameSource frames = input.captures().get(0).frames();
        FrameSource broken = () -> {
            FrameSource.Cursor cursor = frames.open();
            return new FrameSource.Cursor() {
                @Override
                public boolean next(char[] counts) throws IOException {
                    boolean more = cursor.next(counts);
                    for (int i : stuck) {
                        counts[i] = 33_000;
                    }
                    return more;
                }

                @Override
                public void close() throws IOException {
                    cursor.close();
                }
            };
        };
        LocateResult found = new Locator().locate(with(spec(), broken), Progress.SILENT);
        FrameScan scan = found.captures().get(0).scan();
        assertThat(scan.dead()).containsExactlyInAnyOrder(stuck[0], stuck[1], stuck[2], stuck[3]);
        assertThat(found.suspects().get(0).part().ref()).isEqualTo(fault.ref());
        assertThat(found.suspects().get(0).probability()).isGreaterThan(0.7);
    }
}
