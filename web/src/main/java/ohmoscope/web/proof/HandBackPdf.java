package ohmoscope.web.proof;

import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.svgsupport.BatikSVGDrawer;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongFunction;
import javax.imageio.ImageIO;
import ohmoscope.web.store.IntakeStore;
import org.springframework.stereotype.Component;
import org.thymeleaf.ITemplateEngine;
import org.thymeleaf.context.Context;

/**
 * The hand-back as a document: A4, tagged, its fonts within it. Nothing is fetched: pictures and board are part of what is laid
 * out. About a second for a dozen pictures; each is at most {@link #MOST_PX} wide in it.
 */
@Component
class HandBackPdf {
    private static final int MOST_PX = 900;
    /** The board across, CSS pixels. */
    private static final int FIGURE_PX = 440;
    /** More belong into the job's own record. */
    private static final int MOST_PICTURES = 24;

    private final ITemplateEngine templates;

    HandBackPdf(ITemplateEngine templates) {
        this.templates = templates;
    }

    /** For whom it is written. */
    enum Edition {
        TECHNICIAN,
        CUSTOMER
    }

    /** A picture as it stands in the document. @param data its content, as a {@code data:} address */
    record Picture(String caption, String data) {}

    /** @throws IOException where a font or picture cannot be read */
    byte[] of(HandBackView page, List<Picture> pictures, Edition edition) throws IOException {
        Context context = new Context(Locale.ENGLISH);
        context.setVariable("page", page);
        context.setVariable("pictures", pictures);
        context.setVariable("technician", edition == Edition.TECHNICIAN);
        context.setVariable("figureWidth", FIGURE_PX);
        context.setVariable(
                "figureHeight",
                Math.round(
                        FIGURE_PX * page.picture().heightMm() / page.picture().widthMm()));
        String html = templates.process("print/hand-back", context);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (BatikSVGDrawer svg = new BatikSVGDrawer()) {
            PdfRendererBuilder builder = new PdfRendererBuilder();
            builder.useFastMode();
            builder.usePdfUaAccessibility(true);
            builder.useSVGDrawer(svg);
            builder.useFont(() -> font("text-400"), "Text", 400, FontStyle.NORMAL, true);
            builder.useFont(() -> font("text-650"), "Text", 700, FontStyle.NORMAL, true);
            builder.useFont(() -> font("mono-500"), "Reading", 400, FontStyle.NORMAL, true);
            builder.withProducer("Ohmoscope");
            builder.withHtmlContent(html, "");
            builder.toStream(out);
            builder.run();
        }
        return out.toByteArray();
    }

    private static InputStream font(String name) {
        return Optional.ofNullable(HandBackPdf.class.getResourceAsStream("/print/" + name + ".ttf"))
                .orElseThrow(() -> new IllegalStateException("the font " + name + " is not shipped"));
    }

    /** Pictures made small enough to be sent by mail; one that cannot be read is left out. */
    static List<Picture> pictures(List<ShownPicture> photos, LongFunction<Optional<IntakeStore.Content>> content)
            throws IOException {
        List<Picture> pictures = new ArrayList<>();
        for (ShownPicture photo : photos) {
            Optional<IntakeStore.Content> stored =
                    pictures.size() < MOST_PICTURES ? content.apply(photo.id()) : Optional.empty();
            if (stored.isPresent()) {
                BufferedImage image =
                        ImageIO.read(new ByteArrayInputStream(stored.get().bytes()));
                if (image != null) {
                    pictures.add(new Picture(photo.caption(), jpeg(image)));
                }
            }
        }
        return pictures;
    }

    private static String jpeg(BufferedImage image) throws IOException {
        double by = Math.min(1, (double) MOST_PX / Math.max(image.getWidth(), image.getHeight()));
        int w = Math.max(1, (int) Math.round(image.getWidth() * by));
        int h = Math.max(1, (int) Math.round(image.getHeight() * by));
        BufferedImage small = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = small.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        g.drawImage(image, 0, 0, w, h, null);
        g.dispose();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(small, "jpeg", out);
        return "data:image/jpeg;base64," + Base64.getEncoder().encodeToString(out.toByteArray());
    }
}
