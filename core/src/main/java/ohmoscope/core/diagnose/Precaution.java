package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;

/**
 * What the way a device came in forbids, besides what its entries do.
 *
 * @param code what about
 * @param places parts it is about, those to begin with first; empty where it is about all of the device
 */
public record Precaution(Code code, List<String> places) {
    /** Nearer than this a part takes the heat that is meant for its neighbour. */
    private static final double HEAT_REACH_MM = 15;

    private static final Pattern STORAGE =
            Pattern.compile("storage|flash|memory|drive|disk|ssd|emmc|nand", Pattern.CASE_INSENSITIVE);
    static final Set<LookFinding> WET = Set.of(LookFinding.WET_MARK, LookFinding.CORRODED);

    /** What a technician ticks at receipt. */
    public enum Hazard {
        SWOLLEN_CELL,
        HOT_CELL,
        LIQUID,
        ONLY_COPY
    }

    /** What is forbidden. */
    public enum Code {
        /** Everything, with the cell in the house. */
        CELL,
        /** Power, until each place where liquid stays was looked at and is clean. */
        LIQUID,
        /** Heat, before what is stored has been copied. */
        ONLY_COPY
    }

    public Precaution {
        places = List.copyOf(places);
    }

    /** @param next the step that is proposed */
    public static List<Precaution> of(
            Set<Hazard> hazards, Board board, List<Observation> observations, Optional<Step> next) {
        List<Precaution> all = new ArrayList<>();
        if (hazards.contains(Hazard.SWOLLEN_CELL) || hazards.contains(Hazard.HOT_CELL)) {
            all.add(new Precaution(Code.CELL, List.of()));
        }
        if (hazards.contains(Hazard.LIQUID)) {
            List<String> unseen = unseen(board, observations);
            if (!unseen.isEmpty()) {
                all.add(new Precaution(Code.LIQUID, unseen));
            }
        }
        if (hazards.contains(Hazard.ONLY_COPY)) {
            next.filter(Precaution::heats)
                    .ifPresent(step -> all.add(new Precaution(
                            Code.ONLY_COPY,
                            step.target()
                                    .flatMap(board::part)
                                    .map(part -> storageNear(board, part))
                                    .orElse(List.of()))));
        }
        return all;
    }

    private static boolean heats(Step step) {
        return switch (step.action()) {
            case REMOVE, REPLACE, FIT -> true;
            default -> false;
        };
    }

    /** Liquid stays in connectors and under shields; a place is done when it was seen clean after any mark there. */
    private static List<String> unseen(Board board, List<Observation> observations) {
        return board.parts().stream()
                .filter(p -> p.kind() == PartKind.CONNECTOR || p.kind() == PartKind.SHIELD)
                .map(Part::ref)
                .filter(ref -> observations.stream()
                        .filter(o -> o instanceof Look look && look.target().equals(ref))
                        .map(o -> ((Look) o).finding())
                        .reduce((a, b) -> b)
                        .map(WET::contains)
                        .orElse(true))
                .toList();
    }

    private static List<String> storageNear(Board board, Part heated) {
        return board.parts().stream()
                .filter(p -> p.kind() == PartKind.IC || p.kind() == PartKind.CONNECTOR)
                .filter(p -> STORAGE.matcher(p.value()).find())
                .filter(p -> distanceMm(p, heated) < HEAT_REACH_MM)
                .sorted(Comparator.comparingDouble(p -> distanceMm(p, heated)))
                .map(Part::ref)
                .toList();
    }

    private static double distanceMm(Part a, Part b) {
        return Math.hypot(a.xMm() - b.xMm(), a.yMm() - b.yMm());
    }
}
