package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.prove.Proof.State;
import ohmoscope.core.prove.Walk.Step;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProofTest {
    private final Board board = Fixtures.board();

    private Proof proof(Observation... observations) {
        return Proof.of(board, "VSYS", List.of(observations));
    }

    @Test
    void nothingChangedYet() {
        assertThat(proof(Fixtures.diode(1, "VSYS", 0.003)).state()).isEqualTo(State.NOTHING_CHANGED);
    }

    @Test
    void theSameReadingIsAskedFor() {
        Proof proof = proof(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3"));
        assertThat(proof.state()).isEqualTo(State.READING_WANTED);
        assertThat(proof.before()).contains(Fixtures.diode(1, "VSYS", 0.003));
        assertThat(proof(Fixtures.removed(2, "C3")).state()).isEqualTo(State.NO_READING_BEFORE);
    }

    @ParameterizedTest
    @CsvSource({"0.43,CLEARED", "0.37,CLEARED", "0.003,STILL_THERE", "0.06,WARM_OR_PARTIAL", "0.2,WARM_OR_PARTIAL"})
    void judgesTheReadingAfter(double volts, State state) {
        Proof proof =
                proof(Fixtures.diode(1, "VSYS", 0.003), Fixtures.removed(2, "C3"), Fixtures.diode(3, "VSYS", volts));
        assertThat(proof.state()).isEqualTo(state);
    }

    @Test
    void overRangeIsNotInRange() {
        Proof proof = proof(
                Fixtures.diode(1, "VSYS", 0.003),
                Fixtures.removed(2, "C3"),
                Fixtures.read(3, ReadMode.DIODE, "VSYS", "C1", OptionalDouble.empty()));
        assertThat(proof.state()).isEqualTo(State.ABOVE_RANGE);
    }

    @Test
    void anotherPointOrModeProvesNothing() {
        assertThat(proof(
                                Fixtures.diode(1, "VSYS", 0.003),
                                Fixtures.removed(2, "C3"),
                                Fixtures.read(3, ReadMode.DIODE, "VSYS", "C2", OptionalDouble.of(0.43)),
                                Fixtures.read(4, ReadMode.OHMS, "VSYS", "C1", OptionalDouble.of(400)))
                        .state())
                .isEqualTo(State.READING_WANTED);
    }

    @Test
    void aSecondChangeWantsItsOwnReading() {
        assertThat(proof(
                                Fixtures.diode(1, "VSYS", 0.003),
                                Fixtures.removed(2, "C3"),
                                Fixtures.diode(3, "VSYS", 0.004),
                                Fixtures.removed(4, "C4"))
                        .state())
                .isEqualTo(State.READING_WANTED);
    }

    private static Observation change(int seq, ChangeAction action, String target) {
        return new Change(seq, action, target, action.usuallyHot());
    }

    @Test
    void aPadOfThePartThatIsOffIsAPointOfItsNet() {
        Proof proof = proof(
                Fixtures.read(1, ReadMode.DIODE, "VSYS", "C3", OptionalDouble.of(0.004)),
                Fixtures.removed(2, "C3"),
                new Read(
                        3,
                        ReadMode.DIODE,
                        Optional.empty(),
                        Optional.of("C3"),
                        Optional.empty(),
                        Optional.empty(),
                        Optional.empty(),
                        OptionalDouble.of(0.42),
                        Optional.empty(),
                        Optional.empty()));
        assertThat(proof.state()).isEqualTo(State.CLEARED);
        assertThat(proof.culprit().orElseThrow().target()).isEqualTo("C3");
    }

    @Test
    void pluggingInAndTryingUndoNoProof() {
        Proof proof = proof(
                Fixtures.diode(1, "VSYS", 0.004),
                change(2, ChangeAction.DISCONNECTED, "battery"),
                Fixtures.removed(3, "C3"),
                Fixtures.diode(4, "VSYS", 0.42),
                change(5, ChangeAction.CONNECTED, "battery"),
                change(6, ChangeAction.CONNECTED, "U1"),
                change(7, ChangeAction.DISCONNECTED, "U1"),
                new Run(8, RunFinding.BOOTS, Optional.empty()));
        assertThat(proof.state()).isEqualTo(State.CLEARED);
        assertThat(proof.repair().orElseThrow().target()).isEqualTo("C3");
        assertThat(proof.runs()).isTrue();
        assertThat(proof.illOtherwise()).isFalse();
    }

    @Test
    void aNewPartWantsItsReadingAndTheCulpritStays() {
        List<Observation> done = new ArrayList<>(
                List.of(Fixtures.diode(1, "VSYS", 0.004), Fixtures.removed(2, "C3"), Fixtures.diode(3, "VSYS", 0.42)));
        done.add(change(4, ChangeAction.FITTED, "C3"));
        Proof fitted = Proof.of(board, "VSYS", done);
        assertThat(fitted.state()).isEqualTo(State.READING_WANTED);
        assertThat(fitted.culprit().orElseThrow().seq()).isEqualTo(2);
        done.add(Fixtures.diode(5, "VSYS", 0.41));
        Proof read = Proof.of(board, "VSYS", done);
        assertThat(read.state()).isEqualTo(State.CLEARED);
        assertThat(read.before()).as("the short, not the reading between").contains((Read) done.get(0));
        done.set(4, Fixtures.diode(5, "VSYS", 0.002));
        assertThat(Proof.of(board, "VSYS", done).state())
                .as("the new one is shorted too")
                .isEqualTo(State.STILL_THERE);
    }

    @Test
    void whatWasOffWhileTheShortStayedIsInnocent() {
        Proof proof = proof(
                Fixtures.diode(1, "VSYS", 0.003),
                Fixtures.removed(2, "C3"),
                Fixtures.diode(3, "VSYS", 0.004),
                Fixtures.removed(4, "C4"),
                Fixtures.diode(5, "VSYS", 0.41));
        assertThat(proof.innocent()).containsExactly("C3");
        assertThat(proof.culprit().orElseThrow().target()).isEqualTo("C4");
        assertThat(proof.before().orElseThrow().seq()).isEqualTo(3);
    }

    @Test
    void aRailThatWasNeverWrongProvesNothing() {
        assertThat(proof(
                                Fixtures.diode(1, "VSYS", 0.43),
                                change(2, ChangeAction.FITTED, "C3"),
                                Fixtures.diode(3, "VSYS", 0.42))
                        .state())
                .isEqualTo(State.NO_READING_BEFORE);
    }

    @Test
    void theRailThatWasFoundShortedIsProven() {
        Proof proof = Proof.of(
                board,
                "VSYS",
                List.of(
                        Fixtures.read(1, ReadMode.DIODE, "VIN", "U1", OptionalDouble.of(0.002)),
                        Fixtures.removed(2, "U1"),
                        Fixtures.read(3, ReadMode.DIODE, "VIN", "U1", OptionalDouble.of(0.5))));
        assertThat(proof.rail()).isEqualTo("VIN");
        assertThat(proof.state()).isEqualTo(State.CLEARED);
    }

    @Test
    void aBeepIsNoNumberOfOhms() {
        assertThat(proof(
                                Fixtures.read(1, ReadMode.CONTINUITY, "VSYS", "C1", OptionalDouble.of(1)),
                                Fixtures.removed(2, "C3"),
                                Fixtures.read(3, ReadMode.CONTINUITY, "VSYS", "C1", OptionalDouble.of(0)))
                        .state())
                .isEqualTo(State.CLEARED);
    }

    @Test
    void framesBelongToTheCircuitTheyWereTakenOn() {
        List<Observation> entries = List.of(
                Fixtures.diode(1, "VSYS", 0.003),
                new Inject(
                        2,
                        "VSYS",
                        Optional.empty(),
                        OptionalDouble.of(1),
                        OptionalDouble.of(2),
                        OptionalDouble.of(0.03),
                        OptionalDouble.of(2),
                        OptionalDouble.empty(),
                        Optional.empty(),
                        Optional.empty()),
                change(3, ChangeAction.CONNECTED, "battery"),
                Fixtures.removed(4, "C3"),
                Fixtures.diode(5, "VSYS", 0.42));
        assertThat(FrameCircuit.of(board, "VSYS", entries).observations()).isEqualTo(entries.subList(0, 3));
        assertThat(FrameCircuit.of(board, "VSYS", entries, 1).observations()).isEqualTo(entries.subList(0, 3));
        List<Observation> hours = List.of(entries.get(0), entries.get(3), Fixtures.diode(5, "VSYS", 0.004));
        FrameCircuit earlier = FrameCircuit.of(board, "VSYS", hours, 1);
        assertThat(earlier.observations()).hasSize(1);
        assertThat(earlier.innocent()).containsExactly("C3");
        assertThat(FrameCircuit.of(board, "VSYS", hours, 3).observations())
                .as("taken after the part was off")
                .hasSize(3);
        List<Observation> freed = List.of(entries.get(0), entries.get(3), entries.get(4));
        assertThat(FrameCircuit.of(board, "VSYS", freed).observations())
                .as("without an injection: before what freed the rail")
                .hasSize(1);
    }

    @Test
    void theWalkFollowsTheEvidence() {
        List<Observation> evidence = new ArrayList<>();
        assertThat(walk(evidence, 0, false).now()).isEqualTo(Step.FIRST_POWER);
        evidence.add(new Look(1, "U1", LookFinding.CLEAN));
        evidence.add(Fixtures.diode(2, "VSYS", 0.003));
        assertThat(walk(evidence, 0, false).now()).isEqualTo(Step.ISOLATE);
        Walk imaged = walk(evidence, 1, true);
        assertThat(imaged.now()).isEqualTo(Step.NAME_IT);
        assertThat(imaged.stops().get(1).state()).isEqualTo(Walk.State.SKIPPED);
        assertThat(imaged.stops().get(3).count()).isEqualTo(1);
        evidence.add(Fixtures.removed(3, "C3"));
        assertThat(walk(evidence, 1, true).now()).isEqualTo(Step.PROVE);
        evidence.add(Fixtures.diode(4, "VSYS", 0.42));
        assertThat(walk(evidence, 1, true).now()).isEqualTo(Step.HAND_BACK);
    }

    private Walk walk(List<Observation> evidence, int captures, boolean named) {
        return Walk.of(evidence, captures > 0, captures, named, Proof.of(board, "VSYS", evidence));
    }

    private LocateResult result(Verdict verdict, Map<Warning, Double> warnings, String... refs) {
        return result(verdict, verdict == Verdict.NONE ? 0.95 : 0.01, 0.01, Optional.empty(), warnings, refs);
    }

    private LocateResult result(
            Verdict verdict,
            double none,
            double elsewhere,
            Optional<SourceEstimate> source,
            Map<Warning, Double> warnings,
            String... refs) {
        List<Suspect> suspects = new ArrayList<>();
        for (String ref : refs) {
            Part part = board.part(ref).orElseThrow();
            suspects.add(new Suspect(part, 0.9 / (suspects.size() + 1), 0.2));
        }
        return new LocateResult(
                verdict,
                suspects,
                none,
                elsewhere,
                source,
                Optional.empty(),
                warnings,
                List.of(),
                SlabParameters.expected(board),
                List.of(),
                Optional.empty(),
                OptionalDouble.empty());
    }

    private NextStep next(LocateResult result) {
        return NextStep.of(board, Optional.of(result), proof());
    }

    @Test
    void theNextStepFollowsTheVerdict() {
        assertThat(NextStep.of(board, Optional.empty(), proof())).isInstanceOf(NextStep.Image.class);
        NextStep lift = next(result(Verdict.PART, Map.of(), "C3", "C2"));
        assertThat(lift).isInstanceOfSatisfying(NextStep.Lift.class, l -> {
            assertThat(l.part().ref()).isEqualTo("C3");
            assertThat(l.neighbour().orElseThrow().part().ref()).isIn("C2", "C4");
            assertThat(l.neighbour().orElseThrow().gapMm())
                    .isCloseTo(2.4, org.assertj.core.api.Assertions.within(1e-9));
        });
        assertThat(next(result(Verdict.AREA, Map.of(), "C3", "C2"))).isInstanceOf(NextStep.GoCloser.class);
        assertThat(next(result(Verdict.NONE, Map.of()))).isInstanceOf(NextStep.MorePower.class);
    }

    @Test
    void framesThatCannotTellAskForOthers() {
        assertThat(next(result(Verdict.NONE, 0.08, 0.03, Optional.empty(), Map.of(), "C3")))
                .isInstanceOf(NextStep.Image.class);
    }

    @Test
    void heatOffTheRailIsLookedInto() {
        SourceEstimate bare = new SourceEstimate(8, 5, Side.TOP, 0.3, 0.3, 0.3, 0, 0.1, OptionalDouble.empty());
        assertThat(next(result(Verdict.AREA, 0, 0.9, Optional.of(bare), Map.of(), "C3")))
                .isInstanceOfSatisfying(
                        NextStep.LookElsewhere.class, l -> assertThat(l.there()).isEmpty());
        SourceEstimate onResistor =
                new SourceEstimate(30.4, 6, Side.TOP, 0.3, 0.3, 0.3, 0, 0.1, OptionalDouble.empty());
        assertThat(next(result(Verdict.AREA, 0, 0.9, Optional.of(onResistor), Map.of(), "C3")))
                .isInstanceOfSatisfying(
                        NextStep.LookElsewhere.class,
                        l -> assertThat(l.there().orElseThrow().ref()).isEqualTo("R1"));
        assertThat(next(result(Verdict.AREA, 0, 0.2, Optional.of(onResistor), Map.of(), "C3")))
                .isInstanceOf(NextStep.GoCloser.class);
    }

    @Test
    void warningsComeFirst() {
        Map<Warning, Double> ground = new EnumMap<>(Map.of(Warning.INJECTED_INTO_GROUND, 0.05));
        assertThat(next(result(Verdict.NONE, ground))).isInstanceOf(NextStep.CheckLeads.class);
        Map<Warning, Double> other = new EnumMap<>(Map.of(Warning.OTHER_SIDE, 0.9));
        assertThat(next(result(Verdict.AREA, other, "C3"))).isInstanceOf(NextStep.TurnOver.class);
    }

    @Test
    void afterAChangeTheProofLeads() {
        Observation before = Fixtures.diode(1, "VSYS", 0.003);
        Observation lifted = Fixtures.removed(2, "C3");
        Optional<LocateResult> located = Optional.of(result(Verdict.PART, Map.of(), "C3"));
        assertThat(NextStep.of(board, located, proof(before, lifted))).isInstanceOf(NextStep.ReadAgain.class);
        assertThat(NextStep.of(board, located, proof(before, lifted, Fixtures.diode(3, "VSYS", 0.003))))
                .isInstanceOf(NextStep.StillThere.class);
        assertThat(NextStep.of(board, located, proof(before, lifted, Fixtures.diode(3, "VSYS", 0.08))))
                .isInstanceOf(NextStep.LetCool.class);
        assertThat(NextStep.of(board, located, proof(before, lifted, Fixtures.diode(3, "VSYS", 0.42))))
                .isInstanceOf(NextStep.HandBack.class);
    }
}
