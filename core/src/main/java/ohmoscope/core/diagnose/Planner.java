package ohmoscope.core.diagnose;

import java.util.List;
import java.util.stream.Stream;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Run;

/**
 * What to do next: rules in order of urgency. First what safety and plain errors ask for, then what the likeliest fault
 * asks for, then the reading that tells most for its minutes. Nothing is taken off on probability alone while a look or a
 * reading can still decide.
 */
final class Planner extends PlanRules {
    private static final int MOST_STEPS = 8;

    private final Plan plan;
    private final CautionRules cautions;
    private final RepairRules repair;
    private final FitUpRules fitUp;
    private final HeldRailRules heldRail;
    private final LeadingRules leading;
    private final SurveyRules survey;
    private final UsualRules usual;

    Planner(Situation situation) {
        super(situation);
        plan = situation.plan();
        cautions = new CautionRules(situation);
        repair = new RepairRules(situation);
        fitUp = new FitUpRules(situation);
        heldRail = new HeldRailRules(situation);
        leading = new LeadingRules(situation);
        survey = new SurveyRules(situation);
        usual = new UsualRules(situation);
    }

    List<Step> plan() {
        cautions.hot();
        cautions.readWarm();
        cautions.touchingPins();
        cautions.wet();
        cautions.battery();
        cautions.readLive();
        cautions.failedInjection();
        cautions.overNominal();
        cautions.unsteady();
        fitUp.seenLoose();
        fitUp.notPluggedBack();
        fitUp.missingFunction();
        repair.cleared();
        repair.relieved();
        repair.mending();
        repair.newPart();
        repair.notProven();
        fitUp.pair();
        repair.remains();
        heldRail.burntOpen();
        heldRail.parted();
        heldRail.otherSide();
        leading.behindFuse();
        leading.measuredOpen();
        leading.offValue();
        heldRail.hurtPort();
        heldRail.shorted();
        if (held().isEmpty()) {
            survey.oneWay();
            leading.leading(ACT_ON);
            fitUp.plugIn();
            repair.settled();
            survey.onceMore();
            leading.wayToTheCell();
            survey.partOfItsVolts();
            survey.stopsAtAResistor();
            survey.look();
            usual.unpowered();
            survey.drawnInVain();
            survey.begin();
            usual.underPower();
            leading.negotiationLines();
            survey.walk();
            leading.negotiation();
            leading.leading(WORTH_A_LOOK);
        }
        repair.settled();
        leading.linesOfAnIdlePort();
        survey.readings();
        if (plan.steps().stream().allMatch(this::forbidden)) {
            // It stands at its voltage, and the meter saw a load that no good board has.
            List<String> doubted = book.lowYetPresent();
            if (!doubted.isEmpty()) {
                heldRail.shorted(doubted);
            }
        }
        survey.reference();
        if (plan.steps().isEmpty() && findings.stream().anyMatch(Finding::wrong)
                || plan.steps().isEmpty() && !ran()) {
            survey.lines();
            survey.looks();
        }
        // Halves that are soldered together not everybody can part.
        if (plan.steps().stream().allMatch(s -> forbidden(s) || s.action() == Action.SEPARATE)) {
            heldRail.lastResort();
        }
        if (plan.steps().isEmpty() && timeline.all(Run.class).findAny().isEmpty()) {
            add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        }
        return cellOutFirst(plan.steps().stream().filter(s -> !forbidden(s)).toList()).stream()
                .limit(MOST_STEPS)
                .toList();
    }

    /** With the cell in, it comes out before a meter that feeds its own current, a supply or heat goes on the board. */
    private List<Step> cellOutFirst(List<Step> steps) {
        Step out = Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.BATTERY_IS_IN);
        boolean first = steps.stream().limit(1).anyMatch(this::worksOnTheBoard);
        if (!timeline.now().battery() || !first) {
            return steps;
        }
        return Stream.concat(Stream.of(out), steps.stream().filter(s -> !s.same(out)))
                .toList();
    }

    private boolean worksOnTheBoard(Step step) {
        return switch (step.action()) {
            case INJECT, REMOVE, REPLACE, FIT, SEPARATE -> true;
            case READ -> step.probe().flatMap(Step.Probe::power).isEmpty();
            default -> false;
        };
    }

    private boolean forbidden(Step step) {
        boolean parted = timeline.now().takenAway().isPresent();
        boolean proves = step.action() == Action.PROVE
                && (parted
                        || !held().isEmpty()
                        || !book.burning().isEmpty()
                        || !book.burntOpen().isEmpty()
                        || stillIll());
        boolean powers = step.action() == Action.POWER;
        boolean injects = step.action() == Action.INJECT;
        boolean readsUnderPower = step.action() == Action.READ
                && step.probe().flatMap(Step.Probe::power).isPresent();
        return proves
                || (powers || readsUnderPower) && (parted || stopped(Stop.Code.DO_NOT_POWER))
                || injects && touching().isPresent();
    }
}
