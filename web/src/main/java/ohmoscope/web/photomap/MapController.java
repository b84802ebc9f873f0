package ohmoscope.web.photomap;

import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.PartNames;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Technician;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobStore;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The page of a map, and its photographs. */
@Controller
class MapController {
    private static final Duration KEEP = Duration.ofDays(30);

    private final Mapping mapping;
    private final BoardStore boards;
    private final JobStore jobs;
    private final IntakeStore intakes;

    MapController(Mapping mapping, BoardStore boards, JobStore jobs, IntakeStore intakes) {
        this.mapping = mapping;
        this.boards = boards;
        this.jobs = jobs;
        this.intakes = intakes;
    }

    /** What the page begins with. @param job the job it is made for, empty for none @param own the job's own pictures */
    record Page(
            long id,
            String name,
            String job,
            Side side,
            List<IntakeStore.Photo> own,
            List<PartNames.Size> sizes,
            NetKind[] netKinds) {}

    @GetMapping("/boards/{id:\\d{1,15}}/map")
    String map(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String job,
            @RequestParam(defaultValue = "TOP") Side side,
            Model model)
            throws IOException {
        Board board = boards.board(id);
        List<IntakeStore.Photo> own =
                job.isEmpty() ? List.of() : intakes.photos(jobs.named(job).id());
        model.addAttribute(
                "page",
                new Page(
                        id,
                        BoardNames.of(board.name(), board.revision()),
                        job,
                        side,
                        own,
                        PartNames.sizes(),
                        NetKind.values()));
        return "map";
    }

    /** The map of a job's board. */
    @GetMapping("/jobs/{number}/map")
    String ofJob(@PathVariable String number) {
        return "redirect:/boards/" + jobs.named(number).boardId() + "/map?job=" + number;
    }

    @PostMapping("/boards/{id:\\d{1,15}}/map/photos")
    String photo(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String job,
            @RequestParam Side side,
            @RequestParam(defaultValue = "") List<MultipartFile> photos,
            @RequestParam(required = false, defaultValue = "0") long own,
            Principal principal)
            throws IOException {
        String by = Technician.name(principal);
        for (MultipartFile photo : photos) {
            if (!photo.isEmpty()) {
                mapping.photo(id, side, photo.getBytes(), String.valueOf(photo.getOriginalFilename()), by);
            }
        }
        if (own > 0 && !job.isEmpty()) {
            byte[] bytes = intakes.photo(jobs.named(job).id(), own)
                    .orElseThrow(() -> new NotFoundException("This job has no such picture."))
                    .bytes();
            mapping.photo(id, side, bytes, "picture " + own, by);
        }
        return "redirect:/boards/" + id + "/map?job=" + job + "&side=" + side;
    }

    @PostMapping("/boards/{id:\\d{1,15}}/map/keep")
    String keep(@PathVariable long id, @RequestParam(defaultValue = "") String job) throws IOException {
        long next = mapping.keep(id, Optional.of(job).filter(j -> !j.isEmpty()));
        return job.isEmpty() ? "redirect:/boards/" + next : "redirect:/jobs/" + job;
    }

    @GetMapping("/boards/{id:\\d{1,15}}/map/photos/{photo}.jpg")
    ResponseEntity<byte[]> raw(@PathVariable long id, @PathVariable long photo) {
        return jpeg(mapping.content(id, photo));
    }

    /** As the map has it now; the address carries what it depends on. */
    @GetMapping("/boards/{id:\\d{1,15}}/map/{side}.jpg")
    ResponseEntity<byte[]> squared(@PathVariable long id, @PathVariable Side side) throws IOException {
        return jpeg(mapping.squared(id, side, mapping.map(id).laid()));
    }

    /** As it lies over a kept version. */
    @GetMapping("/boards/{id:\\d{1,15}}/photo/{side}.jpg")
    ResponseEntity<byte[]> under(@PathVariable long id, @PathVariable Side side) throws IOException {
        return jpeg(mapping.squared(id, side, mapping.laid(id)));
    }

    private static ResponseEntity<byte[]> jpeg(byte[] bytes) {
        return ResponseEntity.ok()
                .contentType(MediaType.IMAGE_JPEG)
                .cacheControl(CacheControl.maxAge(KEEP).cachePrivate())
                .body(bytes);
    }
}
