package ohmoscope.web.receive;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.IntakeStore.Content;
import org.springframework.stereotype.Service;
import org.springframework.web.multipart.MultipartFile;

/** Takes photographs in, from the bench or from a telephone. */
@Service
public class Pictures {
    private static final long MOST_BYTES = 20_000_000;
    private static final int MOST_CAPTION = 200;

    private final IntakeStore intakes;

    Pictures(IntakeStore intakes) {
        this.intakes = intakes;
    }

    /** Keeps pictures and pins them to the part that they show; as {@link #keep(long, List, String, String)}. */
    public int keep(long jobId, List<MultipartFile> files, String caption, String by, String ref) throws IOException {
        List<Long> kept = kept(jobId, files, caption, by);
        kept.forEach(photo -> intakes.pin(photo, ref, by));
        return kept.size();
    }

    /**
     * @return how many were kept
     * @throws InvalidMember for a file that is too large or no picture
     */
    int keep(long jobId, List<MultipartFile> files, String caption, String by) throws IOException {
        return kept(jobId, files, caption, by).size();
    }

    private List<Long> kept(long jobId, List<MultipartFile> files, String caption, String by) throws IOException {
        List<Long> kept = new ArrayList<>();
        String words = caption.strip();
        for (MultipartFile file : files) {
            if (file.isEmpty()) {
                continue;
            }
            String name = String.valueOf(file.getOriginalFilename());
            if (file.getSize() > MOST_BYTES) {
                throw new InvalidMember(name, "is larger than 20 MB");
            }
            byte[] bytes = file.getBytes();
            String type = type(bytes).orElseThrow(() -> new InvalidMember(name, "is no JPEG or PNG picture"));
            kept.add(intakes.addPhoto(
                    jobId,
                    words.codePoints()
                            .limit(MOST_CAPTION)
                            .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                            .toString(),
                    new Content(type, bytes),
                    by));
        }
        return kept;
    }

    /** By the file's first bytes; its name may say anything. */
    static Optional<String> type(byte[] b) {
        boolean jpeg = b.length > 3 && (b[0] & 0xff) == 0xff && (b[1] & 0xff) == 0xd8 && (b[2] & 0xff) == 0xff;
        boolean png = b.length > 8 && (b[0] & 0xff) == 0x89 && b[1] == 'P' && b[2] == 'N' && b[3] == 'G';
        return jpeg ? Optional.of("image/jpeg") : png ? Optional.of("image/png") : Optional.empty();
    }
}
