package ohmoscope.web.analysis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.imaging.BoardField;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.web.analysis.StoredAnalysis.StoredCapture;
import ohmoscope.web.analysis.StoredAnalysis.StoredContour;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Results as they are kept, those of earlier versions among them. */
class StoredAnalysisTest {
    private static final CaptureSpec SPEC = Fixtures.capture(92, 72, 40, Fixtures.corners(40, 30, 2.2));

    private final JsonMapper mapper = JsonMapper.builder().build();

    private static StoredCapture capture(String id, Side side, double hottestK) {
        return new StoredCapture(
                id,
                side,
                0.07,
                0.02,
                0.1,
                1,
                0,
                List.of(0),
                List.of(0.0),
                List.of(0.0),
                List.of(),
                0.2,
                List.of(0.1),
                -1,
                OptionalDouble.of(0.02),
                3.1,
                hottestK,
                List.of(new StoredContour(0.5, new double[] {18, 12, 22, 12, 22, 16})));
    }

    private static FittedHeat heat(String what, boolean suspect, double xMm, double watts) {
        return new FittedHeat(what, suspect, xMm, 14, Side.TOP, 0.1, 0.1, watts, OptionalDouble.of(0.3));
    }

    private static StoredAnalysis analysis() {
        return new StoredAnalysis(
                Verdict.PART,
                List.of(new StoredSuspect("C3", 0.9, 0.1), new StoredSuspect("C5", 0.05, 8)),
                0.01,
                0.01,
                Optional.of(new SourceEstimate(20, 14, Side.TOP, 0.3, 0.3, 0.3, 0, 0.2, OptionalDouble.empty())),
                Optional.empty(),
                new EnumMap<>(Map.of(Warning.CAMERA_DRIFT, 0.4)),
                List.of(
                        capture("top-1", Side.TOP, 2),
                        capture("bottom-2", Side.BOTTOM, 1),
                        capture("top-3", Side.TOP, 3)),
                SlabParameters.expected(Fixtures.board()),
                List.of(heat("C3", true, 20, 0.2), heat("C5", true, 28, 0.3), heat("lead", false, 6, 0.05)),
                1.5,
                Optional.empty(),
                OptionalDouble.empty());
    }

    @Test
    void whatIsKeptComesBack() {
        StoredAnalysis back = mapper.readValue(mapper.writeValueAsString(analysis()), StoredAnalysis.class);
        assertThat(back.heats()).isEqualTo(analysis().heats());
        assertThat(back.captures().get(0).clockOffsetS()).hasValue(0.02);
        assertThat(back.suspects()).isEqualTo(analysis().suspects());
        assertThat(back.warnings()).isEqualTo(analysis().warnings());
    }

    @Test
    void aResultOfAnEarlierVersionIsReadWithoutPictures() {
        ObjectNode old = (ObjectNode) mapper.readTree(mapper.writeValueAsString(analysis()));
        old.remove("heats");
        ((ObjectNode) old.get("captures").get(0)).remove(List.of("clockOffsetS", "turn"));
        StoredAnalysis back = mapper.readValue(mapper.writeValueAsString(old), StoredAnalysis.class);
        assertThat(back.heats()).isEmpty();
        assertThat(back.drawn()).isEmpty();
        assertThat(back.captures().get(0).clockOffsetS()).isEmpty();
        assertThat(back.captures().get(0).turn()).isEmpty();
        assertThat(back.captures().get(0).turnedDegrees()).isZero();
        assertThat(back.suspects()).hasSize(2);
    }

    @Test
    void eachSuspectIsDrawnAloneWithWhatWarmsBesides() {
        StoredAnalysis analysis = analysis();
        assertThat(analysis.drawn()).containsExactly("C3", "C5");
        BoardField third = analysis.predicted(Fixtures.board(), Fixtures.log(1, 9, 10, 0.2, 2), "C3", SPEC, 6);
        BoardField fifth = analysis.predicted(Fixtures.board(), Fixtures.log(1, 9, 10, 0.2, 2), "C5", SPEC, 6);
        assertThat(warmest(third)).isBetween(19.0, 21.0);
        assertThat(warmest(fifth)).isBetween(27.0, 29.0);
        int lead = cell(third, 6, 14);
        assertThat(third.values()[lead]).isGreaterThan(0.3f * third.values()[cell(third, 20, 14)] / 4);
    }

    private static int cell(BoardField field, double xMm, double yMm) {
        int column = (int) Math.round((xMm - field.x0Mm()) / field.stepMm());
        int row = (int) Math.round((yMm - field.y0Mm()) / field.stepMm());
        return row * field.columns() + column;
    }

    private static double warmest(BoardField field) {
        int best = 0;
        for (int c = 0; c < field.values().length; c++) {
            best = field.values()[c] > field.values()[best] || Float.isNaN(field.values()[best]) ? c : best;
        }
        return field.xMm(best);
    }

    @Test
    void oneCaptureAloneAndTheLastOfASide() {
        assertThat(analysis().captureOf(Side.TOP).orElseThrow().id()).isEqualTo("top-3");
        StoredAnalysis only = analysis().only("top-1");
        assertThat(only.captures()).extracting(StoredCapture::id).containsExactly("top-1");
        assertThat(only.captureOf(Side.BOTTOM)).isEmpty();
        assertThat(only.heats()).isEqualTo(analysis().heats());
    }

    @Test
    void theCoreKnowsItsResultAgain() {
        LocateResult result = analysis().onBoard(Fixtures.board());
        assertThat(result.suspects()).extracting(s -> s.part().ref()).containsExactly("C3", "C5");
        assertThat(result.heats()).hasSize(3);
        assertThat(StoredAnalysis.code(Warning.CAMERA_DRIFT)).isEqualTo("camera-drift");
    }
}
