package ohmoscope.web.job;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.job.Likeness;
import ohmoscope.core.job.PastCase;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.judge.Memory;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.ExperienceStore;
import org.springframework.stereotype.Service;

/** Earlier jobs that an open one is like, and proven ones that are kept for that. */
@Service
public class SeenBefore {
    private static final int SHOWN = 3;

    private final ExperienceStore store;
    private final Memory memory;

    SeenBefore(ExperienceStore store, Memory memory) {
        this.store = store;
        this.memory = memory;
    }

    /** An earlier job in two lines. @param why what both share */
    public record Line(String number, String fault, String why) {}

    public List<Line> of(OpenJobs.Open open) {
        PastCase now = now(open);
        return Likeness.nearest(now, store.near(now), SHOWN).stream()
                .map(l -> new Line(l.then().number(), l.then().fault(), why(l.by())))
                .toList();
    }

    /** What others of the model had, as counts, each in a line; empty where none was kept or this technician hears of none. */
    public List<String> counts(OpenJobs.Open open) {
        return open.advice().experience().stream()
                .limit(SHOWN)
                .map(t -> AdviceWords.fault(new Hypothesis(t.code(), t.target(), 0)) + ": " + t.cases() + " of "
                        + t.of() + " proven on this model, counted as " + Eng.significant(t.times(), 2)
                        + " times as likely")
                .toList();
    }

    /** Whether this one has been kept. */
    public boolean kept(OpenJobs.Open open) {
        return store.kept(open.job().row().id());
    }

    /** @param fault what was wrong, as the hand-back says it */
    public void keep(OpenJobs.Open open, Change repair, String fault, String by) {
        PastCase now = now(open);
        Optional<Hypothesis.Code> code = open.advice().about(repair.target()).map(Hypothesis::code);
        store.keep(open.job().row().id(), now.proven(fault, repair.target(), code), by);
    }

    private PastCase now(OpenJobs.Open open) {
        return memory.now(
                open.job(),
                open.analysis()
                        .flatMap(StoredAnalysis::resistance)
                        .map(FaultResistance::ohms)
                        .map(OptionalDouble::of)
                        .orElseGet(OptionalDouble::empty));
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
