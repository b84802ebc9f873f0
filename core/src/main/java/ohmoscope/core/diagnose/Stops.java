package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.diagnose.Stop.Code;
import ohmoscope.core.diagnose.Stop.Reason;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;

/** What must not be done now, each computed from the entries. */
final class Stops {
    /** A meter's or supply's zero strays no further. */
    private static final double BELOW_ZERO = -0.02;

    private static final double OVER_NOMINAL_FACTOR = 1.05;
    /** Of a port that nobody says what to expect of. */
    private static final double OVER_PORT_FACTOR = 1.15;

    private final Timeline timeline;
    private final BoardIndex board;
    private final RailBook book;
    private final List<Stop> stops = new ArrayList<>();

    private Stops(Timeline timeline, RailBook book) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.book = book;
    }

    /** @param leadRatedAmps what the leads carry */
    static List<Stop> of(Timeline timeline, RailBook book, Optional<Mending> mending, double leadRatedAmps) {
        Stops all = new Stops(timeline, book);
        all.doNotPower();
        all.reversed();
        all.twoSources();
        all.overNominal();
        all.batteryConnected();
        all.hotBoard();
        all.flammable();
        all.leadRating(leadRatedAmps);
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

    /** The last thing that a source showed was below zero. */
    private void reversed() {
        timeline.moments().stream()
                .filter(m -> m.epoch() == timeline.epoch())
                .map(Moment::observation)
                .filter(o -> o instanceof Inject || o instanceof Power)
                .reduce((a, b) -> b)
                .filter(o -> o instanceof Inject i
                        ? below(i.volts()) || below(i.amps())
                        : below(((Power) o).volts()) || below(((Power) o).amps()))
                .ifPresent(o -> stops.add(new Stop(
                        Code.DO_NOT_POWER,
                        Reason.REVERSED,
                        o instanceof Inject i ? Optional.of(i.net()) : ((Power) o).port(),
                        OptionalDouble.empty(),
                        List.of(o.seq()))));
    }

    private static boolean below(OptionalDouble value) {
        return value.orElse(0) < BELOW_ZERO;
    }

    /** Injected while a charger fed the board; a cell in it has a stop of its own, and the bench supply is what injects. */
    private void twoSources() {
        timeline.current(Inject.class)
                .reduce((a, b) -> b)
                .filter(i -> i.power().filter(PowerSource.CHARGER::equals).isPresent())
                .ifPresent(i -> stops.add(new Stop(
                        Code.DO_NOT_POWER,
                        Reason.TWO_SOURCES,
                        Optional.of(i.net()),
                        OptionalDouble.empty(),
                        List.of(i.seq()))));
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
                Optional<Part> port = power.port().flatMap(board::part);
                double most = port.flatMap(Part::expects)
                        .flatMap(PortExpectation::volts)
                        .map(r -> r.high() * OVER_NOMINAL_FACTOR)
                        .orElseGet(() -> OVER_PORT_FACTOR * Draw.nominal(board, port, Optional.empty()));
                if (port.isPresent() && power.volts().orElse(0) > most) {
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

    private void leadRating(double ratedAmps) {
        timeline.last(Inject.class).ifPresent(inject -> {
            double amps = Math.max(inject.limitAmps().orElse(0), inject.amps().orElse(0));
            if (amps >= ratedAmps) {
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
