package ohmoscope.web.config;

import java.io.IOException;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BundleException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Turns what goes wrong into a page that says what, and how to go on; never a stack trace. */
@ControllerAdvice
class PageAdvice {
    private static final Logger LOG = LoggerFactory.getLogger(PageAdvice.class);

    @ExceptionHandler({NotFoundException.class, NoResourceFoundException.class})
    @ResponseStatus(HttpStatus.NOT_FOUND)
    String notFound(Exception missing, Model model) {
        return page(
                model,
                "Nothing here",
                missing instanceof NotFoundException ? missing.getMessage() : "This address leads nowhere.");
    }

    @ExceptionHandler(InvalidMember.class)
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    String refused(InvalidMember refused, Model model) {
        return page(model, "That cannot be kept", refused.getMessage() + ".");
    }

    @ExceptionHandler(BundleException.class)
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    String unusable(BundleException unusable, Model model) {
        return page(model, "That file cannot be used", unusable.getMessage() + ". Nothing of it was kept.");
    }

    @ExceptionHandler(MaxUploadSizeExceededException.class)
    @ResponseStatus(HttpStatus.PAYLOAD_TOO_LARGE)
    String tooLarge(Model model) {
        return page(model, "That file is too large", "A bundle may be up to 16 GB.");
    }

    @ExceptionHandler(IOException.class)
    @ResponseStatus(HttpStatus.INTERNAL_SERVER_ERROR)
    String unreadable(IOException failure, Model model) {
        LOG.warn("reading or writing failed", failure);
        return page(
                model,
                "Reading or writing failed",
                "What was kept before is still there. Try again; the log has the reason.");
    }

    @ExceptionHandler(org.springframework.dao.DataAccessException.class)
    @ResponseStatus(HttpStatus.SERVICE_UNAVAILABLE)
    String database(org.springframework.dao.DataAccessException failure, Model model) {
        LOG.warn("database", failure);
        return page(
                model, "The database did not answer", "Nothing was lost. Look at ./ohmoscope status, then try again.");
    }

    private static String page(Model model, String heading, String sentence) {
        model.addAttribute("heading", heading);
        model.addAttribute("sentence", sentence);
        return "problem";
    }
}
