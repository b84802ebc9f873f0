package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Unit;

/**
 * Series parts whose two ends were measured and cannot be joined by them: Ohm's law says that they are open, whatever is
 * likely. A fault that was measured is given; what else is wrong is asked beside it.
 */
final class Measured {
    /** A milliampere of a diode test through a part that conducts makes no more difference than this. */
    private static final double SAME_VOLTS = 0.15;

    private static final double TEST_AMPS = 1e-3;
    /** The difference must be this many times what the part's own resistance makes. */
    private static final double CLEAR_FACTOR = 20;
    /** A small part that really carried this much would not be there any more. */
    private static final double BURNING_AMPS = 2;

    private static final double MOST_SERIES_OHMS = 500;
    /** Less than that across a series part, and it is not open. */
    private static final double CONDUCTS_OHMS = 5;

    private Measured() {}

    /**
     * @param volts between its ends
     * @param because the two entries
     */
    record Gap(Part part, double volts, List<Integer> because) {}

    static List<Fault> open(RailBook book) {
        return book.gaps().stream()
                .map(g -> (Fault) new Fault.Open(g.part.ref()))
                .toList();
    }

    static List<Gap> gaps(Timeline timeline, RailBook book) {
        BoardIndex board = timeline.board();
        List<Gap> gaps = new ArrayList<>();
        for (Part part : board.parts()) {
            boolean conducts = part.kind() == PartKind.RESISTOR
                    || part.kind() == PartKind.FUSE
                    || part.kind() == PartKind.FERRITE
                    || part.kind() == PartKind.INDUCTOR;
            List<String> nets = part.pins().stream().map(Pin::net).distinct().toList();
            if (conducts && nets.size() == 2 && timeline.now().has(part) && !conductsAcross(timeline, part)) {
                double ohms = PartValue.ohms(part).orElse(part.kind() == PartKind.RESISTOR ? 1e6 : 0.05);
                if (ohms < MOST_SERIES_OHMS) {
                    between(timeline, book, part, ohms, nets.get(0), nets.get(1))
                            .ifPresent(gaps::add);
                }
            }
        }
        return gaps;
    }

    /** A meter across it has the last word: one of the two ends may have been misread. */
    private static boolean conductsAcross(Timeline timeline, Part part) {
        return across(timeline, part.ref())
                .map(r -> r.value().isPresent() && r.value().getAsDouble() < CONDUCTS_OHMS)
                .orElse(false);
    }

    /** The last reading across a part since it was last changed, in ohms. */
    static Optional<Read> across(Timeline timeline, String ref) {
        return timeline.current(Read.class)
                .filter(r ->
                        r.mode() == ReadMode.OHMS && r.across().map(ref::equals).orElse(false))
                .reduce((a, b) -> b);
    }

    private static Optional<Gap> between(
            Timeline timeline, RailBook book, Part part, double ohms, String netA, String netB) {
        Optional<Gap> diode = ends(book, part, netA, netB, Unit.DIODE_VOLTS)
                .filter(g -> g.volts > SAME_VOLTS && g.volts > CLEAR_FACTOR * ohms * TEST_AMPS);
        if (diode.isPresent()) {
            return diode;
        }
        double drawn = timeline.current(Power.class)
                .reduce((a, b) -> b)
                .map(p -> p.amps().orElse(BURNING_AMPS))
                .orElse(BURNING_AMPS);
        return ends(book, part, netA, netB, Unit.VOLTS).filter(g -> g.volts > 1 && g.volts / ohms > 3 * drawn + 0.1);
    }

    private static Optional<Gap> ends(RailBook book, Part part, String netA, String netB, Unit unit) {
        Optional<Sign> a = last(book, netA, unit);
        Optional<Sign> b = last(book, netB, unit);
        if (a.isEmpty() || b.isEmpty()) {
            return Optional.empty();
        }
        double volts =
                Math.abs(Math.min(a.get().value(), 3e1) - Math.min(b.get().value(), 3e1));
        return Optional.of(new Gap(part, volts, List.of(a.get().seq(), b.get().seq())));
    }

    private static Optional<Sign> last(RailBook book, String net, Unit unit) {
        return book.now(net).stream().filter(s -> s.unit() == unit).reduce((a, b) -> b);
    }
}
