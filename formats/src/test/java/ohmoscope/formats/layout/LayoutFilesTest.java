package ohmoscope.formats.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Layouts;
import ohmoscope.core.layout.Note;
import ohmoscope.formats.BundleException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LayoutFilesTest {
    private static final double MICROMETRE_MM = 1e-3;
    private static final Board BOARD = turned(PowerFixtures.board());

    /** Every other part turned, a third of them on the bottom. */
    private static Board turned(Board board) {
        List<Part> parts = IntStream.range(0, board.parts().size())
                .mapToObj(i -> turned(board.parts().get(i), i))
                .toList();
        return board.withParts(parts);
    }

    private static Part turned(Part part, int i) {
        double angle = Math.toRadians(i % 2 == 0 ? 0 : 30 * i);
        List<Pin> pins = IntStream.range(0, part.pins().size())
                .mapToObj(k -> new Pin(
                        String.valueOf(k + 1),
                        part.pins().get(k).net(),
                        part.xMm() + 0.7 * k * Math.cos(angle) - 0.2 * Math.sin(angle),
                        part.yMm() + 0.7 * k * Math.sin(angle) + 0.2 * Math.cos(angle)))
                .toList();
        return new Part(
                part.ref(),
                part.kind(),
                part.statedRole(),
                part.value(),
                part.voltsRated(),
                part.packageName(),
                i % 3 == 2 ? Side.BOTTOM : Side.TOP,
                part.xMm(),
                part.yMm(),
                Math.toDegrees(angle),
                part.wMm(),
                part.hMm(),
                part.heightMm(),
                pins,
                part.resistanceOhms(),
                part.sensitive(),
                part.supplies(),
                part.gate(),
                part.expects(),
                part.pairedWith(),
                part.storey());
    }

    private static LayoutFiles.Source file(String name, String text) {
        return file(name, text.getBytes(StandardCharsets.UTF_8));
    }

    private static LayoutFiles.Source file(String name, byte[] bytes) {
        return LayoutFiles.Source.of(name, bytes);
    }

    private static Layouts.Laid read(LayoutFiles.Source... files) throws IOException {
        return new LayoutFiles().read(Arrays.asList(files));
    }

    @ParameterizedTest
    @ValueSource(ints = {4, 6, 8})
    void aBoardComesBackToTheMicrometre(int version) throws IOException {
        Board read = read(file("b.kicad_pcb", Written.kicad(BOARD, version))).board();
        assertThat(read.nets()).extracting(Net::name).containsExactlyElementsOf(names(BOARD));
        assertThat(read.parts()).hasSameSizeAs(BOARD.parts());
        for (Part part : BOARD.parts()) {
            Part same = read.part(part.ref()).orElseThrow();
            assertThat(same.side()).isEqualTo(part.side());
            assertThat(same.xMm()).isCloseTo(part.xMm(), within(MICROMETRE_MM));
            assertThat(same.wMm()).isCloseTo(part.wMm(), within(MICROMETRE_MM));
            assertThat(same.value()).isEqualTo(part.value());
            samePins(same, part);
        }
        assertThat(read.outline().maxXMm()).isCloseTo(BOARD.outline().maxXMm(), within(MICROMETRE_MM));
        assertThat(read.outline().minYMm()).isCloseTo(BOARD.outline().minYMm(), within(MICROMETRE_MM));
        assertThat(read.copperLayers()).isEqualTo(4);
        assertThat(read.name()).isEqualTo(BOARD.name());
    }

    private static List<String> names(Board board) {
        return board.nets().stream().map(Net::name).toList();
    }

    private static void samePins(Part same, Part part) {
        assertThat(same.pins()).hasSameSizeAs(part.pins());
        for (int i = 0; i < part.pins().size(); i++) {
            assertThat(same.pins().get(i).net()).isEqualTo(part.pins().get(i).net());
            assertThat(same.pins().get(i).name()).isEqualTo(part.pins().get(i).name());
            assertThat(same.pins().get(i).xMm()).isCloseTo(part.pins().get(i).xMm(), within(MICROMETRE_MM));
            assertThat(same.pins().get(i).yMm()).isCloseTo(part.pins().get(i).yMm(), within(MICROMETRE_MM));
        }
    }

    @Test
    void aNetlistComesBackToTheMicrometre() throws IOException {
        Board read = read(file("b.ipc", BoardTables.ipc356(BOARD))).board();
        for (Part part : BOARD.parts()) {
            Part same = read.part(part.ref()).orElseThrow();
            assertThat(same.side()).isEqualTo(part.side());
            samePins(same, part);
        }
    }

    @Test
    void componentLayersOfBothSidesMakeOneBoard() throws IOException {
        Layouts.Laid laid = read(
                file("top.gbr", Written.gerber(BOARD, Side.TOP)),
                file("bottom.gbr", Written.gerber(BOARD, Side.BOTTOM)),
                file(
                        "job.gbrjob",
                        "{\"GeneralSpecs\":{\"ProjectId\":{\"Name\":\"lamp\"},\"LayerNumber\":6,\"BoardThickness\":0.8}}"));
        assertThat(laid.board().name()).isEqualTo("lamp");
        assertThat(laid.board().copperLayers()).isEqualTo(6);
        assertThat(laid.board().thicknessMm()).isEqualTo(0.8);
        same(laid.board());
    }

    @Test
    void anXmlBoardComesBackToTheMicrometre() throws IOException {
        Board read = read(file("b.xml", Written.ipc2581(BOARD))).board();
        same(read);
        assertThat(read.outline().maxYMm()).isEqualTo(BOARD.outline().maxYMm());
        assertThat(read.copperLayers()).isEqualTo(2);
    }

    private static void same(Board read) {
        assertThat(read.parts()).hasSameSizeAs(BOARD.parts());
        for (Part part : BOARD.parts()) {
            Part same = read.part(part.ref()).orElseThrow();
            assertThat(same.side()).isEqualTo(part.side());
            assertThat(same.value()).isEqualTo(part.value());
            assertThat(same.yMm()).isCloseTo(part.yMm(), within(MICROMETRE_MM));
            assertThat(same.wMm()).isCloseTo(part.wMm(), within(MICROMETRE_MM));
            assertThat(same.hMm()).isCloseTo(part.hMm(), within(MICROMETRE_MM));
            samePins(same, part);
        }
    }

    @Test
    void nothingOutsideAnXmlFileIsOpened() {
        String xml = Written.ipc2581(BOARD)
                .replace("<IPC-2581", "<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/hostname\">]><IPC-2581")
                .replace("<Bom name=\"b\">", "<Bom name=\"b\">&b;");
        assertThatThrownBy(() -> read(file("b.xml", xml))).isInstanceOf(BundleException.class);
    }

    @Test
    void netlistAndTableOfTheSameBoardAgree() throws IOException {
        Layouts.Laid laid = read(
                file("b.kicad_pcb", Written.kicad(BOARD, 8)),
                file("b.ipc", BoardTables.ipc356(BOARD)),
                file("places.csv", BoardTables.centroid(BOARD)));
        assertThat(laid.notes().stream()
                        .filter(n ->
                                n.kind() == Note.Kind.DISAGREES && n.about().equals("places.csv")))
                .isEmpty();
        assertThat(laid.notes()).noneMatch(n -> n.what().contains("nets,"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Designator,Mid X,Mid Y,Rotation,Layer\\nC1,10.5mm,-2mm,90,TopLayer|10.5|-2|TOP",
                "\"RefDes\";\"Center-X(mil)\";\"Center-Y(mil)\";\"Rot\";\"Side\"\\nC1;1000;2000;0;B|25.4|50.8|BOTTOM",
                "### Module positions ###\\n## Unit = mm, Angle = deg.\\n# Ref Val Package PosX PosY Rot Side\\nC1 10u 0603 1.5 2.5 0.0 bottom\\n## End|1.5|2.5|BOTTOM",
                "ref\\tx (inch)\\ty (inch)\\tlayer\\nC1\\t1\\t0.5\\tF.Cu|25.4|12.7|TOP"
            })
    void placesInTheUsualDialects(String text, double x, double y, Side side) throws IOException {
        String lines = text.replace("\\n", "\n").replace("\\t", "\t");
        Part part = read(file("places.csv", lines)).board().part("C1").orElseThrow();
        assertThat(part.xMm()).isCloseTo(x, within(1e-6));
        assertThat(part.yMm()).isCloseTo(y, within(1e-6));
        assertThat(part.side()).isEqualTo(side);
    }

    @Test
    void aPartsListGivesValuesAndWhatIsNotFitted() throws IOException {
        Layouts.Laid laid = read(
                file("p.csv", "Ref,X,Y\nC1,1,1\nC2,2,2\nC3,3,3\nR7,4,4\n"),
                file("bom.csv", "References,Value,Voltage,DNP\n\"C1-C3\",10u,25V,\nR7,0R01,,x\n"));
        assertThat(laid.board().part("C2").orElseThrow().value()).isEqualTo("10u 25V");
        assertThat(laid.board().part("C3").orElseThrow().voltsRated()).hasValue(25);
        assertThat(laid.board().part("R7")).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "b.kicad_pcb|(kicad_pcb (footprint \"a\"|b.kicad_pcb, line 1: the file ends where a list is open",
                "b.kicad_pcb|(kicad_pcb (footprint \"a\" (layer \"F.Cu\")))|b.kicad_pcb, line 1: the footprint has no place",
                "b.kicad_pcb|(kicad_pcb (net 1 \"VIN))|a quotation mark is not closed",
                "p.csv|ref,x,y\\nC1,left,3|p.csv, line 2: x must be a number",
                "a.gbr|%FSLAX46Y46*%\\n%MOMM*%\\nD10*\\nX0Y0D03*|a.gbr: has no attribute .FileFunction",
                "b.xml|<IPC-2581>|b.xml, line 1: is no XML from here on",
                "b.xml|<IPC-2581></IPC-2581>|b.xml: holds no components",
                "b.ipc|327VIN              C1    -1|b.ipc: is none of the formats",
                "note.txt|dear reader|note.txt: is none of the formats that are read"
            })
    void aFileThatCannotBeUsedSaysWhere(String name, String text, String says) {
        assertThatThrownBy(() -> read(file(name, text.replace("\\n", "\n"))))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining(says);
    }

    /** Cut, doubled, and with bytes exchanged: read or refused with a sentence, and never anything else. */
    @Test
    void mutatedFilesAreReadOrRefused() {
        List<String> whole = List.of(
                Written.kicad(BOARD, 8),
                Written.kicad(BOARD, 4),
                BoardTables.ipc356(BOARD),
                BoardTables.centroid(BOARD),
                Written.gerber(BOARD, Side.TOP),
                Written.ipc2581(BOARD),
                "References,Value\n\"C1-C3\",10u\n");
        Random random = new Random(19);
        for (int i = 0; i < 1_500; i++) {
            byte[] bytes = whole.get(i % whole.size()).getBytes(StandardCharsets.UTF_8);
            byte[] mutated = mutated(bytes, random);
            try {
                assertThat(read(file("m", mutated)).board().parts()).isNotNull();
            } catch (BundleException refused) {
                assertThat(refused.getMessage()).startsWith("m").contains(":");
            } catch (IOException other) {
                throw new AssertionError("round " + i, other);
            }
        }
    }

    private static byte[] mutated(byte[] bytes, Random random) {
        byte[] copy = bytes.clone();
        int changes = 1 + random.nextInt(8);
        for (int k = 0; k < changes; k++) {
            int at = random.nextInt(copy.length);
            switch (random.nextInt(4)) {
                case 0 -> copy[at] = (byte) random.nextInt(256);
                case 1 -> copy = Arrays.copyOf(copy, Math.max(1, at));
                case 2 -> copy[at] = (byte) "()\"-9e.,\n".charAt(random.nextInt(9));
                default -> {
                    byte[] twice = Arrays.copyOf(copy, copy.length + Math.min(400, copy.length - at));
                    System.arraycopy(copy, at, twice, copy.length, twice.length - copy.length);
                    copy = twice;
                }
            }
        }
        return copy;
    }
}
