package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.Random;
import javax.imageio.ImageIO;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.IntakeStore;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.cos.COSName;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The hand-back as a document, opened by somebody else's reader. */
class HandBackPdfTest extends OverHttp {
    private static final String JOB = "T-PDF";
    private static final int MOST_BYTES = 5_000_000;
    private static final int PICTURES = 12;

    @BeforeAll
    void store() throws Exception {
        long id = server.bean(BundleImporter.class).add(Simulated.job(JOB), "test", share -> true);
        IntakeStore intakes = server.bean(IntakeStore.class);
        byte[] picture = picture(new Random(5));
        for (int i = 0; i < PICTURES; i++) {
            long photo = intakes.addPhoto(
                    id,
                    i == 0 ? "scorched <corner> & screw" : "",
                    new IntakeStore.Content("image/jpeg", picture),
                    "test");
            if (i == 1) {
                intakes.pin(photo, Simulated.CULPRIT, "test");
            }
        }
    }

    /** As busy as a photograph. */
    private static byte[] picture(Random random) throws Exception {
        BufferedImage image = new BufferedImage(2400, 1800, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < image.getHeight(); y++) {
            for (int x = 0; x < image.getWidth(); x++) {
                int v = (int) Math.max(
                        0, Math.min(255, 128 + 60 * Math.sin(x / 90.0 + y / 70.0) + 12 * random.nextGaussian()));
                image.setRGB(x, y, new Color(v, 255 - v, v / 2).getRGB());
            }
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(image, "jpeg", out);
        return out.toByteArray();
    }

    private byte[] document(String query) throws Exception {
        HttpResponse<byte[]> answer = http.send(
                HttpRequest.newBuilder(URI.create(server.url("/jobs/" + JOB + "/hand-back.pdf" + query)))
                        .build(),
                BodyHandlers.ofByteArray());
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.headers().firstValue("Content-Type")).contains("application/pdf");
        return answer.body();
    }

    @Test
    void itIsTaggedWithItsFontsWithinAndNotTooLarge() throws Exception {
        byte[] bytes = document("");
        assertThat(bytes.length).isLessThan(MOST_BYTES);
        try (PDDocument pdf = Loader.loadPDF(bytes)) {
            assertThat(pdf.getDocumentCatalog().getStructureTreeRoot()).isNotNull();
            assertThat(pdf.getDocumentCatalog().getMarkInfo().isMarked()).isTrue();
            assertThat(pdf.getDocumentCatalog().getLanguage()).isEqualTo("en");
            assertThat(pdf.getDocumentInformation().getTitle()).contains(JOB);
            for (PDPage page : pdf.getPages()) {
                assertThat(page.getMediaBox().getWidth()).isBetween(594f, 596f);
                for (COSName name : page.getResources().getFontNames()) {
                    assertThat(page.getResources().getFont(name).isEmbedded()).isTrue();
                }
            }
            String text = new PDFTextStripper().getText(pdf);
            assertThat(text)
                    .contains(JOB)
                    .contains("What was wrong")
                    .contains("scorched <corner> & screw")
                    .contains(Simulated.CULPRIT)
                    .contains("Evidence");
        }
    }

    @Test
    void theCustomersHasNoEntries() throws Exception {
        try (PDDocument pdf = Loader.loadPDF(document("?edition=customer"))) {
            String text = new PDFTextStripper().getText(pdf);
            assertThat(text)
                    .contains("What was done")
                    .contains("Before it is used again")
                    .doesNotContain("Evidence");
        }
        assertThat(get("/jobs/" + JOB + "/hand-back.pdf?edition=owner").statusCode())
                .isEqualTo(400);
        assertThat(get("/jobs/" + JOB + "/hand-back").body()).contains("hand-back.pdf?edition=customer");
    }

    @Test
    void entriesGoOutAsATableAndAsJson() throws Exception {
        HttpResponse<String> table = get("/jobs/" + JOB + "/entries.csv");
        assertThat(table.headers().firstValue("Content-Disposition").orElseThrow())
                .contains(JOB + "-entries.csv");
        assertThat(table.body()).startsWith("seq,recorded_at,by,entry,meaning\n0,20");
        JsonNode json = JsonMapper.builder()
                .build()
                .readTree(get("/jobs/" + JOB + "/entries.json").body());
        assertThat(json.get("job").asString()).isEqualTo(JOB);
        assertThat(json.get("entries").get(0).get("observation").get("seq").asInt())
                .isZero();
        assertThat(json.get("entries").size()).isEqualTo(table.body().lines().count() - 1);
        assertThat(get("/jobs/" + JOB + "/entries.xml").statusCode()).isEqualTo(404);
    }
}
