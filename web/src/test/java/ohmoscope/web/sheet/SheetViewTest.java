package ohmoscope.web.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.core.prove.Walk;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.analysis.StoredAnalysis.StoredCapture;
import ohmoscope.web.analysis.StoredAnalysis.StoredContour;
import ohmoscope.web.analysis.StoredAnalysis.StoredSuspect;
import ohmoscope.web.job.EvidenceStrips;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.JobRow;
import org.junit.jupiter.api.Test;

/** What the sheet says, from evidence and an analysis put together by hand. */
class SheetViewTest {
    private static final Instant IMPORTED = Instant.parse("2026-02-01T09:00:00Z");

    private static JobFile.Stored job(Observation... observations) {
        return job(Optional.empty(), observations);
    }

    private static JobFile.Stored job(Optional<Injection> injection, Observation... observations) {
        List<EvidenceStore.Entry> entries = new ArrayList<>();
        for (int i = 0; i < observations.length; i++) {
            entries.add(new EvidenceStore.Entry(observations[i], IMPORTED.plusSeconds(60L * i), "bench"));
        }
        Bundle bundle = new Bundle(
                new Bundle.Job("K-7", "No charge", Optional.of(IMPORTED)),
                Fixtures.board(),
                RailInQuestion.stated("VSYS"),
                injection,
                Optional.of(Fixtures.log(1, 3, 4, 0.2, 2)),
                List.of(),
                List.of(observations),
                Map.of());
        return new JobFile.Stored(
                new JobRow(1, "K-7", "No charge", "", 1, 1, Optional.of("VSYS"), IMPORTED, IMPORTED), bundle, entries);
    }

    private static StoredAnalysis analysis(Verdict verdict, double p, Map<Warning, Double> warnings) {
        StoredCapture capture = new StoredCapture(
                "top-1",
                Side.TOP,
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
                OptionalDouble.empty(),
                3.1,
                2.4,
                List.of(
                        new StoredContour(0.5, new double[] {18, 12, 22, 12, 22, 16, 18, 16, 18, 12}),
                        new StoredContour(1.5, new double[] {19, 13, 21, 13, 21, 15, 19, 15, 19, 13})));
        return new StoredAnalysis(
                verdict,
                List.of(
                        new StoredSuspect("C3", p, 0.12),
                        new StoredSuspect("C2", 0.05, 4),
                        new StoredSuspect("C4", 0.001, 4)),
                0.01,
                0.02,
                Optional.of(new SourceEstimate(20.1, 14, Side.TOP, 0.3, 0.4, 0.2, 30, 0.062, OptionalDouble.empty())),
                Optional.of(new FaultResistance(0.031, 0.006, 0.1, 2.2, 0.208)),
                warnings,
                List.of(capture),
                SlabParameters.expected(Fixtures.board()),
                List.of(),
                1.2,
                Optional.empty(),
                OptionalDouble.empty());
    }

    private static SheetView view(JobFile.Stored job, Optional<StoredAnalysis> analysis) {
        boolean named = analysis.map(a -> a.verdict() == Verdict.PART).orElse(false);
        Walk walk = Walk.of(
                job.bundle().observations(),
                true,
                analysis.isPresent() ? 1 : 0,
                named,
                Proof.of(job.board(), "VSYS", job.bundle().observations()));
        Advice advice = new Advisor(job.board())
                .advise(Optional.of("VSYS"), "", job.bundle().observations());
        return SheetView.of(
                new OpenJobs.Open(
                        job,
                        advice,
                        Schools.DEFAULT,
                        analysis,
                        job.proof(),
                        walk,
                        JobHead.of(job, walk),
                        PowerTree.of(new BoardIndex(job.board())),
                        Instant.EPOCH,
                        RemovalCost.Minutes.USUAL,
                        Optional.empty()),
                ZoneOffset.UTC);
    }

    private static Map<Warning, Double> none() {
        return new EnumMap<>(Warning.class);
    }

    private static StoredAnalysis called() {
        return analysis(Verdict.PART, 0.92, with(Warning.CAMERA_DRIFT, 0.3));
    }

    private static Map<Warning, Double> with(Warning warning, double number) {
        Map<Warning, Double> map = none();
        map.put(warning, number);
        return map;
    }

    @Test
    void theNumbersStandUnderTheBoard() {
        SheetView view = view(job(), Optional.of(called()));
        assertThat(view.figures())
                .extracting(f -> f.number() + " " + f.unit())
                .containsExactly("0.208 V", "2.20 A", "31 mΩ", "150 mW");
        assertThat(view.figures().get(2).what()).isEqualTo("the short, 19 mΩ to 43 mΩ");
        assertThat(view.injectionMeaning()).startsWith("A hard short, most likely a capacitor");
        assertThat(view.head().railVolts()).isEqualTo("12 V");
        assertThat(view.head().device()).isEqualTo("Test logger, rev A");
    }

    @Test
    void suspectsAreListedWithWhatIsLeft() {
        SheetView view = view(job(), Optional.of(called()));
        assertThat(view.suspects()).extracting(SheetView.SuspectLine::ref).containsExactly("C3", "C2", "C4");
        assertThat(view.suspects().get(0).percent()).isEqualTo("92");
        assertThat(view.suspects().get(0).words()).isEqualTo("capacitor, top, 0.1 mm from the source");
        assertThat(view.rest())
                .contains("Something off the rail or off the map: 2 %")
                .contains("Nothing at all: 1 %");
        assertThat(view.warnings()).singleElement().satisfies(w -> {
            assertThat(w.code()).isEqualTo("camera-drift");
            assertThat(w.text()).contains("0.30 K");
        });
    }

    @Test
    void thePictureHasFlagsContoursAndTheSource() {
        SheetView view = view(job(), Optional.of(called()));
        BoardPicture top = view.pictures().get(0);
        assertThat(view.firstSide()).isEqualTo(Side.TOP);
        assertThat(top.flags()).extracting(BoardPicture.Flag::ref).containsExactly("C3", "C2");
        assertThat(top.flags().get(0).ring()).isEqualTo(3);
        assertThat(top.flags().get(0).lead()).startsWith("M");
        assertThat(top.contours()).extracting(BoardPicture.Line::label).containsExactly("0.50", "1.5");
        assertThat(top.contours().get(0).weight()).isZero();
        assertThat(top.contours().get(0).labelY()).isEqualTo(18);
        assertThat(top.source()).hasValueSatisfying(e -> {
            assertThat(e.watts()).isEqualTo("62 mW");
            assertThat(e.transform()).isEqualTo("translate(20.10 16.00) rotate(-30)");
        });
        assertThat(top.parts().stream()
                        .filter(s -> s.ref().equals("C3"))
                        .findFirst()
                        .orElseThrow()
                        .tip())
                .endsWith("92 % the fault");
        assertThat(view.pictures().get(1).flags()).isEmpty();
    }

    @Test
    void evidenceReadsDownwardWithItsMarks() {
        SheetView view = view(
                job(
                        Fixtures.diode(1, "VSYS", 0.003),
                        new Observation.Look(2, "C3", Observation.LookFinding.CRACKED),
                        Fixtures.diode(3, "VSYS", 0.41),
                        Fixtures.removed(4, "C3")),
                Optional.empty());
        assertThat(view.evidence()).extracting(EvidenceStrips.Strip::mark).containsExactly("bad", "look", "ok", "done");
        // The first came with the bundle and has no time of its own.
        assertThat(view.evidence())
                .extracting(EvidenceStrips.Strip::time)
                .containsExactly("", "09:01", "09:02", "09:03");
        assertThat(view.figures()).isEmpty();
        assertThat(view.suspects()).isEmpty();
        assertThat(view.rest()).isEmpty();
    }

    @Test
    void nothingFoundIsSaidAndNotRanked() {
        SheetView view = view(job(), Optional.of(withVerdict(Verdict.NONE)));
        assertThat(view.suspects()).isEmpty();
        assertThat(view.rest()).startsWith("Nothing in the frames beyond").contains("From 4.2 mW at the fault");
        assertThat(view.next().sentence()).isEqualTo("Raise the current and look again.");
        assertThat(view.pictures().get(0).flags()).isEmpty();
    }

    @Test
    void framesThatCannotTellAreNotCalledEmpty() {
        SheetView view = view(job(), Optional.of(withVerdict(Verdict.NONE, 0.08)));
        assertThat(view.suspects()).isEmpty();
        assertThat(view.rest()).startsWith("The frames cannot tell").contains("The suspects stand as before.");
        assertThat(view.next().sentence()).doesNotContain("Raise the current");
    }

    private static StoredAnalysis withVerdict(Verdict verdict) {
        return withVerdict(verdict, verdict == Verdict.NONE ? 0.95 : called().noneProbability());
    }

    @Test
    void aLeadMarkedOnAGroundPadIsToldBeforeAnyFrame() {
        Pin ground = Fixtures.board().part("C3").orElseThrow().pins().get(1);
        assertThat(ground.net()).isEqualTo("GND");
        Injection injection = new Injection(
                "VSYS",
                Optional.of(new ProbePlace(ground.xMm(), ground.yMm(), Side.TOP, Optional.of("C3"))),
                Optional.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty());
        assertThat(view(job(Optional.of(injection)), Optional.empty()).warnings())
                .singleElement()
                .satisfies(w -> assertThat(w.text()).contains("ground pad", "VSYS"));
        assertThat(view(job(), Optional.empty()).warnings()).isEmpty();
    }

    private static StoredAnalysis withVerdict(Verdict verdict, double none) {
        return like(verdict, none, Optional.empty(), OptionalDouble.of(0.0042));
    }

    private static StoredAnalysis like(
            Verdict verdict, double none, Optional<StandsOut> standsOut, OptionalDouble seenFromWatts) {
        StoredAnalysis a = called();
        return new StoredAnalysis(
                verdict,
                a.suspects(),
                none,
                a.elsewhereProbability(),
                a.source(),
                a.resistance(),
                none(),
                a.captures(),
                a.slab(),
                List.of(),
                1,
                standsOut,
                seenFromWatts);
    }

    @Test
    void whatStandsOutPlainlyElsewhereIsNotPassedOverInSilence() {
        assertThat(view(job(), Optional.of(standingOut("C3", 30))).warnings()).isEmpty();
        assertThat(view(job(), Optional.of(standingOut("C5", 3))).warnings()).isEmpty();
        assertThat(view(job(), Optional.of(standingOut("C5", 30))).warnings())
                .singleElement()
                .satisfies(w -> assertThat(w.text()).contains("C5", "30 times", "C3"));
    }

    private static StoredAnalysis standingOut(String ref, double times) {
        StoredAnalysis a = called();
        return like(a.verdict(), a.noneProbability(), Optional.of(new StandsOut(ref, times)), a.seenFromWatts());
    }

    @Test
    void anAreaIsNotActedOn() {
        SheetView view = view(job(), Optional.of(withVerdict(Verdict.AREA)));
        assertThat(view.next().act()).isEqualTo("fill");
        assertThat(view.next().sentence()).isEqualTo("Go closer to C3 and C2.");
    }

    @Test
    void theSameReadingIsAskedForAfterALift() {
        SheetView view = view(job(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3")), Optional.of(called()));
        assertThat(view.again()).hasValueSatisfying(again -> {
            assertThat(again.where()).isEqualTo("VSYS at C1");
            assertThat(again.mode()).isEqualTo("diode");
            assertThat(again.unit()).isEqualTo("V");
            assertThat(again.before()).isEqualTo("0.003 V");
        });
        assertThat(view.head().walk())
                .filteredOn(w -> w.state().equals("now"))
                .singleElement()
                .satisfies(w -> assertThat(w.name()).isEqualTo("Prove"));
    }

    @Test
    void completionKnowsRailsTestPointsAndParts() {
        assertThat(view(job(), Optional.empty()).words()).contains("VSYS", "TP1", "C3", "U1", "GND");
    }

    @Test
    void whatIsStoredComesBackAsTheCoreKnowsIt() {
        var result = called().onBoard(Fixtures.board());
        assertThat(result.suspects()).extracting(s -> s.part().ref()).containsExactly("C3", "C2", "C4");
        assertThat(result.warnings()).containsEntry(Warning.CAMERA_DRIFT, 0.3);
        assertThat(called().capture("top-1")).isPresent();
        assertThat(called().captureOf(Side.BOTTOM)).isEmpty();
    }

    @Test
    void withoutFramesTheOtherEvidenceLeads() {
        SheetView view = view(job(Fixtures.diode(1, "VSYS", 0.003)), Optional.empty());
        assertThat(view.next().sentence()).startsWith("Inject into VSYS");
        assertThat(view.next().act()).isEqualTo("fill");
        assertThat(view.next().target()).startsWith("inj VSYS 1");
        assertThat(view.remaining())
                .hasSize(5)
                .allSatisfy(f -> assertThat(f.ref()).isNotEmpty());
        assertThat(view.pictures().get(0).flags()).isNotEmpty();
        assertThat(view.others()).isNotEmpty();
        assertThat(view.evidence().get(0).meaning()).startsWith("Shorted").contains("0.38–0.46 V");
        assertThat(view.evidence().get(0).line()).isEqualTo("C1 VSYS d 0.003");
    }

    @Test
    void aStopStandsBeforeTheStep() {
        SheetView view = view(
                job(new Observation.Look(1, "U1", Observation.LookFinding.CLEAN), Fixtures.diode(2, "VSYS", 0.003)),
                Optional.empty());
        assertThat(view.stops())
                .anySatisfy(s -> assertThat(s.code()).isEqualTo("do-not-power"))
                .allSatisfy(s -> assertThat(s.sentence()).endsWith("."));
    }

    @Test
    void readingsOfOnePointKeepTheirSpread() {
        SheetView view = view(
                job(Fixtures.diode(1, "VSYS", 0.41), Fixtures.diode(2, "VSYS", 0.12), Fixtures.diode(3, "VSYS", 0.40)),
                Optional.empty());
        assertThat(view.evidence().get(0).meaning()).doesNotContain("times");
        assertThat(view.evidence().get(2).meaning()).contains("3 times, 0.120 V to 0.410 V. It changes with the probe");
    }
}
