package ohmoscope.core.locate.posterior;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.Grids;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.fit.ModelRefiner;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Judgement.FreeSource;
import ohmoscope.core.locate.posterior.Judgement.Spotted;
import org.junit.jupiter.api.Test;

/** From log-likelihoods written down by hand to probabilities and a verdict. The camera looked at the top. */
class JudgementTest {
    private static final double[][] SHARP = {{0.01, 0}, {0, 0.01}};

    private final Board board = boardWithOneBelow();
    private final SlabParameters slab = SlabParameters.expected(board);
    private final HeatModel model = HeatModel.of(slab);
    private final List<Candidate> candidates =
            Candidates.on(board, Rail.between(board, "VSYS", "VSYS"), List.of(), Map.of());
    private final CaptureModel capture = Grids.blank(board, Side.TOP);

    /** C9 stands under C4, C10 beside it. */
    private static Board boardWithOneBelow() {
        Board plain = Fixtures.board();
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.add(Part.of(
                "C9",
                PartKind.CAPACITOR,
                Side.BOTTOM,
                24,
                14,
                1.6,
                0.8,
                List.of(new Pin("1", "VSYS", 23.4, 14), new Pin("2", "GND", 24.6, 14))));
        parts.add(Part.of(
                "C10",
                PartKind.CAPACITOR,
                Side.BOTTOM,
                26,
                14,
                1.6,
                0.8,
                List.of(new Pin("1", "VSYS", 25.4, 14), new Pin("2", "GND", 26.6, 14))));
        return Fixtures.with(plain, plain.nets(), parts);
    }

    private Judgement judgement(Optional<FaultResistance> resistance) {
        return judgement(resistance, List.of(Optional.of(capture)));
    }

    /** How well the pictures are laid in a test that says so, one sigma. */
    private OptionalDouble laidMm = OptionalDouble.empty();

    private Registration laid(Registration usual) {
        return new Registration(
                usual.homography(),
                usual.residualsMm(),
                usual.leftOut(),
                usual.tilted(),
                usual.sigmaPx(),
                laidMm.orElse(usual.sigmaMm()));
    }

    /** @param models one a capture; empty where it tells nothing */
    private Judgement judgement(Optional<FaultResistance> resistance, List<Optional<CaptureModel>> models) {
        List<Prepared> prepared = models.stream()
                .map(Grids::prepared)
                .map(p -> new Prepared(p.scan(), laid(p.registration()), p.wireK(), p.model()))
                .toList();
        LocateInput.Capture empty = new LocateInput.Capture(
                Fixtures.capture(92, 72, 1, Fixtures.corners(40, 30, 2.2)), Fixtures.frames(List.of()));
        LocateInput input = new LocateInput(
                board,
                "VSYS",
                Optional.empty(),
                SupplyLog.empty(),
                models.stream().map(m -> empty).toList(),
                List.of());
        return new Judgement(
                LocateSettings.DEFAULT,
                input,
                resistance,
                prepared,
                candidates,
                SecondOpinion.of(List.of(), candidates, List.of()));
    }

    /** Everything at {@code others}, but for what is named. */
    private LocateResult judged(double others, Map<String, Double> named, String freeAt, double free) {
        double[] logLikelihood = candidates.stream()
                .mapToDouble(c -> named.getOrDefault(c.part().ref(), others))
                .toArray();
        return judged(logLikelihood, freeAt, free, Optional.empty(), SHARP, List.of());
    }

    private LocateResult judged(
            double[] logLikelihood,
            String freeAt,
            double free,
            Optional<FaultResistance> resistance,
            double[][] covariance,
            List<Nuisance> nuisances) {
        Spotted[] spotted = new Spotted[candidates.size()];
        double[] placeNats = new double[spotted.length];
        for (int i = 0; i < spotted.length; i++) {
            spotted[i] = new Spotted(candidates.get(i).spots().get(0), logLikelihood[i]);
            placeNats[i] = asideNats.getOrDefault(candidates.get(i).part().ref(), 0.0);
        }
        Map<Side, ModelRefiner.Refined> models = new EnumMap<>(Side.class);
        Arrays.stream(Side.values()).forEach(side -> models.put(side, ModelRefiner.Refined.expected(slab)));
        SidedFit fit = new SidedFit(List.of(capture), nuisances, WattsPrior.normal(0.05, 0.05), models, Side.TOP);
        HeatSource middle = KnownHeat.middle(new Candidate(board.part(freeAt).orElseThrow(), 1));
        HeatSource at = Double.isNaN(freeXMm)
                ? middle
                : new HeatSource(freeXMm, freeYMm, middle.side(), middle.footprintMm2(), middle.lagS());
        return judgement(resistance)
                .of(new Judgement.Found(
                        fit,
                        fit,
                        model,
                        nuisances,
                        spotted,
                        logLikelihood,
                        placeNats,
                        new FreeSource(at, free, covariance)));
    }

    /** Where the heat starts in a test that says so; else at the middle of the part that it names. */
    private double freeXMm = Double.NaN;

    private double freeYMm = Double.NaN;

    /** What it costs a part to lie where it explains the frames best, in a test that says so. */
    private Map<String, Double> asideNats = Map.of();

    @Test
    void whatExplainsMuchMoreIsCalled() {
        LocateResult result = judged(10, Map.of("C4", 80.0), "C4", 80);
        assertThat(result.verdict()).isEqualTo(Verdict.PART);
        assertThat(result.suspects().get(0).part().ref()).isEqualTo("C4");
        assertThat(result.probability("C4")).isGreaterThan(0.9);
        assertThat(result.source().orElseThrow().xMm()).isEqualTo(24);
        assertThat(result.warnings()).doesNotContainKey(Warning.OTHER_SIDE);
    }

    @Test
    void nothingIsCalledInAPictureThatHardlyLiesOnTheBoard() {
        laidMm = OptionalDouble.of(3.8);
        LocateResult result = judged(10, Map.of("C4", 80.0), "C4", 80);
        assertThat(result.verdict()).isEqualTo(Verdict.AREA);
        assertThat(result.probability("C4")).isGreaterThan(0.9);
        assertThat(result.warnings()).containsKey(Warning.REGISTRATION_POOR);
    }

    @Test
    void twoThatExplainAlikeShareAndNoneIsCalled() {
        LocateResult result = judged(10, Map.of("C3", 79.5, "C4", 80.0), "C4", 80);
        assertThat(result.verdict()).isEqualTo(Verdict.AREA);
        assertThat(result.probability("C3")).isBetween(0.25, 0.45);
        assertThat(result.probability("C4")).isBetween(0.5, 0.7);
    }

    @Test
    void whatExplainsNothingIsNone() {
        LocateResult result = judged(-9, Map.of("C4", -4.0), "C4", -3.5);
        assertThat(result.verdict()).isEqualTo(Verdict.NONE);
        assertThat(result.noneProbability()).isGreaterThan(0.5);
        assertThat(result.source()).isEmpty();
        assertThat(result.warnings()).containsKey(Warning.TOO_LITTLE_POWER);
    }

    @Test
    void framesThatTellNothingLeaveEverythingAsLikelyAsBefore() {
        LocateResult result = judged(0, Map.of(), "C4", 0);
        assertThat(result.noneProbability()).isCloseTo(LocateSettings.DEFAULT.nonePrior(), within(0.02));
        assertThat(result.verdict()).isEqualTo(Verdict.AREA);
    }

    @Test
    void ohmsThatCopperExplainsSpeakForLeadsOnGround() {
        FaultResistance copper = new FaultResistance(0.001, 0.005, 0.05, 2, 0.1);
        FaultResistance soft = new FaultResistance(0.3, 0.005, 0.35, 2, 0.7);
        double[] nothing = new double[candidates.size()];
        double onCopper =
                judged(nothing, "C4", 0, Optional.of(copper), SHARP, List.of()).noneProbability();
        double onSoft =
                judged(nothing, "C4", 0, Optional.of(soft), SHARP, List.of()).noneProbability();
        assertThat(onCopper).isGreaterThan(0.15);
        assertThat(onSoft).isLessThan(LocateSettings.DEFAULT.nonePrior());
    }

    @Test
    void noneStandsOutWhereItIsLikelierThanAnyPart() {
        int called = 0;
        int left = 0;
        for (double others = -3; others <= 0; others += 0.1) {
            LocateResult result = judged(others, Map.of("C4", others + 0.7), "C4", others);
            double none = result.noneProbability();
            double times = none / result.suspects().get(0).probability();
            if (none >= 0.1 && none < 0.5 && Math.abs(times - 1) > 0.01) {
                assertThat(result.verdict()).isEqualTo(times > 1 ? Verdict.NONE : Verdict.AREA);
                called += times > 1 && times < 1.5 ? 1 : 0;
                left += times > 0.7 && times < 1 ? 1 : 0;
            }
        }
        assertThat(called).isPositive();
        assertThat(left).isPositive();
    }

    @Test
    void heatWithoutAPlaceIsADriftOfThePicture() {
        LocateResult placed = judged(0, Map.of(), "R1", 60);
        assertThat(placed.elsewhereProbability()).isGreaterThan(0.9);
        double[][] anywhere = {{300, 0}, {0, 300}};
        LocateResult drift = judged(new double[candidates.size()], "R1", 60, Optional.empty(), anywhere, List.of());
        assertThat(drift.noneProbability()).isGreaterThan(0.9);
        assertThat(drift.verdict()).isEqualTo(Verdict.NONE);
    }

    @Test
    void heatBesideEveryBodyIsNoMappedPartsThoughOneExplainsIt() {
        double[] c4 = candidates.stream()
                .mapToDouble(c -> c.part().ref().equals("C4") ? 80 : 10)
                .toArray();
        Part part = board.part("C4").orElseThrow();
        LocateResult on = judgedAt(c4, part.xMm(), part.yMm());
        LocateResult beside = judgedAt(c4, part.xMm() + 0.3, part.yMm() + 2.6);
        assertThat(on.probability("C4")).isGreaterThan(0.9);
        assertThat(beside.elsewhereProbability()).isGreaterThan(0.9);
        assertThat(beside.verdict()).isEqualTo(Verdict.AREA);
        assertThat(beside.source().orElseThrow().yMm()).isEqualTo(part.yMm() + 2.6);
    }

    private LocateResult judgedAt(double[] logLikelihood, double xMm, double yMm) {
        freeXMm = xMm;
        freeYMm = yMm;
        return judged(logLikelihood, "C4", 80, Optional.empty(), SHARP, List.of());
    }

    @Test
    void heatAtAProbeThatIsNoPartsIsTheProbes() {
        double[] nothing = new double[candidates.size()];
        Part r1 = board.part("R1").orElseThrow();
        Nuisance away = contact(r1.xMm() + 9, r1.yMm());
        Nuisance here = contact(r1.xMm() + 0.3, r1.yMm());
        LocateResult far = judged(nothing, "R1", 60, Optional.empty(), SHARP, List.of(away));
        LocateResult near = judged(nothing, "R1", 60, Optional.empty(), SHARP, List.of(here));
        assertThat(far.elsewhereProbability()).isGreaterThan(0.9);
        assertThat(far.verdict()).isEqualTo(Verdict.AREA);
        assertThat(near.noneProbability()).isGreaterThan(0.9);
        assertThat(near.verdict()).isEqualTo(Verdict.NONE);
    }

    private static Nuisance contact(double xMm, double yMm) {
        HeatSource tip = new HeatSource(xMm, yMm, Side.TOP, 0.25, 0.1);
        return new Nuisance(Nuisance.Kind.CONTACT, "lead", List.of(tip), 0, 0.1);
    }

    @Test
    void neighboursSeenThroughTheBoardAreToldApartLess() {
        double open = judged(0, Map.of("C3", 36.0, "C4", 40.0), "C4", 40).probability("C3");
        double through = judged(0, Map.of("C9", 40.0, "C10", 36.0), "C9", 40).probability("C10");
        assertThat(through).isGreaterThan(1.5 * open);
    }

    @Test
    void aPlaceSeenThroughTheBoardIsLessCertain() {
        SourceEstimate open = judged(10, Map.of("C4", 80.0), "C4", 80).source().orElseThrow();
        SourceEstimate through =
                judged(10, Map.of("C9", 80.0), "C9", 80).source().orElseThrow();
        assertThat(through.boundMm()).isEqualTo(open.boundMm());
        double more = Math.sqrt(Math.pow(through.sigmaMm(), 2) - Math.pow(open.sigmaMm(), 2));
        assertThat(more).isCloseTo(Visibility.THROUGH_THE_BOARD.placeMm(), within(1e-9));
    }

    @Test
    void noneThatStandsOutIsCalledThoughItIsNotLikelyByItself() {
        LocateResult result = judged(-1.8, Map.of(), "C4", -1.8);
        assertThat(result.noneProbability()).isLessThan(0.5);
        assertThat(result.verdict()).isEqualTo(Verdict.NONE);
        assertThat(result.blind()).isFalse();
    }

    @Test
    void eachCaptureHasItsOwnClock() {
        HeatModel clocks = new HeatModel(slab, 0.02, 1, 0.8, List.of(0.03));
        LocateResult result = judgement(
                        Optional.empty(), List.of(Optional.of(capture), Optional.empty(), Optional.of(capture)))
                .nothing(clocks);
        assertThat(result.captures())
                .extracting(LocateResult.CaptureFinding::clockOffsetS)
                .containsExactly(0.02, 0.0, 0.05);
    }

    @Test
    void theClearerTheHeatTheLessADifferenceIsBelieved() {
        double faint = judged(0, Map.of("C3", 36.0, "C4", 40.0), "C4", 40).probability("C3");
        double clear = judged(0, Map.of("C3", 1996.0, "C4", 2000.0), "C4", 2000).probability("C3");
        assertThat(faint).isLessThan(0.06);
        assertThat(clear).isGreaterThan(0.25);
    }

    /** How a picture is laid is no matter of the heat model: it counts whole where a neighbour explains hot heat a little better. */
    @Test
    void aPartThatLiesBesideTheHeatPaysForItHoweverClearTheHeatIs() {
        double beside =
                judged(0, Map.of("C3", 8025.0, "C4", 8000.0), "C4", 8000).probability("C3");
        asideNats = Map.of("C3", 4.0);
        double paid = judged(0, Map.of("C3", 8025.0, "C4", 8000.0), "C4", 8000).probability("C3");
        assertThat(beside).isGreaterThan(0.7);
        assertThat(paid).isLessThan(0.15);
    }

    @Test
    void whatTellsTheSidesApartIsBelievedLeast() {
        double beside = judged(0, Map.of("C3", 390.0, "C4", 400.0), "C4", 400).probability("C3");
        double below = judged(0, Map.of("C9", 390.0, "C4", 400.0), "C4", 400).probability("C9");
        assertThat(beside).isLessThan(0.03);
        assertThat(below).isGreaterThan(3 * beside);
    }

    @Test
    void whatWasSeenOnlyThroughTheBoardIsNotCalled() {
        LocateResult result = judged(10, Map.of("C9", 90.0), "C9", 90);
        assertThat(result.suspects().get(0).part().ref()).isEqualTo("C9");
        assertThat(result.probability("C9")).isGreaterThan(0.8);
        assertThat(result.verdict()).isEqualTo(Verdict.AREA);
        assertThat(result.warnings()).containsKey(Warning.OTHER_SIDE);
    }

    @Test
    void whatNoCandidateExplainsIsSomethingElse() {
        LocateResult result = judged(0, Map.of(), "R1", 600);
        assertThat(result.elsewhereProbability()).isGreaterThan(0.9);
        assertThat(result.verdict()).isEqualTo(Verdict.AREA);
        assertThat(result.source()).isPresent();
    }

    @Test
    void aLargeChipMustBeSurerThanACapacitor() {
        LocateResult capacitor = judged(0, Map.of("C4", 82.0, "C3", 80.0), "C4", 82);
        LocateResult chip = judged(0, Map.of("U1", 81.5, "C4", 80.0), "U1", 81.5);
        assertThat(capacitor.probability("C4")).isBetween(0.76, 0.9);
        assertThat(chip.probability("U1")).isBetween(0.76, 0.9);
        assertThat(capacitor.verdict()).isEqualTo(Verdict.PART);
        assertThat(chip.verdict()).isEqualTo(Verdict.AREA);
    }

    @Test
    void theEllipseHoldsTheRegistrationBesideTheHeatsOwnBound() {
        SourceEstimate source =
                judged(10, Map.of("C4", 80.0), "C4", 80).source().orElseThrow();
        double registration = Registration.fit(Fixtures.corners(40, 30, 2.2)).sigmaMm();
        assertThat(source.boundMm().orElseThrow()).isCloseTo(Math.hypot(0.1, registration), within(1e-9));
        assertThat(source.sigmaMm()).isCloseTo(source.majorMm(), within(1e-9));
        assertThat(source.minorMm()).isCloseTo(source.majorMm(), within(1e-9));
    }
}
