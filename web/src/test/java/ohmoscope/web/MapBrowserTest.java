package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.FilePayload;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.bench.photo.BoardPhoto;
import ohmoscope.bench.photo.Shot;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.PartNames;
import ohmoscope.core.photomap.PointPx;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.photo.UprightPicture;
import org.junit.jupiter.api.Test;

/** A board mapped from photographs, in Chromium: corners, thirty parts, nets by brush, undo, both sides, and a job on it. */
class MapBrowserTest extends InBrowser {
    private static final Board BOARD = DemoBoards.beck();
    private static final Shot SHOT = new Shot(2000, 1500, 3, -4, 2, 0.7, 3, 1, 0.2, 0.06, 0.2, 0, Shot.Mask.GREEN, 5);
    private static final Map<PartKind, String> KEYS = Map.of(
            PartKind.CAPACITOR,
            "c",
            PartKind.RESISTOR,
            "r",
            PartKind.INDUCTOR,
            "l",
            PartKind.FUSE,
            "f",
            PartKind.TVS,
            "v");

    private int actions;

    private void opened(String device, String board) {
        go("/new");
        page.locator("#device").fill(device);
        page.locator("#board").selectOption(board);
        page.locator("input[name=map]").check();
        page.locator(".begin .btn-act").click();
        page.waitForSelector("#map-page[data-ready=yes]");
    }

    private List<PointPx> brought(Side side) throws IOException {
        BoardPhoto photo = BoardPhoto.of(BOARD, side, SHOT);
        page.locator("#photos")
                .setInputFiles(new FilePayload("held.jpg", "image/jpeg", UprightPicture.jpeg(photo.picture())));
        page.waitForSelector(".handle[data-kind=corners]");
        return photo.corners();
    }

    /** Where a place of the picture's own axes is on the screen. */
    private double[] screen(double x, double y) {
        @SuppressWarnings("unchecked")
        List<Number> at = (List<Number>) page.evaluate(
                "([x, y]) => { const q = new DOMPoint(x, y).matrixTransform(document.getElementById('map').getScreenCTM()); return [q.x, q.y]; }",
                List.of(x, y));
        return new double[] {at.get(0).doubleValue(), at.get(1).doubleValue()};
    }

    private void cornersDragged(List<PointPx> corners) {
        for (int i = 0; i < 4; i++) {
            BoundingBox handle = page.locator(".handle[data-kind=corners][data-index='" + i + "'] circle")
                    .boundingBox();
            double[] to = screen(corners.get(i).xPx(), corners.get(i).yPx());
            page.mouse().move(handle.x + handle.width / 2, handle.y + handle.height / 2);
            page.mouse().down();
            page.mouse().move(to[0], to[1]);
            page.mouse().up();
            actions++;
        }
    }

    private void squared() {
        page.locator("#width").fill(String.valueOf(BOARD.outline().maxXMm()));
        page.locator("#height").fill(String.valueOf(BOARD.outline().maxYMm()));
        page.locator("#square-form .btn-act").click();
        actions += 3;
        assertThat(page.locator("#putting")).isVisible();
    }

    private void point(Part part) {
        double[] at = screen(part.xMm(), BOARD.outline().maxYMm() - part.yMm());
        page.mouse().move(at[0], at[1]);
    }

    private List<Part> thirty() {
        return BOARD.parts().stream()
                .filter(p -> p.side() == Side.TOP && KEYS.containsKey(p.kind()))
                .limit(30)
                .toList();
    }

    /**
     * A point and a letter for each part, and no more than a dozen actions beside them: at three seconds for each of the
     * actions thirty parts take under four minutes.
     */
    @Test
    void thirtyPartsOnAPhotograph() throws IOException {
        opened("Beck of photographs", "photographs");
        String map = page.url();
        go("/jobs/" + page.locator("#keep-form input[name=job]").inputValue());
        assertThat(page.locator(".known")).containsText("Nothing is known of this board yet");
        assertThat(page.locator(".sus")).hasCount(0);
        accessible();
        page.navigate(map);
        actions = 0;
        cornersDragged(brought(Side.TOP));
        squared();
        page.locator("#net").fill("VIN");
        page.locator("#net").press("Enter");
        actions += 2;
        page.waitForCondition(() ->
                ((Number) page.evaluate("() => document.querySelectorAll('.map-photo image').length")).intValue() == 1);
        // The picture's own bodies give sizes and turns once they have been looked for.
        page.waitForResponse(
                r -> r.url().contains("/map/found"),
                () -> page.locator("#propose").click());
        for (Part part : thirty()) {
            int before = Integer.parseInt(page.locator("#count").textContent());
            point(part);
            page.keyboard().press(KEYS.get(part.kind()));
            actions += 2;
            assertThat(page.locator("#count")).hasText(String.valueOf(before + 1));
        }
        assertThat(actions).isLessThanOrEqualTo(75);
        accessible();
        page.locator("#keep-form button").click();
        page.waitForURL("**/jobs/**");
        assertThat(page.locator("svg.board image.under").first())
                .hasAttribute("href", Pattern.compile(".*/photo/TOP.jpg"));
        String board = String.valueOf(
                        page.locator("svg.board image.under").first().getAttribute("href"))
                .replaceAll("/photo/.*", "/board.json");
        Board kept = BoardJson.read(
                new ByteArrayInputStream(page.request().get(server.url(board)).body()), "board.json");
        // References count on: they stand in the order in which they were put.
        Map<PartKind, Integer> counted = new EnumMap<>(PartKind.class);
        double off = 0;
        for (Part part : thirty()) {
            int n = counted.merge(part.kind(), 1, Integer::sum);
            String letters = PartNames.letters(part.kind());
            Part put = kept.part(letters + n).orElseThrow();
            off = Math.max(off, Math.hypot(put.xMm() - part.xMm(), put.yMm() - part.yMm()));
        }
        assertThat(off).isLessThan(0.6);
        page.locator("a:has-text('Frames into this job')").click();
        assertThat(page.locator("main")).not().containsText("made up");
        page.goBack();
        toTheHandBack("C2", "VIN");
    }

    /** On what was just mapped: read, fed, warm, off, right again, starts. */
    private void toTheHandBack(String culprit, String net) {
        assertThat(page.locator(".known")).containsText("on the map");
        for (String line : List.of(
                "unplugged battery",
                net + " d .002",
                "inj " + net + " 1V 2A 161mV 2.00A at C1 leads 30mohm",
                "warm " + culprit + " 6K",
                "removed " + culprit,
                net + " d .44",
                "boots")) {
            int before = page.locator(".e[data-seq]").count();
            page.locator("#line").fill(line);
            page.keyboard().press("Enter");
            assertThat(page.locator(".e[data-seq]")).hasCount(before + 1);
            if (line.startsWith("warm")) {
                assertThat(page.locator(".next .s")).containsText(culprit);
            }
        }
        page.locator("a:has-text('Hand-back page')").last().click();
        assertThat(page.locator(".wrong")).containsText(culprit);
        assertThat(page.locator(".wrong")).containsText("shorted " + net);
        assertThat(page.locator("svg.board image.under").first()).isAttached();
        accessible();
    }

    @Test
    void theBrushUndoAndBothSides() throws IOException {
        opened("Brushed gauge", "photographs");
        cornersDragged(brought(Side.TOP));
        squared();
        Part first = thirty().get(0);
        point(first);
        page.keyboard().press("r");
        assertThat(page.locator("#count")).hasText("1");
        page.locator("#net").fill("VSYS");
        page.locator("#net").press("Enter");
        page.keyboard().press("p");
        double[] at = screen(first.xMm(), BOARD.outline().maxYMm() - first.yMm());
        page.mouse().move(at[0] - 14, at[1] - 14);
        page.mouse().down();
        page.mouse().move(at[0], at[1]);
        page.mouse().move(at[0] + 14, at[1] + 14);
        page.mouse().up();
        assertThat(page.locator("#placed")).containsText("VSYS");
        page.keyboard().press("z");
        assertThat(page.locator("#placed")).not().containsText("VSYS");
        page.keyboard().press("z");
        assertThat(page.locator("#count")).hasText("0");
        page.keyboard().press("p");
        page.keyboard().press("x");
        assertThat(page.locator("#map-words")).containsText("No photograph of the bottom yet");
        cornersDragged(brought(Side.BOTTOM));
        page.locator("#square-form .btn-act").click();
        assertThat(page.locator("#holes")).isVisible();
        page.locator("#holes").click();
        for (double[] place : new double[][] {{5, 5}, {60, 40}}) {
            hole(place, false);
        }
        assertThat(page.locator("#map-words")).containsText("same two holes here");
        for (double[] place : new double[][] {{5.4, 5}, {60.4, 40}}) {
            hole(place, true);
        }
        assertThat(page.locator("#map-words")).containsText("lies under the top");
    }

    private void hole(double[] mm, boolean onTop) {
        double w = BOARD.outline().maxXMm();
        double[] at = screen(onTop ? mm[0] : w - mm[0], BOARD.outline().maxYMm() - mm[1]);
        page.mouse().click(at[0], at[1]);
    }

    @Test
    void aClassOfBoardIsPutOnAPhotographAndKeepsItsNets() throws IOException {
        opened("Photographed instrument", "generic:small-instrument");
        cornersDragged(brought(Side.TOP));
        squared();
        int waiting = page.locator("#waiting button").count();
        assertThat(waiting).isGreaterThan(10);
        page.locator("#waiting button[data-ref=J1]").click();
        double[] at = screen(20, 20);
        page.mouse().click(at[0], at[1]);
        assertThat(page.locator("#waiting button")).hasCount(waiting - 1);
        assertThat(page.locator("#placed")).containsText("J1");
        page.setViewportSize(390, 844);
        int wide = ((Number) page.evaluate("() => document.documentElement.scrollWidth")).intValue();
        assertThat(wide).isLessThanOrEqualTo(390);
    }

    @Test
    void whatIsNoPictureIsRefusedInWords() {
        opened("Torn picture", "photographs");
        page.locator("#photos").setInputFiles(new FilePayload("notes.jpg", "image/jpeg", new byte[] {1, 2, 3}));
        assertThat(page.locator("main")).containsText("notes.jpg");
        complaints().removeIf(c -> c.contains("400"));
    }
}
