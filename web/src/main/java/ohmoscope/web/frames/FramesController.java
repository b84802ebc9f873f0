package ohmoscope.web.frames;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation;
import ohmoscope.formats.frames.FrameExport;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.formats.frames.StackCapture;
import ohmoscope.formats.frames.Turn;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.config.Technician;
import ohmoscope.web.job.OpenJobs;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Frames from anywhere into a job: send the files, say how they are to be read, keep. */
@Controller
class FramesController {
    private final OpenJobs openJobs;
    private final FrameDrafts drafts;
    private final FrameIntake intake;

    FramesController(OpenJobs openJobs, FrameDrafts drafts, FrameIntake intake) {
        this.openJobs = openJobs;
        this.drafts = drafts;
        this.intake = intake;
    }

    @GetMapping("/jobs/{number}/frames")
    String choose(@PathVariable String number, Principal principal, Model model) throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        model.addAttribute("about", open.head());
        model.addAttribute("unseen", unseen(open));
        return "frames";
    }

    @PostMapping("/jobs/{number}/frames")
    String send(@PathVariable String number, @RequestParam List<MultipartFile> files, Principal principal)
            throws IOException {
        if (unseen(openJobs.open(number, principal))) {
            throw new InvalidMember(
                    "board",
                    "is one of its class, with made-up places: frames would name the wrong part. Put its parts on a photograph first (Rails, Put it on photographs)");
        }
        return "redirect:/jobs/" + number + "/frames/" + drafts.keep(files);
    }

    /** Whether nobody has seen the board, so that no picture can be laid over it. */
    private static boolean unseen(OpenJobs.Open open) {
        return BoardNames.ofClass(open.job().board().revision());
    }

    @GetMapping("/jobs/{number}/frames/{draft}")
    String read(@PathVariable String number, @PathVariable UUID draft, Principal principal, Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        FrameStack stack = drafts.stack(draft);
        model.addAttribute("about", open.head());
        model.addAttribute("draft", draft);
        model.addAttribute("recognised", FrameIntake.recognised(stack));
        model.addAttribute("stack", stack);
        model.addAttribute("form", intake.first(open.job(), stack));
        model.addAttribute("scales", FrameForm.SCALES);
        model.addAttribute("turns", FrameForm.TURNS);
        model.addAttribute("logged", open.job().bundle().supplyLog().isPresent());
        model.addAttribute(
                "injected",
                FrameIntake.injected(open.job()).map(FramesController::supply).orElse(""));
        return "frames-read";
    }

    private static String supply(Observation.Inject inject) {
        return inject.volts().isPresent() && inject.amps().isPresent()
                ? inject.volts().getAsDouble() + " V, " + inject.amps().getAsDouble() + " A were entered"
                : "";
    }

    /** A frame of the uploaded files as it would lie. */
    @GetMapping("/jobs/{number}/frames/{draft}/preview.png")
    ResponseEntity<byte[]> preview(
            @PathVariable String number,
            @PathVariable UUID draft,
            @RequestParam(defaultValue = "NONE") Turn turn,
            @RequestParam(defaultValue = "0") int frame)
            throws IOException {
        FrameStack stack = drafts.stack(draft);
        float[] picture = StackCapture.picture(stack, turn, Math.max(0, frame));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        FrameExport.png(
                picture, turn.width(stack.width(), stack.height()), turn.height(stack.width(), stack.height()), out);
        return ResponseEntity.ok().contentType(MediaType.IMAGE_PNG).body(out.toByteArray());
    }

    @PostMapping("/jobs/{number}/frames/{draft}")
    String keep(@PathVariable String number, @PathVariable UUID draft, FrameForm form, Principal principal)
            throws IOException {
        String name = intake.keep(number, draft, form, Technician.name(principal));
        return "redirect:/jobs/" + number + "/captures/" + name;
    }

    @PostMapping("/jobs/{number}/frames/{draft}/drop")
    String drop(@PathVariable String number, @PathVariable UUID draft) throws IOException {
        drafts.drop(draft);
        return "redirect:/jobs/" + number;
    }
}
