package ohmoscope.web.config;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.frames.FrameStack;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.security.web.firewall.RequestRejectedException;
import org.springframework.transaction.TransactionException;
import org.springframework.ui.Model;
import org.springframework.validation.BindException;
import org.springframework.web.HttpMediaTypeException;
import org.springframework.web.HttpRequestMethodNotSupportedException;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.ServletRequestBindingException;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MultipartException;
import org.springframework.web.multipart.support.MissingServletRequestPartException;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Turns what goes wrong into a page that says what, and how to go on; never a stack trace. */
@ControllerAdvice
class PageAdvice {
    private static final Logger LOG = LoggerFactory.getLogger(PageAdvice.class);

    /** Whoever listened has left the page: nobody is there to be told. */
    @ExceptionHandler(AsyncRequestNotUsableException.class)
    void gone() {}

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

    @ExceptionHandler(EntryChanged.class)
    @ResponseStatus(HttpStatus.CONFLICT)
    String changed(EntryChanged changed, Model model) {
        return page(
                model,
                "Somebody else was there first",
                "Entry " + changed.place() + " was changed meanwhile. Go back, look at it, and correct it again.");
    }

    @ExceptionHandler(BundleException.class)
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    String unusable(BundleException unusable, Model model) {
        return page(model, "That file cannot be used", unusable.getMessage() + ". Nothing of it was kept.");
    }

    @ExceptionHandler(RequestRejectedException.class)
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    String notText(Model model) {
        return page(
                model,
                "That cannot be kept",
                "What was sent holds control characters, which are no text. Type it again.");
    }

    /** A part of the address or a field that is missing, or not what is expected there. */
    @ExceptionHandler({
        ServletRequestBindingException.class,
        TypeMismatchException.class,
        BindException.class,
        MissingServletRequestPartException.class,
        HttpMessageNotReadableException.class
    })
    @ResponseStatus(HttpStatus.BAD_REQUEST)
    String misread(Exception misread, Model model) {
        return page(model, "That was not understood", field(misread) + " Go back, and fill it in again.");
    }

    private static String field(Exception misread) {
        if (misread instanceof MethodArgumentTypeMismatchException e) {
            return "“" + e.getName() + "” is not what is expected there.";
        }
        if (misread instanceof MissingServletRequestParameterException e) {
            return "“" + e.getParameterName() + "” is missing.";
        }
        if (misread instanceof MissingServletRequestPartException e) {
            return "“" + e.getRequestPartName() + "” is missing.";
        }
        if (misread instanceof BindException e && e.getFieldError() != null) {
            return "“" + e.getFieldError().getField() + "” is not what is expected there.";
        }
        return "A field is missing, or not what is expected there.";
    }

    @ExceptionHandler(HttpRequestMethodNotSupportedException.class)
    @ResponseStatus(HttpStatus.METHOD_NOT_ALLOWED)
    String wrongWay(Model model) {
        return page(model, "Nothing here", "This address takes no such request.");
    }

    @ExceptionHandler(HttpMediaTypeException.class)
    @ResponseStatus(HttpStatus.UNSUPPORTED_MEDIA_TYPE)
    String wrongKind(Model model) {
        return page(model, "That was not understood", "What was sent is of a kind that is not taken here.");
    }

    @ExceptionHandler(MultipartException.class)
    @ResponseStatus(HttpStatus.CONTENT_TOO_LARGE)
    String tooLarge(MultipartException refused, Model model) {
        LOG.info("an upload was refused: {}", refused.getMessage());
        return page(
                model,
                "That is too much at once",
                "A bundle may be up to 16 GB, a capture up to " + FrameStack.MOST_FILES
                        + " files. Nothing of it was kept.");
    }

    /** One request that wants more memory than there is ends; the others go on. */
    @ExceptionHandler(OutOfMemoryError.class)
    @ResponseStatus(HttpStatus.SERVICE_UNAVAILABLE)
    String tooMuch(OutOfMemoryError exhausted, Model model) {
        LOG.error("a request needed more memory than there is", exhausted);
        return page(
                model,
                "That needs more memory than there is",
                "Nothing of it was kept, and nothing was lost. Try a smaller file.");
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

    /** The page asks again by itself until the database is back. */
    @ExceptionHandler({DataAccessException.class, TransactionException.class})
    @ResponseStatus(HttpStatus.SERVICE_UNAVAILABLE)
    String database(Exception failure, HttpServletRequest request, HttpServletResponse response, Model model) {
        LOG.warn("database: {}", failure.toString());
        boolean asks = request.getMethod().equals("GET");
        if (asks) {
            response.setHeader("Refresh", "3");
        }
        return page(
                model,
                "The database did not answer",
                asks
                        ? "Nothing was lost. This page tries again every three seconds; ./ohmoscope status tells more."
                        : "Nothing of it was kept, and nothing was lost. Go back, and try again in a moment.");
    }

    private static String page(Model model, String heading, String sentence) {
        model.addAttribute("heading", heading);
        model.addAttribute("sentence", sentence);
        return "problem";
    }
}
