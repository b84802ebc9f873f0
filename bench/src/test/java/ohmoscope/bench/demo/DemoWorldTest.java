package ohmoscope.bench.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Storey;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.job.Outcome;
import ohmoscope.formats.Bundle;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class DemoWorldTest {
    static Stream<Board> boards() {
        return DemoBoards.all().stream();
    }

    @ParameterizedTest
    @MethodSource("boards")
    void boardsAreOfADesignersSize(Board board) {
        assertThat(board.parts()).hasSizeBetween(60, 250);
        assertThat(board.parts().stream().map(Part::side).distinct()).hasSize(2);
        assertThat(board.nets().stream().filter(n -> n.kind() == NetKind.POWER)).hasSizeGreaterThan(4);
        assertThat(board.nets().stream().filter(n -> n.kind() == NetKind.POWER))
                .allSatisfy(n -> assertThat(n.nominalVolts()).isPresent());
    }

    @ParameterizedTest
    @MethodSource("boards")
    void bodiesDoNotOverlapAndStayOnTheBoard(Board board) {
        List<Part> solid =
                board.parts().stream().filter(p -> p.kind() != PartKind.SHIELD).toList();
        Outline.Inside inside = board.outline().inside();
        for (Part a : solid) {
            assertThat(inside.test(a.xMm() - across(a) / 2 + 0.01, a.yMm()))
                    .as(a.ref())
                    .isTrue();
            assertThat(inside.test(a.xMm() + across(a) / 2 - 0.01, a.yMm()))
                    .as(a.ref())
                    .isTrue();
            for (Part b : solid) {
                boolean apart = a.ref().equals(b.ref())
                        || a.side() != b.side()
                        || Math.abs(a.xMm() - b.xMm()) >= (across(a) + across(b)) / 2
                        || Math.abs(a.yMm() - b.yMm()) >= (down(a) + down(b)) / 2;
                assertThat(apart)
                        .as("%s and %s on %s", a.ref(), b.ref(), board.name())
                        .isTrue();
            }
        }
    }

    private static double across(Part p) {
        return p.rotDeg() % 180 == 0 ? p.wMm() : p.hMm();
    }

    private static double down(Part p) {
        return p.rotDeg() % 180 == 0 ? p.hMm() : p.wMm();
    }

    @Test
    void noBoardOfTheShelfRepeatsAnothersRails() throws Exception {
        List<Board> shelf = new ArrayList<>(List.of(
                Rails.TARN.of(DemoBoards.tarn()),
                Rails.BECK.of(DemoBoards.beck()),
                Rails.FURROW.of(DemoBoards.furrow()),
                Rails.RIDGE.of(DemoBoards.ridge()),
                Rails.FELL.of(DemoBoards.fell()),
                Rails.GILL.of(DemoBoards.gill()),
                Rails.HERON.of(DecisionBoards.heron()),
                Rails.OTTER.of(DecisionBoards.otter())));
        for (StartJobs.Layout layout : StartJobs.layouts()) {
            shelf.add(layout.read().board());
        }
        Map<String, String> owner = new HashMap<>();
        for (Board board : shelf) {
            for (Net net : board.nets()) {
                if (net.kind() == NetKind.POWER) {
                    assertThat(owner.putIfAbsent(net.name(), board.name()))
                            .as("%s of %s", net.name(), board.name())
                            .isNull();
                }
            }
        }
        assertThat(new HashSet<>(owner.values())).hasSizeGreaterThan(9);
    }

    @Test
    void theChargersMainRailHasABankAndAPathFromThePort() {
        Board tarn = DemoBoards.tarn();
        assertThat(tarn.partsOn("VMAIN").filter(p -> p.kind() == PartKind.CAPACITOR))
                .hasSizeGreaterThan(40);
        assertThat(Rail.between(tarn, "VBUS", "VMAIN").path())
                .extracting(Part::ref)
                .containsExactly("F1", "Q1", "R3");
    }

    @Test
    void jobsWithEvidenceAndJobsWithFrames() {
        List<DemoJobs.Demo> all = DemoJobs.all();
        assertThat(all).hasSize(19);
        Set<String> ids = new HashSet<>();
        all.forEach(d -> assertThat(ids.add(d.id())).isTrue());
        for (DemoJobs.Demo demo : all.subList(0, 6)) {
            Bundle bundle = demo.bundle().get();
            assertThat(bundle.captures()).as(demo.id()).isEmpty();
            assertThat(bundle.observations()).as(demo.id()).isNotEmpty();
            assertThat(bundle.advise().next()).as(demo.id()).isNotEmpty();
        }
        Bundle first = all.get(6).bundle().get();
        assertThat(first.observations()).hasSizeGreaterThan(4);
        assertThat(first.captures()).hasSize(1);
        assertThat(first.captures().get(0).spec().side()).isEqualTo(Side.TOP);
        assertThat(first.supplyLog()).isPresent();
    }

    /** What a logbook counts: most were named before they were heated, some were not, a few are open. */
    @Test
    void earlierJobsEndInMoreThanOneWay() {
        List<PastJobs.Past> past = PastJobs.all();
        Set<String> ids = new HashSet<>();
        DemoJobs.all().forEach(d -> ids.add(d.id()));
        for (PastJobs.Past job : past) {
            assertThat(ids.add(job.begun().id())).as(job.begun().id()).isTrue();
            Bundle bundle = job.begun().bundle().get();
            assertThat(bundle.observations()).isEmpty();
            EntryLine lines = new EntryLine(bundle.board());
            assertThat(job.acts()).allSatisfy(act -> {
                assertThat(act.after()).isPositive().isLessThan(Outcome.PAUSE);
                if (act instanceof PastJobs.Act.Line typed) {
                    assertThat(lines.parse(typed.line(), 1)).isInstanceOf(EntryLine.Parsed.Entry.class);
                } else if (act instanceof PastJobs.Act.Off off) {
                    assertThat(bundle.board().part(off.ref())).isPresent();
                }
            });
        }
        assertThat(past).hasSizeGreaterThan(20);
        assertThat(past.stream().filter(j -> off(j) == 0)).hasSizeBetween(1, 4);
        assertThat(past.stream().filter(j -> off(j) == 2)).hasSizeBetween(1, 4);
    }

    private static long off(PastJobs.Past job) {
        return job.acts().stream().filter(PastJobs.Act.Off.class::isInstance).count();
    }

    @Test
    void theEvidenceJobsAreJudgedAsTheyWereMeant() {
        assertThat(lead("K-0425")).isEqualTo("DAMAGED_PORT J1");
        assertThat(lead("K-0426")).isEqualTo("OPEN R2");
        assertThat(lead("K-0427")).isEqualTo("LEAKY Q4");
        assertThat(lead("K-0430")).contains("C6");
    }

    private static String lead(String id) {
        return DemoJobs.all().stream()
                .filter(d -> d.id().equals(id))
                .flatMap(d -> d.bundle().get().advise().leading().stream())
                .map(h -> h.code() + " " + h.target())
                .findFirst()
                .orElse("");
    }

    @Test
    void theTelephoneIsAsDenseAsOneAndHasTwoStoreys() {
        Board telephone = DemoBoards.fell();
        assertThat(telephone.parts()).hasSizeGreaterThan(600);
        for (Side side : Side.values()) {
            assertThat(telephone.parts().stream().filter(p -> p.side() == side)).hasSizeGreaterThan(200);
        }
        assertThat(telephone.parts()).extracting(p -> p.storey().orElseThrow()).contains(Storey.UPPER, Storey.LOWER);
        for (Part part : telephone.parts()) {
            assertThat(telephone.parts())
                    .as(part.ref())
                    .noneMatch(o -> o != part && o.side() == part.side() && o.covers(part.xMm(), part.yMm(), 0));
        }
    }

    @Test
    void aBoardOfEachKindOfFileIsReadTheSameEachTime() {
        for (StartJobs.Layout layout : StartJobs.layouts()) {
            Board board = layout.read().board();
            assertThat(board.parts()).as(layout.name()).hasSizeGreaterThan(35);
            assertThat(board.nets()).as(layout.name()).anyMatch(n -> n.kind() == NetKind.POWER);
            assertThat(layout.read().board()).as(layout.name()).isEqualTo(board);
        }
    }

    @Test
    void theLampsPhotographsLieOverItsMap() {
        Board lamp = DemoBoards.gill();
        StartJobs.photographs()
                .forEach((side, one) -> assertThat(one.squared()
                                .laid()
                                .px(lamp.outline().maxXMm(), 0)
                                .xPx())
                        .isCloseTo(one.photo().corners().get(2).xPx(), Offset.offset(0.5)));
    }
}
