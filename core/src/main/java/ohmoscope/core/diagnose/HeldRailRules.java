package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Storey;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.LeadOhms;
import ohmoscope.core.reading.Says;

/** A rail or line that something holds down: injection, picture, and what they point at. */
final class HeldRailRules extends PlanRules {
    /** Of the suspects, in each half, for parting to be worth it. */
    private static final double SPLIT_SHARE = 0.2;
    /** Of all suspects, those on one core, for its ohms to be asked by a supply. */
    private static final double DOUBTED_SHARE = 0.35;

    /** A capacitor on a shorted rail that shows damage may be lifted sooner: it is cheap, and nothing else shows any. */
    private static final double LEADS_BY_LOOKS = 0.25;
    /**
     * A suspect this likely is looked at before current is set up: half a minute against seven, for the one in four that shows
     * it; one, as one that looks well makes the next likelier. At 0.4 and 0.25 in 80 drawn hunts: 39.7 and 39.3 minutes.
     */
    private static final double LOOK_FIRST = 0.25;
    /** A camera of the bench sees so much, from the side that it is on, watts. */
    private static final double SHOWS_WATTS = 0.05;
    /** After so many pictures without warmth another says no more. */
    private static final int MOST_COLD = 3;
    /** After so many pictures that cannot tell neighbours apart one of them is taken off. */
    private static final int MOST_PICTURES = 3;
    /** One line more costs a minute, a chip that was lifted for nothing an hour. */
    private static final double SURE_OF_LINES = 0.9;
    /** Whose lines they are is known by then, or a picture tells it sooner. */
    private static final int ENOUGH_LINES = 9;

    HeldRailRules(Situation situation) {
        super(situation);
    }

    /** Warmth on a part that cannot make it: it comes through from the other side. */
    void otherSide() {
        Optional<Warm> last = timeline.current(Warm.class).reduce((a, b) -> b);
        // What was shorted once and is not now makes no warmth.
        List<String> shorted = held();
        if (last.isEmpty() || shorted.isEmpty()) {
            return;
        }
        Optional<Warm> warm = last.filter(w -> !w.nothing());
        Optional<Part> seen = warm.flatMap(Warm::ref).flatMap(board::part);
        int fed =
                timeline.current(Inject.class).mapToInt(Observation::seq).max().orElse(0);
        boolean turned = timeline.current(Warm.class).filter(w -> w.seq() > fed).count() > 1;
        if (seen.isPresent() && !turned) {
            boolean able = seen.get().pins().stream()
                    .map(Pin::net)
                    .anyMatch(n -> !board.isGround(n)
                            && shorted.stream().anyMatch(s -> book.joinedTo(s).contains(n)));
            if (!able) {
                add(Step.of(Action.FLIP, Reason.WARMTH_FROM_OTHER_SIDE));
                shorted.stream()
                        .findFirst()
                        .ifPresent(n -> add(Step.of(Action.IMAGE, n, Reason.WARMTH_FROM_OTHER_SIDE)));
            }
        }
        if (timeline.current(Warm.class).filter(Warm::nothing).count() >= MOST_COLD) {
            return;
        }
        boolean broad = !turned && warm.map(w -> w.spreadMm().orElse(0) > 10).orElse(false);
        boolean nothing = last.get().nothing();
        boolean oneSideOnly = timeline.all(Warm.class)
                        .flatMap(w -> w.side().stream())
                        .distinct()
                        .count()
                <= 1;
        boolean bothSeen = timeline.current(Warm.class)
                        .filter(w -> w.nothing() && w.seq() > fed)
                        .count()
                > 1;
        if (broad) {
            add(Step.of(Action.FLIP, Reason.WARMTH_FROM_OTHER_SIDE));
        } else if (nothing && oneSideOnly && !bothSeen) {
            // Too few watts show on neither side.
            if (fedTooLittle()) {
                addLater(Step.of(Action.FLIP, Reason.NOTHING_WARMED));
            } else {
                add(Step.of(Action.FLIP, Reason.NOTHING_WARMED));
            }
        }
    }

    /** A hard short makes little heat of a small current, and there is more to give. */
    private boolean fedTooLittle() {
        return timeline.current(Inject.class)
                .filter(i -> i.volts().isPresent() && i.amps().isPresent() && !shutOff(i))
                .reduce((a, b) -> b)
                .filter(i -> {
                    double amps = i.amps().getAsDouble();
                    double watts = LeadOhms.of(i.leadOhms()).beyond(i.volts().getAsDouble(), amps) * amps * amps;
                    return watts < SHOWS_WATTS && mayRise(i.net(), i);
                })
                .isPresent();
    }

    /** What was shorted under the current and is not any more hides its part: it is looked for among the likeliest. */
    void burntOpen() {
        for (String net : book.burntOpen().keySet()) {
            List<Hypothesis> likely = likely(net);
            likely.stream()
                    .filter(h -> onBoard(h) && hurt(h.target()) && removable(h))
                    .limit(1)
                    .forEach(h -> add(Step.of(Action.REMOVE, h.target(), Reason.LIKELY_FAULT)));
            likely.stream()
                    .filter(h -> onBoard(h) && !looked(h.target()))
                    .limit(MOST_LINES)
                    .forEach(h -> add(Step.of(Action.LOOK, h.target(), Reason.BURNT_OPEN)));
        }
    }

    /** A port with a pin out of place goes before a chip behind it is blamed for what that pin may do. */
    void hurtPort() {
        if (!held().isEmpty()) {
            tree.inputs().stream()
                    .map(Part::ref)
                    .filter(ref -> hurt(ref)
                            && !timeline.now().absent().contains(ref)
                            && !timeline.now().renewed().contains(ref))
                    .forEach(ref -> add(Step.of(Action.REMOVE, ref, Reason.VISIBLY_HURT)));
        }
    }

    void shorted() {
        List<String> nets = held();
        List<String> cores = nets.isEmpty() ? doubtedCores() : List.of();
        if (!nets.isEmpty()) {
            shorted(nets);
        } else if (!cores.isEmpty()) {
            shorted(cores);
        } else {
            addWhatWaited();
        }
    }

    /** A core is low by design, and a meter cannot tell how low; a source that gives up says that something is too low. */
    private List<String> doubtedCores() {
        if (!drawsTooMuch()) {
            return List.of();
        }
        return book.nets().stream()
                .filter(n ->
                        book.unpowered(n).map(s -> s.says() == Says.BY_DESIGN).orElse(false))
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.POWER)
                .filter(n ->
                        timeline.current(Inject.class).noneMatch(i -> i.net().equals(n)))
                .filter(n ->
                        likely(n).stream().mapToDouble(Hypothesis::probability).sum() > DOUBTED_SHARE)
                .toList();
    }

    /** Where the current goes: an injection, a picture, and what they point at. */
    void shorted(List<String> nets) {
        Optional<String> lastFed = timeline.current(Inject.class)
                .reduce((a, b) -> b)
                .map(Inject::net)
                .filter(n -> nets.contains(n) || book.down(n))
                .filter(n -> timeline.current(Warm.class).noneMatch(w -> w.seq() > lastInjection(n)));
        String net = lastFed.orElseGet(() -> nets.contains(rail.orElse("")) ? rail.orElseThrow() : deepest(nets));
        boolean signal = board.net(net).orElseThrow().kind() == NetKind.SIGNAL;
        if (signal) {
            tree.inputs().stream()
                    .filter(port -> port.touches(net) && timeline.now().has(port) && !looked(port.ref()))
                    .forEach(port -> add(Step.of(Action.LOOK, port.ref(), Reason.FIRST_LOOK)));
        }
        List<Hypothesis> likely = likely(net);
        Optional<Hypothesis> first = likely.stream().findFirst();
        boolean pointed =
                first.map(h -> pointedAt(h.target()) || several(h.target())).orElse(false);
        double enough = first.map(h -> bypass(h.target()) && hurt(h.target()) ? LEADS_BY_LOOKS : ACT_ON)
                .orElse(ACT_ON);
        if (signal && first.map(h -> h.probability() < SURE_OF_LINES).orElse(false)) {
            otherLines(net);
        }
        if (first.isPresent() && first.get().probability() > enough && pointed && removable(first.get())) {
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
        if (first.isPresent()
                && first.get().code() == Code.DAMAGED_PORT
                && first.get().probability() > 0.35) {
            if (!looked(first.get().target())) {
                add(Step.of(Action.LOOK, first.get().target(), Reason.LIKELY_FAULT));
            }
            if (removable(first.get())
                    && (first.get().probability() > ACT_ON
                            || seenColdFromBothSides() && looked(first.get().target()))) {
                add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
            }
        }
        portOff(net);
        boolean leadIsWarm = timeline.current(Warm.class)
                .reduce((x, y) -> y)
                .filter(timeline::atLead)
                .isPresent();
        if (leadIsWarm) {
            add(injection(net, Reason.LEAD_IS_WARM));
            add(Step.of(Action.IMAGE, net, Reason.LEAD_IS_WARM));
        }
        Optional<Inject> fed = timeline.current(Inject.class)
                .filter(i -> i.net().equals(net) && i.volts().isPresent() && !shutOff(i))
                .reduce((x, y) -> y);
        Optional<Warm> picture = timeline.current(Warm.class)
                .filter(w -> fed.isEmpty() || w.seq() > fed.get().seq())
                .reduce((x, y) -> y);
        if (signal && first.map(h -> h.probability() < SURE_OF_LINES).orElse(true)) {
            otherLines(net);
        }
        Lowest.on(net, timeline)
                .filter(ref -> !looked(ref) && picture.isEmpty())
                .ifPresent(ref -> add(Step.of(Action.LOOK, ref, Reason.LOWEST_READING)));
        if (fed.isEmpty() && likely.stream().noneMatch(h -> h.code() != Code.DAMAGED_PORT && looked(h.target()))) {
            first.filter(h -> h.probability() > LOOK_FIRST && !looked(h.target()))
                    .filter(this::onBoard)
                    .ifPresent(h -> add(Step.of(Action.LOOK, h.target(), Reason.FIRST_LOOK)));
        }
        if (fed.isPresent() && picture.isEmpty()) {
            add(Step.of(Action.IMAGE, net, findWarmth()));
        }
        if (failures(net) < MOST_FAILED_INJECTIONS && (fed.isEmpty() || mayRise(net, fed.get(), picture))) {
            add(injection(net, fed.isEmpty() ? Reason.SHORTED_INJECT_LOW : Reason.NOTHING_WARMED_MORE));
        }
        if (first.isPresent() && !looked(first.get().target())) {
            add(Step.of(Action.LOOK, first.get().target(), Reason.FIRST_LOOK));
        }
        boolean vague = picture.map(w -> !w.nothing()).orElse(false)
                && first.map(h -> h.probability() < ACT_ON).orElse(false);
        long pictures = timeline.current(Warm.class).count();
        if (picture.isEmpty() || vague && pictures < MOST_PICTURES) {
            add(Step.of(Action.IMAGE, net, findWarmth()));
        } else if (vague && first.isPresent() && bypass(first.get().target()) && removable(first.get())) {
            // Equal capacitors side by side: no picture parts them, one that is taken off does.
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
        addWhatWaited();
        separate(net);
        unplug(net);
        if (!leadIsWarm && first.isPresent() && first.get().probability() > ACT_ON && removable(first.get())) {
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
    }

    /** No picture will tell more. */
    private boolean seenColdFromBothSides() {
        return timeline.current(Warm.class).filter(Warm::nothing).count() >= 2;
    }

    /** One half is off: what was held down before is read again on the other, and the halves join before power. */
    void parted() {
        timeline.now().takenAway().ifPresent(half -> {
            book.pulledDown().stream()
                    .filter(net ->
                            book.unpowered(net).isEmpty() && board.partsOn(net).anyMatch(timeline.now()::has))
                    .limit(MOST_LINES)
                    .forEach(net -> add(Step.of(Action.READ, net, Reason.ISOLATE)));
            if (held().isEmpty()) {
                leftOff(half);
            }
        });
    }

    /** The half that stays reads well: what is wrong is on the other, where its likeliest part may go as it lies there. */
    private void leftOff(Storey half) {
        List<Hypothesis> there = diagnosis.hypotheses().stream()
                .filter(h -> h.probability() > WORTH_A_LOOK && removable(h))
                .filter(h -> board.part(h.target())
                        .flatMap(Part::storey)
                        .filter(half::equals)
                        .isPresent())
                .limit(MOST_LINES)
                .toList();
        List<Hypothesis> unseen =
                there.stream().filter(h -> !looked(h.target())).toList();
        unseen.forEach(h -> add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT)));
        there.stream()
                .limit(1)
                .filter(h -> unseen.isEmpty() || h.probability() > ACT_ON)
                .forEach(h -> add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT)));
        add(Step.of(Action.CHECK_FITTED, Change.half(half), Reason.NOT_PLUGGED_BACK));
    }

    /** When nothing is left to look at or to read, what is likeliest goes: taken off, it tells whether it was. */
    void lastResort() {
        held().stream()
                .limit(1)
                .flatMap(net -> likely(net).stream())
                .filter(this::removable)
                .filter(this::onBoard)
                .limit(1)
                .forEach(h -> add(Step.of(Action.REMOVE, h.target(), Reason.LIKELY_FAULT)));
    }

    private boolean onBoard(Hypothesis h) {
        return board.part(h.target()).map(timeline.now()::has).orElse(false);
    }

    private int lastInjection(String net) {
        return timeline.current(Inject.class)
                .filter(i -> i.net().equals(net))
                .mapToInt(Observation::seq)
                .max()
                .orElse(0);
    }

    /** Where a picture showed nothing, more current may: as long as there is more to give. */
    private boolean mayRise(String net, Inject fed, Optional<Warm> picture) {
        return picture.map(Warm::nothing).orElse(false) && mayRise(net, fed);
    }

    private boolean mayRise(String net, Inject fed) {
        Step more = injection(net, Reason.NOTHING_WARMED_MORE);
        return atLimit(fed)
                ? more.limitAmps().orElse(0)
                        > 1.05 * fed.limitAmps().orElse(fed.amps().orElse(0))
                : more.setVolts().orElse(0)
                        > 1.05 * fed.setVolts().orElse(fed.volts().orElse(0));
    }

    /** Whether at least two lines that are held down meet in a chip. */
    private boolean several(String ref) {
        return board.part(ref)
                .filter(p -> p.kind() == PartKind.IC)
                .map(p -> p.pins().stream()
                                .map(Pin::net)
                                .distinct()
                                .filter(book.pulledDown()::contains)
                                .map(n -> Set.copyOf(book.joinedTo(n)))
                                .distinct()
                                .count()
                        >= 2)
                .orElse(false);
    }

    /** A line that is held down: if others of one chip's lines are too, it is the chip that holds them. */
    private void otherLines(String net) {
        long read = book.nets().stream()
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .filter(n -> book.unpowered(n).isPresent())
                .count();
        if (read >= ENOUGH_LINES) {
            return;
        }
        board.partsOn(net)
                .filter(p -> p.kind() == PartKind.IC && timeline.now().has(p))
                .sorted(Comparator.comparingDouble(p -> -diagnosis.guilt(p.ref())))
                .flatMap(p -> p.pins().stream().map(Pin::net).distinct())
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .filter(n -> !n.equals(net) && book.unpowered(n).isEmpty())
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n, Reason.TELLS_MOST)));
    }

    private Reason findWarmth() {
        return switch (schools.warmth()) {
            case CAMERA -> Reason.SHORTED_FIND_WARMTH;
            case LIQUID -> Reason.FIND_WARMTH_BY_LIQUID;
            case TOUCH -> Reason.FIND_WARMTH_BY_TOUCH;
            case FROST -> Reason.FIND_WARMTH_BY_FROST;
        };
    }

    /** The other school takes the port off before anything else is measured. */
    private void portOff(String net) {
        if (schools.port() == Schools.Port.OFF_FIRST) {
            tree.inputs().stream()
                    .filter(p -> timeline.now().has(p))
                    .filter(p -> board.powerNets(p).stream()
                            .anyMatch(n -> book.joinedTo(net).contains(n)))
                    .limit(1)
                    .forEach(p -> add(Step.of(Action.REMOVE, p.ref(), Reason.PORT_OFF_FIRST)));
        }
    }

    /** Suspects in both halves of a two-storey board: parted, each half tells for itself. The half that is not fed goes. */
    private void separate(String net) {
        if (timeline.now().takenAway().isPresent()) {
            return;
        }
        Map<Storey, Double> guilt = new EnumMap<>(Storey.class);
        likely(net)
                .forEach(h -> board.part(h.target())
                        .flatMap(Part::storey)
                        .ifPresent(s -> guilt.merge(s, h.probability(), Double::sum)));
        double all = guilt.values().stream().mapToDouble(v -> v).sum();
        boolean split = guilt.size() == 2 && guilt.values().stream().allMatch(v -> v > SPLIT_SHARE * all);
        if (split) {
            add(Step.of(Action.SEPARATE, Change.half(tree.unfedHalf()), Reason.ISOLATE));
        }
    }

    /** What can be unplugged from a shorted rail goes before anything is heated. */
    private void unplug(String net) {
        board.partsOn(net)
                .filter(p -> p.kind() == PartKind.CONNECTOR && !tree.isInput(p.ref()) && !tree.isBattery(p.ref()))
                .filter(p -> !timeline.now().unplugged().contains(p.ref()))
                .limit(1)
                .forEach(p -> add(Step.of(Action.DISCONNECT, p.ref(), Reason.ISOLATE)));
    }

    private String deepest(List<String> nets) {
        return nets.stream()
                .max(Comparator.comparingDouble(n ->
                        likely(n).stream().mapToDouble(Hypothesis::probability).sum()))
                .orElseThrow();
    }

    /** Faults that would short this net, most probable first. */
    private List<Hypothesis> likely(String net) {
        Set<String> joined = book.joinedTo(net);
        return diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.SHORT || h.code() == Code.DAMAGED_PORT || h.code() == Code.LEAKY)
                .filter(h -> diagnosis
                        .likeliest(h.code(), h.target())
                        .map(v -> v.faults().stream()
                                .filter(Bridge.class::isInstance)
                                .map(Bridge.class::cast)
                                .anyMatch(b -> joined.contains(b.netA()) || joined.contains(b.netB())))
                        .orElse(false))
                .toList();
    }
}
