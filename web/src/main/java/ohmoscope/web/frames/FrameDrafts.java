package ohmoscope.web.frames;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.frames.FrameFile;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.config.Settings;
import org.springframework.stereotype.Service;
import org.springframework.util.FileSystemUtils;
import org.springframework.web.multipart.MultipartFile;

/** Uploaded frame files that wait until it is said how they are to be read. */
@Service
class FrameDrafts {
    private static final String PREFIX = "frames-";

    private final Path workFolder;

    FrameDrafts(Settings settings) {
        workFolder = settings.workFolder();
    }

    /**
     * Keeps the files aside.
     *
     * @throws InvalidMember for two files of one name
     * @throws IOException also when they are no frames; nothing is then kept
     */
    UUID keep(List<MultipartFile> uploads) throws IOException {
        UUID id = UUID.randomUUID();
        Path folder = Files.createDirectories(folder(id));
        try {
            for (MultipartFile upload : uploads) {
                String name = name(upload);
                if (upload.isEmpty() && name.isEmpty()) {
                    continue;
                }
                Path file = folder.resolve(name);
                if (Files.exists(file)) {
                    throw new InvalidMember(name, "was sent twice: send each file once");
                }
                try (InputStream in = upload.getInputStream()) {
                    Files.copy(in, file);
                }
            }
            stack(id);
            return id;
        } catch (IOException | RuntimeException unusable) {
            drop(id);
            throw unusable;
        }
    }

    /** The file's own name without folders, in characters that every file system takes. */
    private static String name(MultipartFile upload) {
        String full = String.valueOf(upload.getOriginalFilename());
        String last = full.substring(Math.max(full.lastIndexOf('/'), full.lastIndexOf('\\')) + 1);
        return last.replaceAll("[^\\p{L}\\p{N}._ -]", "_").replaceFirst("^\\.+", "_");
    }

    FrameStack stack(UUID id) throws IOException {
        Path folder = folder(id);
        if (!Files.isDirectory(folder)) {
            throw new NotFoundException("These files are no longer here: send them again.");
        }
        List<FrameFile> files = new ArrayList<>();
        try (Stream<Path> paths = Files.list(folder)) {
            for (Path path : paths.sorted().toList()) {
                files.add(new FrameFile(path.getFileName().toString(), path));
            }
        }
        return FrameStack.read(files);
    }

    void drop(UUID id) throws IOException {
        FileSystemUtils.deleteRecursively(folder(id));
    }

    private Path folder(UUID id) {
        return workFolder.resolve(PREFIX + id);
    }
}
