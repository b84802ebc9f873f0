package ohmoscope.bench.demo;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import ohmoscope.bench.photo.BoardPhoto;
import ohmoscope.bench.photo.Shot;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Layouts;
import ohmoscope.core.photomap.Lens;
import ohmoscope.core.photomap.Squared;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.formats.layout.LayoutFiles;

/** Jobs that began with little: nothing, a layout file, photographs; and boards that came as files of each kind. */
public final class StartJobs {
    /** The job whose board is mapped from photographs. */
    public static final String PHOTOGRAPHED = "K-0434";

    private static final String LAMP = "Mossgill Gill head lamp";
    private static final Shot SHOT =
            new Shot(1800, 1300, 2.5, -3, 1.2, 0.8, 3, 1, 0.2, 0.06, 0.25, 0.01, Shot.Mask.BLUE, 434);

    private StartJobs() {}

    /** What a shop was given of a board. @param files names of files that ship with the demo */
    public record Layout(String name, List<String> files) {
        /** @throws UncheckedIOException where the files are not there or not readable */
        public Layouts.Laid read() {
            try {
                return new LayoutFiles()
                        .read(files.stream()
                                .map(f -> LayoutFiles.Source.of(f, content(f)))
                                .toList())
                        .called(name, "");
            } catch (IOException broken) {
                throw new UncheckedIOException(broken);
            }
        }

        /** One of the files as it is. @throws UncheckedIOException where it is not there */
        public byte[] content(String file) {
            try (InputStream in = StartJobs.class.getResourceAsStream("/ohmoscope/bench/layouts/" + file)) {
                if (in == null) {
                    throw new IOException(file + " is not shipped");
                }
                return in.readAllBytes();
            } catch (IOException broken) {
                throw new UncheckedIOException(broken);
            }
        }
    }

    private static final Layout MAST = new Layout("Mossgill Moor weather mast", List.of("weather-mast.kicad_pcb"));

    /** One board of each kind of file that can be read. */
    public static List<Layout> layouts() {
        return List.of(
                MAST,
                new Layout("Mossgill Ings lamp head", List.of("head-lamp.xml")),
                new Layout("Mossgill Scar flood bell", List.of("flood-bell-top.gbr", "flood-bell-bottom.gbr")),
                new Layout("Mossgill Rigg market scale", List.of("market-scale.ipc", "market-scale-places.csv")),
                new Layout(
                        "Mossgill Dub pump guard",
                        List.of("pump-guard.ipc", "pump-guard-places.csv", "pump-guard-parts.csv")));
    }

    static List<DemoJobs.Demo> all() {
        return List.of(
                told("K-0432", "Snow gauge is dark since the frost", "2026-11-25T10:05:00Z", StartJobs::gauge, """
                unplugged battery
                charger J1 9.0V 0.50A flat battery out
                look J1 clean
                V_ON d .42
                V5 d .001
                """),
                told(
                        "K-0433",
                        "Mast sends nothing after the storm",
                        "2026-11-25T10:20:00Z",
                        () -> MAST.read().board(),
                        """
                charger J1 18.0V 0.01A flat battery out
                look F1 clean
                VSOLAR v 18.0 charger
                VSOLAR_F v 0 charger
                across F1 ohm OL
                """),
                new DemoJobs.Demo(PHOTOGRAPHED, StartJobs::photographed));
    }

    private static Board gauge() {
        return GenericBoards.of("small-instrument", "Mossgill Hagg snow gauge");
    }

    private static DemoJobs.Demo told(String id, String title, String opened, Supplier<Board> of, String lines) {
        return EvidenceJobs.told(
                id,
                title,
                opened,
                of,
                (board, entries) -> RailInQuestion.of(board, Optional.empty(), entries),
                Map.of(),
                lines);
    }

    /** What stands behind the photographs; on the bench nobody knows it. */
    private static Board wholeLamp() {
        return Rails.GILL.of(DemoBoards.gill());
    }

    /** As somebody mapped it in four minutes: the port, what is in series, and the cell's capacitors, not the small fry. */
    private static Board mappedLamp() {
        Board whole = wholeLamp();
        return whole.withParts(
                        whole.parts().stream().filter(StartJobs::worthMapping).toList())
                .called(LAMP, GenericBoards.MAPPED + "in four minutes");
    }

    private static boolean worthMapping(Part part) {
        return part.kind() != PartKind.RESISTOR || part.touches("VCELL") && part.touches("VIN");
    }

    private static Bundle photographed() {
        Board whole = wholeLamp();
        String culprit = whole.partsOn("VCELL")
                .filter(p -> p.kind() == PartKind.CAPACITOR && p.yMm() > 14)
                .skip(3)
                .findFirst()
                .orElseThrow()
                .ref();
        Bundle seen = DemoJobs.simulated(whole, PHOTOGRAPHED, culprit);
        Board mapped = mappedLamp();
        return new Bundle(
                seen.job(),
                mapped,
                seen.railInQuestion(),
                seen.injection(),
                seen.supplyLog(),
                seen.captures(),
                seen.observations(),
                Map.of());
    }

    /** The photographs of that job's board and how they lie over it. */
    public static Map<Side, Photograph> photographs() {
        Board whole = wholeLamp();
        Outline outline = whole.outline();
        Map<Side, Photograph> photographs = new EnumMap<>(Side.class);
        for (Side side : Side.values()) {
            BoardPhoto photo = BoardPhoto.of(whole, side, SHOT);
            Squared squared = new Squared(
                    new Lens(SHOT.widthPx(), SHOT.heightPx(), SHOT.bow()),
                    photo.corners(),
                    outline.maxXMm() - outline.minXMm(),
                    outline.maxYMm() - outline.minYMm(),
                    Squared.Nudge.NONE);
            photographs.put(side, new Photograph(photo, squared));
        }
        return photographs;
    }

    /** One side's. */
    public record Photograph(BoardPhoto photo, Squared squared) {}
}
