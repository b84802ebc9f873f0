package ohmoscope.web.name;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.EntryWeight;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.web.Opened;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.analysis.StoredAnalysis.StoredCapture;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import ohmoscope.web.job.OpenJobs;
import org.junit.jupiter.api.Test;

/** What speaks for and against each suspect, from an analysis put together by hand. */
class NameViewTest {
    private final OpenJobs.Open bare = Opened.job("VMAIN d .002");
    private final Board board = bare.job().board();
    private final Part first = capacitor(0);
    private final Part second = capacitor(1);

    private Part capacitor(int skip) {
        return board.partsOn("VMAIN")
                .filter(p -> p.kind() == PartKind.CAPACITOR && p.side() == Side.TOP)
                .skip(skip)
                .findFirst()
                .orElseThrow();
    }

    private OpenJobs.Open imaged(double p, Verdict verdict, Side seen, double xMm, double yMm, Side source) {
        StoredCapture capture = new StoredCapture(
                "top-1",
                seen,
                0.07,
                0,
                0,
                1,
                0,
                List.of(0),
                List.of(0.0),
                List.of(0.0),
                List.of(),
                0.2,
                List.of(),
                -1,
                OptionalDouble.empty(),
                3,
                2,
                List.of());
        StoredAnalysis analysis = new StoredAnalysis(
                verdict,
                List.of(new StoredSuspect(first.ref(), p, 0.1), new StoredSuspect(second.ref(), 0.95 - p, 3)),
                0.01,
                0.01,
                Optional.of(new SourceEstimate(xMm, yMm, source, 0.3, 0.3, 0.3, 0, 0.1, OptionalDouble.empty())),
                Optional.empty(),
                new EnumMap<>(Warning.class),
                List.of(capture),
                SlabParameters.expected(board),
                List.of(new FittedHeat(first.ref(), true, xMm, yMm, source, 0.1, 0.1, 0.1, OptionalDouble.empty())),
                1,
                Optional.empty(),
                OptionalDouble.empty());
        return new OpenJobs.Open(
                bare.job(),
                bare.advice(),
                bare.schools(),
                Optional.of(analysis),
                bare.proof(),
                bare.walk(),
                bare.head(),
                bare.tree(),
                bare.at(),
                RemovalCost.Minutes.USUAL,
                Optional.empty());
    }

    private static NameView view(OpenJobs.Open open) {
        return NameView.of(open, refs -> List.of());
    }

    @Test
    void withoutFramesTheMeterAloneSpeaks() {
        NameView view = NameView.of(bare, refs -> List.of(new EntryWeight(1, Map.of("C1", 3.0))));
        assertThat(view.basis()).startsWith("Nothing has been imaged yet");
        assertThat(view.cases())
                .isNotEmpty()
                .allSatisfy(c -> assertThat(c.drawn()).isFalse());
        assertThat(view.moreHelp()).isEmpty();
        assertThat(bare.job().bundle().supplyLog().orElse(SupplyLog.empty()).onSpans())
                .isEmpty();
    }

    @Test
    void thePartAtTheHeatIsSpokenForAndItsRunnerUpAgainst() {
        NameView view = view(imaged(0.93, Verdict.PART, Side.TOP, first.xMm(), first.yMm(), Side.TOP));
        NameView.Case leading = view.cases().get(0);
        assertThat(leading.ref()).isEqualTo(first.ref());
        assertThat(leading.act()).isTrue();
        assertThat(leading.drawn()).isTrue();
        assertThat(leading.cost()).contains("32 minutes").endsWith("lift it.");
        assertThat(leading.says())
                .first()
                .satisfies(s -> assertThat(s.direction()).isEqualTo("for"));
        NameView.Case other = view.cases().get(1);
        assertThat(other.act()).isFalse();
        assertThat(other.drawn()).isFalse();
        assertThat(other.says()).anySatisfy(s -> assertThat(s.direction()).isEqualTo("against"));
        assertThat(other.cost()).contains("look again first; lift from 75 % on");
    }

    @Test
    void belowItsThresholdAPartIsLookedAtAgain() {
        NameView view = view(imaged(0.6, Verdict.AREA, Side.TOP, first.xMm(), first.yMm(), Side.TOP));
        assertThat(view.cases()).noneMatch(NameView.Case::act);
    }

    @Test
    void aSideThatWasNotSeenIsTurnedOverFirst() {
        NameView view = view(imaged(0.93, Verdict.AREA, Side.BOTTOM, first.xMm(), first.yMm(), Side.BOTTOM));
        assertThat(view.cases().get(0).act()).isFalse();
        assertThat(view.cases().get(0).cost()).contains("turn the board over first");
        assertThat(view.cases().get(0).says())
                .anySatisfy(s -> assertThat(s.sentence()).contains("seems to start on the bottom side"));
    }

    @Test
    void entriesAreToldByHowFarTheyMoveTheOdds() {
        NameView view = NameView.of(
                imaged(0.93, Verdict.PART, Side.TOP, first.xMm(), first.yMm(), Side.TOP),
                refs -> List.of(new EntryWeight(1, Map.of(first.ref(), 4.0, second.ref(), 0.25))));
        assertThat(view.cases().get(0).says())
                .anySatisfy(s ->
                        assertThat(s.sentence()).startsWith("Entry 1, VMAIN").contains("4.0 times as likely"));
        assertThat(view.cases().get(1).says()).anySatisfy(s -> {
            assertThat(s.direction()).isEqualTo("against");
            assertThat(s.by()).isEqualTo("meter");
            assertThat(s.sentence()).contains("4.0 times less likely");
        });
    }

    @Test
    void whereTheFramesShowNothingThatIsSaid() {
        NameView view = view(imaged(0.5, Verdict.NONE, Side.TOP, 1, 1, Side.TOP));
        assertThat(view.basis()).startsWith("The frames show nothing");
    }
}
