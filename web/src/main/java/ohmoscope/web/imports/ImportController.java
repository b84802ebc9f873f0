package ohmoscope.web.imports;

import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.util.Optional;
import java.util.UUID;
import ohmoscope.formats.BundleWriter;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Technician;
import ohmoscope.web.store.ImportStore;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Bundles in and out. */
@Controller
class ImportController {
    private final ImportService imports;
    private final ImportStore store;
    private final JobFile jobs;
    private final DemoLoader demo;

    ImportController(ImportService imports, ImportStore store, JobFile jobs, DemoLoader demo) {
        this.demo = demo;
        this.imports = imports;
        this.store = store;
        this.jobs = jobs;
    }

    /** What the page is told of an import. */
    record Told(
            UUID id, String fileName, String state, double progress, Optional<String> problem, Optional<String> job) {}

    @PostMapping("/imports")
    @ResponseBody
    Told accept(@RequestParam("bundle") MultipartFile file, Principal principal) throws IOException {
        String name = Optional.ofNullable(file.getOriginalFilename())
                .filter(n -> !n.isBlank())
                .orElse("bundle.zip");
        try (InputStream upload = file.getInputStream()) {
            return told(imports.accept(name, upload, Technician.name(principal)));
        }
    }

    @GetMapping("/imports/{id}")
    @ResponseBody
    Told told(@PathVariable UUID id) {
        ImportStore.Row row = store.find(id).orElseThrow(() -> new NotFoundException("There is no such import."));
        return new Told(row.id(), row.fileName(), row.state(), row.progress(), row.problem(), row.jobNumber());
    }

    @DeleteMapping("/imports/{id}")
    @ResponseBody
    Told cancel(@PathVariable UUID id) {
        imports.cancel(id);
        return told(id);
    }

    /** Whether the shelf is as it should be at the start: for the script that waits for it. */
    @GetMapping("/ready")
    ResponseEntity<Void> ready() {
        return ResponseEntity.status(demo.ready() ? HttpStatus.NO_CONTENT : HttpStatus.SERVICE_UNAVAILABLE)
                .build();
    }

    @GetMapping("/jobs/{number}/bundle.zip")
    ResponseEntity<StreamingResponseBody> export(@PathVariable String number) throws IOException {
        JobFile.Stored job = jobs.read(number);
        String file = number.replaceAll("[^A-Za-z0-9._-]", "_") + ".zip";
        return Download.of(file, MediaType.valueOf("application/zip"), out -> BundleWriter.zip(job.bundle(), out));
    }
}
