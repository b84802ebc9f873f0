package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.FilePayload;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.Test;

/** A job from nothing, in Chromium: by keyboard, on a class of board, with files, and what becomes of its rail. */
class NewJobBrowserTest extends InBrowser {
    private static final byte[] DRAWN = drawn();

    private static byte[] drawn() {
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        try {
            ImageIO.write(new BufferedImage(8, 6, BufferedImage.TYPE_INT_RGB), "png", png);
        } catch (IOException unwritable) {
            throw new UncheckedIOException(unwritable);
        }
        return png.toByteArray();
    }

    private static final String LAYOUT = """
        (kicad_pcb (version 20240108) (general (thickness 1.2))
          (net 0 "") (net 1 "VIN") (net 2 "+3V3") (net 3 "GND")
          (gr_rect (start 0 0) (end 40 30) (layer "Edge.Cuts"))
          (footprint "a:jack" (layer "F.Cu") (at 5 15) (property "Reference" "J1") (property "Value" "jack")
            (pad "1" thru_hole rect (at -1 0) (size 2 2) (net 1 "VIN")) (pad "2" thru_hole rect (at 2 0) (size 2 2) (net 3 "GND")))
          (footprint "a:SOT" (layer "F.Cu") (at 15 15) (property "Reference" "U1") (property "Value" "regulator")
            (pad "1" smd rect (at -1 1) (size 1 1) (net 1 "VIN") (pinfunction "IN"))
            (pad "2" smd rect (at 1 1) (size 1 1) (net 2 "+3V3") (pinfunction "OUT"))
            (pad "3" smd rect (at 0 -1) (size 1 1) (net 3 "GND") (pinfunction "GND")))
          (footprint "a:C_0603" (layer "F.Cu") (at 22 15) (property "Reference" "C1") (property "Value" "10u")
            (pad "1" smd rect (at -0.8 0) (size 1 1) (net 2 "+3V3")) (pad "2" smd rect (at 0.8 0) (size 1 1) (net 3 "GND"))))
        """;

    private int actions;

    private void press(String key) {
        page.keyboard().press(key);
        actions++;
    }

    private void words(String words) {
        page.keyboard().type(words);
        actions++;
    }

    private void enter(String line) {
        int before = page.locator(".e[data-seq]").count();
        page.locator("#line").fill(line);
        page.keyboard().press("Enter");
        assertThat(page.locator("#line")).hasValue("");
        if (!line.equals("undo")) {
            assertThat(page.locator(".e[data-seq]")).hasCount(before + 1);
        }
    }

    private String opened(String device, String board) {
        go("/new");
        page.locator("#device").fill(device);
        page.locator("#account").fill("dead since the storm");
        page.locator("input[value=out]").check();
        page.locator("#board").selectOption(board);
        page.locator(".begin .btn-act").click();
        page.waitForURL("**/jobs/**");
        return page.url().replaceAll(".*/jobs/", "");
    }

    /** Nine actions: a key, a word or a line each. At a second and a half for each they take a quarter of a minute. */
    @Test
    void aJobInTwentySecondsWithoutTheMouse() {
        go("/");
        actions = 0;
        press("n");
        page.waitForURL("**/new");
        assertThat(page.locator("#device")).isFocused();
        words("Bothy weather mast");
        press("Tab");
        words("dead since the storm");
        press("Tab");
        press("ArrowRight");
        press("Tab");
        words("Small");
        assertThat(page.locator("#board option:checked")).hasText("Small instrument with a linear regulator");
        press("Control+Enter");
        page.waitForURL("**/jobs/**");
        assertThat(actions).isLessThanOrEqualTo(10);
        assertThat(page.locator("h1.job")).containsText("Bothy weather mast, as small instrument");
        assertThat(page.locator(".rail-known")).hasText("not known yet");
        assertThat(page.locator(".ev")).containsText("dead since the storm");
        assertThat(page.locator("#walk li.now")).containsText("First power");
        accessible();
        go("/");
        assertThat(page.locator(".jobs tbody tr").first()).containsText("Bothy weather mast");
        assertThat(page.locator(".jobs tbody tr").first()).containsText("not said");
    }

    @Test
    void fromNothingToTheHandBackOnAClassOfBoard() {
        String job = opened("Peat probe", "generic:small-instrument");
        enter("look J1 clean");
        enter("dead");
        enter("charger J1 9V 0.62A");
        enter("V5 d .41");
        enter("V3_3 d .002");
        assertThat(page.locator(".rail-known")).hasText("found");
        assertThat(page.locator("h1.job .rail-name")).hasText("V3_3");
        assertThat(page.locator(".stops")).containsText("V3_3 is shorted");
        enter("inj V3_3 1V 2A 161mV 2.00A at C7 leads 30mohm");
        enter("warm C8 6K");
        assertThat(page.locator(".next .s")).containsText("C8");
        enter("removed C8");
        enter("V3_3 d .44");
        enter("charger J1 9V 0.11A on");
        enter("boots");
        go("/jobs/" + job + "/hand-back");
        assertThat(page.locator("main")).containsText("C8");
        assertThat(page.locator("main")).containsText("V3_3");
        accessible();
    }

    @Test
    void aLayoutBringsItsPartsAndSaysWhatWasGuessed() {
        go("/new");
        page.locator("#device").fill("Kelp rake");
        page.locator("#files")
                .setInputFiles(
                        new FilePayload("rake.kicad_pcb", "text/plain", LAYOUT.getBytes(StandardCharsets.UTF_8)));
        page.locator(".begin .btn-act").click();
        page.waitForURL("**/jobs/**");
        enter("+3V3 d .003");
        assertThat(page.locator("h1.job .rail-name")).hasText("+3V3");
        go(page.url().replaceAll("^.*?/jobs", "/jobs") + "/rails");
        assertThat(page.locator(".rail-tree")).containsText("U1");
        page.locator(".came summary").click();
        assertThat(page.locator(".came")).containsText("U1 makes +3V3");
        go(page.url().replaceAll("^.*?/jobs", "/jobs").replace("/rails", ""));
        for (String line : List.of(
                "unplugged battery",
                "inj +3V3 1V 2A 161mV 2.00A at U1 leads 30mohm",
                "warm C1 6K",
                "removed C1",
                "+3V3 d .44",
                "boots")) {
            enter(line);
        }
        page.locator("a:has-text('Hand-back page')").last().click();
        assertThat(page.locator(".wrong")).containsText("C1");
        assertThat(page.locator(".wrong")).containsText("shorted +3V3");
        accessible();
        // The next of its kind finds its board by the device's name, or in the list.
        go("/new");
        assertThat(page.locator("#board optgroup").first()).containsText("Kelp rake");
    }

    @Test
    void aFileThatCannotBeUsedSaysWhyAndKeepsWhatWasTyped() {
        long before = server.bean(JobStore.class).count("");
        go("/new");
        page.locator("#device").fill("Kelp rake");
        page.locator("#account").fill("no light");
        page.locator("#files")
                .setInputFiles(new FilePayload(
                        "cut.kicad_pcb", "text/plain", LAYOUT.substring(0, 300).getBytes(StandardCharsets.UTF_8)));
        page.locator(".begin .btn-act").click();
        assertThat(page.locator(".refused")).containsText("cut.kicad_pcb, line");
        assertThat(page.locator("#device")).hasValue("Kelp rake");
        assertThat(page.locator("#account")).hasValue("no light");
        accessible();
        page.locator(".begin .btn-act").click();
        assertThat(page.locator(".refused"))
                .containsText("take one of the shop's, a class of device, or give its files");
        assertThat(server.bean(JobStore.class).count("")).isEqualTo(before);
    }

    @Test
    void filesThatDisagreeAreDecidedAndTheJobGoesOver() {
        // Y down in the layout and up in the table; C1 with another value, and a part that only the table has.
        String table =
                "Designator,Val,Package,Mid X,Mid Y,Rotation,Layer\nJ1,jack,a,5,-15,0,top\nU1,regulator,a,15,-15,0,top\n"
                        + "C1,22u,a,22,-15,0,top\nR9,0R,a,30,-5,0,top\n";
        go("/new");
        page.locator("#device").fill("Kelp rake of two files");
        page.locator("#files").setInputFiles(new FilePayload[] {
            new FilePayload("rake.kicad_pcb", "text/plain", LAYOUT.getBytes(StandardCharsets.UTF_8)),
            new FilePayload("rake.csv", "text/csv", table.getBytes(StandardCharsets.UTF_8))
        });
        page.locator(".begin .btn-act").click();
        page.waitForURL("**/files?job=*");
        accessible();
        assertThat(page.locator(".read-files")).containsText("3 of 3 parts stand where they should");
        assertThat(page.locator(".disagree tbody tr")).hasCount(2);
        page.locator("select[aria-label='C1, value']").selectOption("rake.csv");
        page.locator("select[aria-label='R9, is it there']").selectOption("rake.kicad_pcb");
        leaving(() -> page.locator(".files-page form .btn-act").click());
        assertThat(page.locator("select[aria-label='C1, value']")).hasValue("rake.csv");
        page.setViewportSize(390, 800);
        page.waitForFunction("() => document.documentElement.scrollWidth <= 390");
        page.setViewportSize(1280, 800);
        page.locator("a.btn-act").click();
        page.waitForURL("**/jobs/*");
        page.locator("#line").fill("R9 d .4");
        page.keyboard().press("Enter");
        assertThat(page.locator("#echo")).containsText("R9");
        assertThat(page.locator(".part[data-ref=C1]").first())
                .hasAttribute("aria-label", Pattern.compile("C1 · capacitor 22u.*"));
        assertThat(page.locator(".part[data-ref=R9]")).hasCount(0);
    }

    @Test
    void theRailIsSaidAndTakenBackAndPointsAreMet() {
        String job = opened("Croft console", "generic:handheld-console");
        go("/jobs/" + job + "/rails");
        assertThat(page.locator("aside")).containsText("Nobody has said which");
        page.locator("#rail").selectOption("V1_8");
        page.locator("#rail + button").click();
        assertThat(page.locator("h1.job .rail-name")).hasText("V1_8");
        assertThat(page.locator(".rail-known")).hasCount(0);
        page.locator("#rail").selectOption("");
        page.locator("#rail + button").click();
        assertThat(page.locator(".rail-known")).hasText("not known yet");
        page.locator(".point summary").click();
        page.locator("#point").fill("cap left of U3");
        page.locator("#net").fill("VCORE");
        page.locator("#other").fill("GND");
        page.locator(".point button").click();
        assertThat(page.locator("aside")).containsText("cap-left-of-U3");
        accessible();
        go("/jobs/" + job);
        enter("cap-left-of-U3 ohm 2.1");
        assertThat(page.locator(".ev")).containsText("cap-left-of-U3");
    }

    @Test
    void theBoardItselfTakesThePlaceOfOneOfItsClass() {
        String job = opened("Kelp rake II", "generic:small-instrument");
        go("/jobs/" + job + "/frames");
        assertThat(page.locator(".refused")).containsText("its places are made up");
        go("/jobs/" + job);
        enter("look J1 clean");
        enter("V5 d .41");
        go("/jobs/" + job + "/board");
        accessible();
        FilePayload layout = new FilePayload("rake.kicad_pcb", "text/plain", LAYOUT.getBytes(StandardCharsets.UTF_8));
        page.locator("#files").setInputFiles(layout);
        page.locator(".begin .btn-act").click();
        assertThat(page.locator(".refused")).containsText("does not have V5");
        go("/jobs/" + job);
        enter("undo");
        go("/jobs/" + job + "/board");
        page.locator("#files").setInputFiles(layout);
        page.locator(".begin .btn-act").click();
        page.waitForURL("**/rails");
        assertThat(page.locator(".rail-tree")).containsText("+3V3");
        go("/jobs/" + job);
        assertThat(page.locator(".ev")).containsText("J1");
        go("/jobs/" + job + "/frames");
        assertThat(page.locator(".refused")).hasCount(0);
    }

    @Test
    void theLookTourTakesAKeyAFinding() {
        String job = opened("Ferry counter", "generic:jack-portable");
        go("/jobs/" + job + "/look");
        accessible();
        assertThat(page.locator(".point")).containsText("J1");
        page.keyboard().press("c");
        assertThat(page.locator("#seen-so-far")).containsText("J1 clean");
        String second = page.locator(".point .rf").textContent();
        page.keyboard().press("n");
        assertThat(page.locator(".point .rf")).not().hasText(second);
        String third = page.locator(".point .rf").textContent();
        page.keyboard().press("k");
        assertThat(page.locator("#seen-so-far")).containsText(third + " cracked");
        assertThat(page.locator("#walk")).containsText("2 looks");
        go("/jobs/" + job);
        assertThat(page.locator(".ev")).containsText(third + " cracked");
    }

    @Test
    void whatTheDrawAsksForIsLookedAtFirstAndPicturesArePinnedToTheirParts() {
        String job = opened("Ferry counter", "generic:jack-portable");
        assertThat(page.locator(".look-first")).hasCount(0);
        enter("unplugged battery");
        enter("charger J1 19V 0.02A flat on");
        enter("dead");
        go("/jobs/" + job);
        assertThat(page.locator(".look-first")).containsText("all the volts it asked for");
        accessible();
        page.locator(".look-first a").click();
        assertThat(page.locator(".look-first")).isVisible();
        String first = page.locator(".point .rf").textContent();
        page.setInputFiles("#photos", new FilePayload("scope.png", "image/png", DRAWN));
        leaving(() -> page.locator("#photo-form button").click());
        assertThat(page.locator(".ask .photos img")).hasCount(1);
        page.locator(".findings [data-key=c]").click();
        assertThat(page.locator("#seen-so-far")).containsText(first + " clean");
        assertThat(page.locator("#seen-so-far .photos img")).hasCount(1);
        accessible();
        // A drop on the page is a picture of the part that is asked for now, though the form was swapped since.
        String second = page.locator(".point .rf").textContent();
        page.evaluate(
                "async bytes => { const d = new DataTransfer(); d.items.add(new File([new Uint8Array(bytes)], 'b.png', {type: 'image/png'}));"
                        + " document.dispatchEvent(new DragEvent('drop', {dataTransfer: d, bubbles: true, cancelable: true})); }",
                IntStream.range(0, DRAWN.length).map(i -> DRAWN[i]).boxed().toList());
        assertThat(page.locator(".ask .photos img")).hasCount(1);
        go("/jobs/" + job + "/receive");
        assertThat(page.locator(".photos li")).hasCount(2);
        assertThat(page.locator(".photos")).containsText(first + " under the microscope");
        assertThat(page.locator(".photos")).containsText(second + " under the microscope");
    }

    @Test
    void pinsAreTappedAndSayWhatDied() {
        String job = opened("Ferry counter", "generic:port-portable");
        go("/jobs/" + job + "/port");
        accessible();
        page.locator("a[aria-label^='A4,']").click();
        assertThat(page.locator("main")).containsText("power meets a line");
        assertThat(page.locator("main")).containsText("Dead with side A of the plug up");
        assertThat(page.locator(".order")).containsText("have U4 at hand");
        accessible();
        page.locator(".port-page .tags button").click();
        page.waitForURL("**/jobs/" + job);
        assertThat(page.locator(".stops")).containsText("pins of J1 touch");
        go("/jobs/" + job + "/port?marks=A4t&view=pads");
        assertThat(page.locator(".pin.touches-next")).hasCount(1);
    }

    @Test
    void itFitsATelephone() {
        page.setViewportSize(390, 800);
        go("/new");
        page.waitForFunction("() => document.documentElement.scrollWidth <= 390");
        accessible();
        page.setViewportSize(1280, 800);
    }
}
