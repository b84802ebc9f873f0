package ohmoscope.web.job;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import ohmoscope.core.board.Net;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.job.Likeness;
import ohmoscope.core.job.PastCase;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.store.ExperienceStore;
import org.springframework.stereotype.Service;

/** Earlier jobs that an open one is like, and proven ones that are kept for that. */
@Service
public class SeenBefore {
    private static final int SHOWN = 3;

    private final ExperienceStore store;

    SeenBefore(ExperienceStore store) {
        this.store = store;
    }

    /** An earlier job in two lines. @param why what both share */
    public record Line(String number, String fault, String why) {}

    public List<Line> of(OpenJobs.Open open) {
        PastCase now = now(open);
        return Likeness.nearest(now, store.near(now), SHOWN).stream()
                .map(l -> new Line(l.then().number(), l.then().fault(), why(l.by())))
                .toList();
    }

    /** Whether this one has been kept. */
    public boolean kept(OpenJobs.Open open) {
        return store.kept(open.job().row().id());
    }

    /** @param fault what was wrong, as the hand-back says it */
    public void keep(OpenJobs.Open open, Change repair, String fault, String by) {
        PastCase now = now(open);
        store.keep(
                open.job().row().id(),
                new PastCase(
                        now.number(),
                        now.model(),
                        now.rail(),
                        now.railVolts(),
                        now.complaint(),
                        fault,
                        repair.target(),
                        now.ohms(),
                        now.drawAmps()),
                by);
    }

    private PastCase now(OpenJobs.Open open) {
        Optional<String> rail = Optional.of(open.job().bundle().rail())
                .filter(r -> open.job().board().net(r).isPresent());
        OptionalDouble ohms = open.analysis()
                .flatMap(StoredAnalysis::resistance)
                .map(FaultResistance::ohms)
                .map(OptionalDouble::of)
                .orElseGet(OptionalDouble::empty);
        OptionalDouble draw = open.job().bundle().observations().stream()
                .takeWhile(o -> !(o instanceof Change c && c.altersCircuit()))
                .filter(Power.class::isInstance)
                .map(o -> ((Power) o).amps())
                .filter(OptionalDouble::isPresent)
                .reduce((a, b) -> b)
                .orElseGet(OptionalDouble::empty);
        return new PastCase(
                open.job().bundle().job().id(),
                store.model(open.job().row().boardId()),
                rail,
                rail.flatMap(open.job().board()::net).map(Net::nominalVolts).orElseGet(OptionalDouble::empty),
                open.job().account(),
                "",
                "",
                ohms,
                draw);
    }

    private static String why(Map<Likeness.By, Double> by) {
        return by.entrySet().stream()
                .sorted(Comparator.comparingDouble((Map.Entry<Likeness.By, Double> e) -> -e.getValue())
                        .thenComparing(Map.Entry::getKey))
                .map(e -> switch (e.getKey()) {
                    case MODEL -> "same model";
                    case RAIL -> "same rail";
                    case VOLTS -> "a rail of like volts";
                    case OHMS -> "like ohms";
                    case DRAW -> "like draw";
                    case WORDS -> "like words";
                })
                .collect(Collectors.joining(", "));
    }
}
