package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.diagnose.Stop.Code;
import ohmoscope.core.diagnose.Stop.Reason;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;

/** What must not be done now, each computed from the entries. */
final class Stops {
    /** Jumper wires and clips carry this badly. */
    private static final double LEAD_RATING_AMPS = 5;

    private static final double OVER_NOMINAL_FACTOR = 1.05;

    private final Timeline timeline;
    private final BoardIndex board;
    private final RailBook book;
    private final List<Stop> stops = new ArrayList<>();

    private Stops(Timeline timeline, RailBook book) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.book = book;
    }

    static List<Stop> of(Timeline timeline, RailBook book, Optional<Mending> mending) {
        Stops all = new Stops(timeline, book);
        all.doNotPower();
        all.overNominal();
        all.batteryConnected();
        all.hotBoard();
        all.flammable();
        all.leadRating();
        all.notProven(mending);
        return all.stops;
    }

    private void doNotPower() {
        List<Integer> because = new ArrayList<>();
        Optional<String> place = Optional.empty();
        for (Look look : timeline.all(Look.class).toList()) {
            if (look.finding() == LookFinding.PINS_TOUCHING && stillThere(look.target(), look.seq())) {
                because.add(look.seq());
                place = Optional.of(look.target());
            }
        }
        boolean touching = place.isPresent();
        for (Moment moment : timeline.moments()) {
            boolean sameCircuit = moment.epoch() == timeline.epoch();
            if (moment.observation() instanceof Power power
                    && sameCircuit
                    && power.net().isEmpty()) {
                boolean bad = Draw.of(board, timeline.tree(), power)
                        .map(d -> d == Draw.EXCESSIVE || d == Draw.PULSING)
                        .orElse(false);
                boolean laterWell = timeline.moments().stream()
                        .anyMatch(m -> m.seq() > moment.seq()
                                && m.observation() instanceof Power p
                                && Draw.of(board, timeline.tree(), p)
                                        .map(d -> d == Draw.NORMAL)
                                        .orElse(false));
                if (bad && !laterWell) {
                    because.add(power.seq());
                }
            }
        }
        for (String net : book.shorted()) {
            because.add(book.unpowered(net).orElseThrow().seq());
            place = place.or(() -> Optional.of(net));
        }
        if (!because.isEmpty()) {
            stops.add(new Stop(
                    Code.DO_NOT_POWER,
                    touching ? Reason.PINS_TOUCH : place.isPresent() ? Reason.RAIL_SHORTED : Reason.TAKES_TOO_MUCH,
                    place,
                    OptionalDouble.empty(),
                    because.stream().sorted().distinct().toList()));
        }
    }

    /** Neither taken off nor exchanged nor put right since. */
    private boolean stillThere(String ref, int seq) {
        boolean lookedAgain = timeline.all(Look.class)
                .anyMatch(l -> l.seq() > seq && l.target().equals(ref) && l.finding() == LookFinding.CLEAN);
        boolean changed = timeline.all(Change.class)
                .anyMatch(c -> c.seq() > seq
                        && c.target().equals(ref)
                        && (c.action() == ChangeAction.REMOVED || c.action() == ChangeAction.REPLACED));
        return !changed && !lookedAgain;
    }

    private void overNominal() {
        Optional<Inject> last = timeline.last(Inject.class);
        last.ifPresent(inject -> {
            double set = inject.setVolts().orElse(inject.volts().orElse(0));
            over(inject.net(), set, inject.seq());
        });
        timeline.last(Power.class).ifPresent(power -> {
            if (power.net().isPresent()) {
                over(power.net().get(), power.volts().orElse(0), power.seq());
            } else {
                double nominal = Draw.nominal(
                        board,
                        power.port().flatMap(board::part),
                        power.port().flatMap(board::part).flatMap(p -> p.expects()));
                boolean port = power.port().flatMap(board::part).isPresent();
                if (port && power.volts().orElse(0) > 1.15 * nominal) {
                    stops.add(new Stop(Code.OVER_NOMINAL, power.port(), power.volts(), List.of(power.seq())));
                }
            }
        });
    }

    private void over(String net, double volts, int seq) {
        board.net(net).ifPresent(n -> {
            if (n.nominalVolts().isPresent()
                    && volts > OVER_NOMINAL_FACTOR * n.nominalVolts().getAsDouble()) {
                stops.add(new Stop(Code.OVER_NOMINAL, Optional.of(net), OptionalDouble.of(volts), List.of(seq)));
            }
        });
    }

    /** Something was done with the cell in, and it is still in. */
    private void batteryConnected() {
        if (!timeline.now().battery()) {
            return;
        }
        List<Integer> because = timeline.moments().stream()
                .filter(m -> m.state().battery())
                .filter(m -> m.observation() instanceof Inject
                        || m.observation() instanceof Change c
                                && c.heat()
                                && !c.target().equals(Timeline.BATTERY))
                .map(Moment::seq)
                .toList();
        if (!because.isEmpty()) {
            stops.add(new Stop(Code.BATTERY_CONNECTED, Optional.of(Timeline.BATTERY), OptionalDouble.empty(), because));
        }
    }

    /** The last thing done heated the board. */
    private void hotBoard() {
        timeline.moments().stream()
                .filter(m -> !(m.observation() instanceof Look))
                .reduce((a, b) -> b)
                .filter(m -> m.observation() instanceof Change c && c.heat())
                .ifPresent(m -> stops.add(new Stop(
                        Code.HOT_BOARD,
                        Optional.of(((Change) m.observation()).target()),
                        OptionalDouble.empty(),
                        List.of(m.seq()))));
    }

    private void flammable() {
        timeline.last(Warm.class)
                .filter(w -> w.by().map(b -> b == WarmthMeans.LIQUID).orElse(false))
                .ifPresent(w -> stops.add(new Stop(Code.FLAMMABLE, w.ref(), OptionalDouble.empty(), List.of(w.seq()))));
    }

    private void leadRating() {
        timeline.last(Inject.class).ifPresent(inject -> {
            double amps = Math.max(inject.limitAmps().orElse(0), inject.amps().orElse(0));
            if (amps >= LEAD_RATING_AMPS) {
                stops.add(new Stop(
                        Code.LEAD_RATING, Optional.of(inject.net()), OptionalDouble.of(amps), List.of(inject.seq())));
            }
        });
    }

    /** A repair that is tried or about to go back, and nobody has read again what was wrong. */
    private void notProven(Optional<Mending> mending) {
        Optional<Change> repair = timeline.all(Change.class)
                .filter(c -> c.action() == ChangeAction.REPLACED
                        || c.action() == ChangeAction.REMOVED
                        || c.action() == ChangeAction.FITTED)
                .reduce((a, b) -> b);
        if (repair.isEmpty()) {
            return;
        }
        int seq = repair.get().seq();
        boolean running = timeline.all(Run.class)
                .anyMatch(r -> r.seq() > seq && r.finding().well());
        boolean readAgain = timeline.all(Read.class).anyMatch(r -> r.seq() > seq);
        boolean wasWrong = !book.everShorted().isEmpty()
                || timeline.all(Read.class).anyMatch(r -> r.seq() < seq)
                || timeline.all(Power.class).anyMatch(p -> p.seq() < seq);
        boolean proven = mending.map(Mending::proven).orElse(false);
        if (running && !readAgain && wasWrong && !proven) {
            stops.add(new Stop(
                    Code.NOT_PROVEN, Optional.of(repair.get().target()), OptionalDouble.empty(), List.of(seq)));
        }
    }
}
