package ohmoscope.core.circuit;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Storey;

/**
 * What is on the board at a moment of the job.
 *
 * @param absent references of parts that are off the board
 * @param renewed references of parts that are no longer the ones the job came with
 * @param unplugged connectors with nothing in them
 * @param battery whether the battery is connected
 * @param takenAway the half of a two-storey board that has been lifted off
 */
public record BoardState(
        Set<String> absent, Set<String> renewed, Set<String> unplugged, boolean battery, Optional<Storey> takenAway) {
    /** As the device came, its battery out. */
    public static final BoardState WHOLE = new BoardState(Set.of(), Set.of(), Set.of(), false, Optional.empty());

    public BoardState {
        absent = Set.copyOf(absent);
        renewed = Set.copyOf(renewed);
        unplugged = Set.copyOf(unplugged);
    }

    public boolean has(Part part) {
        return !absent.contains(part.ref())
                && (takenAway.isEmpty()
                        || part.storey().isEmpty()
                        || !part.storey().equals(takenAway));
    }

    public BoardState without(String ref) {
        return new BoardState(plus(absent, ref), renewed, unplugged, battery, takenAway);
    }

    public BoardState with(String ref, boolean isNew) {
        return new BoardState(
                minus(absent, ref), isNew ? plus(renewed, ref) : renewed, minus(unplugged, ref), battery, takenAway);
    }

    public BoardState unplug(String ref) {
        return new BoardState(absent, renewed, plus(unplugged, ref), battery, takenAway);
    }

    public BoardState plug(String ref) {
        return new BoardState(absent, renewed, minus(unplugged, ref), battery, takenAway);
    }

    public BoardState withBattery(boolean connected) {
        return new BoardState(absent, renewed, unplugged, connected, takenAway);
    }

    public BoardState separated(Optional<Storey> away) {
        return new BoardState(absent, renewed, unplugged, battery, away);
    }

    private static Set<String> plus(Set<String> set, String ref) {
        Set<String> copy = new HashSet<>(set);
        copy.add(ref);
        return copy;
    }

    private static Set<String> minus(Set<String> set, String ref) {
        Set<String> copy = new HashSet<>(set);
        copy.remove(ref);
        return copy;
    }
}
