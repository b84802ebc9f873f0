package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.circuit.BoardState;

/**
 * What the evidence comes to.
 *
 * @param hypotheses most probable first
 * @param next most useful first
 * @param survey what is still worth measuring, unpowered
 * @param signs what single readings say of their nets, as long as it holds; by net, oldest first
 * @param earlier what readings said before the board was changed
 * @param volts what powered nets were read at, the board being as it is
 * @param draws how much more than a good device each draw is, by the entry's number
 * @param now what is on the board
 * @param live numbers of unpowered readings that were taken with a cell on the board: they weigh little
 * @param batteryKnown whether somebody said if the battery is in, or the board has none
 * @param experience what earlier jobs of the model did to the frequencies of faults; empty where none did
 * @param notJudged why nothing could be computed from the evidence; empty when it could
 * @param mending how far the last repair is proven; empty while there was none
 * @param acceptance what a repair of its kind is tried by, with what came of it; empty while there was none
 */
public record Advice(
        List<Finding> findings,
        List<Hypothesis> hypotheses,
        List<Step> next,
        List<Stop> stops,
        Survey survey,
        List<Sign> signs,
        List<Sign> earlier,
        Map<String, Double> volts,
        Map<Integer, DrawReading> draws,
        BoardState now,
        Set<Integer> live,
        boolean batteryKnown,
        Optional<Mending> mending,
        Optional<Acceptance> acceptance,
        List<Experience.Tempered> experience,
        Optional<String> notJudged) {
    public Advice {
        findings = List.copyOf(findings);
        hypotheses = List.copyOf(hypotheses);
        next = List.copyOf(next);
        stops = List.copyOf(stops);
        signs = List.copyOf(signs);
        earlier = List.copyOf(earlier);
        volts = Map.copyOf(volts);
        draws = Map.copyOf(draws);
        live = Set.copyOf(live);
        experience = List.copyOf(experience);
    }

    public Optional<Hypothesis> leading() {
        return hypotheses.stream().findFirst();
    }

    /** The likeliest fault of a part or net. */
    public Optional<Hypothesis> about(String target) {
        return hypotheses.stream().filter(h -> h.target().equals(target)).findFirst();
    }

    /** What an entry said of its net when it was made, whether or not it still holds. */
    public Optional<Sign> sign(int seq) {
        return Stream.concat(signs.stream(), earlier.stream())
                .filter(s -> s.seq() == seq)
                .findFirst();
    }

    /** Findings that rest on an entry. */
    public List<Finding> because(int seq) {
        return findings.stream().filter(f -> f.because().contains(seq)).toList();
    }
}
