package ohmoscope.formats.layout;

import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;
import java.util.stream.Collectors;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.layout.Choices;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Layouts;
import ohmoscope.formats.BundleException;

/** Reads one or several files of the same board. */
public final class LayoutFiles {
    private static final int HEAD_BYTES = 8_192;

    private final List<BoardFormat> formats = ServiceLoader.load(BoardFormat.class).stream()
            .map(ServiceLoader.Provider::get)
            .toList();

    /** A file that can be opened once. */
    public interface Source {
        String name();

        InputStream open() throws IOException;

        static Source of(String name, byte[] content) {
            return new Source() {
                @Override
                public String name() {
                    return name;
                }

                @Override
                public InputStream open() {
                    return new ByteArrayInputStream(content);
                }
            };
        }

        static Source of(Path path) {
            return new Source() {
                @Override
                public String name() {
                    return String.valueOf(path.getFileName());
                }

                @Override
                public InputStream open() throws IOException {
                    return Files.newInputStream(path);
                }
            };
        }
    }

    /**
     * @throws BundleException naming the file and what is wrong in it
     */
    public Layouts.Laid read(List<Source> files) throws IOException {
        return read(files, Choices.NONE);
    }

    /** The same, with what somebody decided where they disagree. */
    public Layouts.Laid read(List<Source> files, Choices choices) throws IOException {
        List<Draft> drafts = new ArrayList<>();
        for (Source file : files) {
            drafts.add(draft(file));
        }
        try {
            return Layouts.board(drafts, choices);
        } catch (InvalidMember refused) {
            String names = files.stream().map(Source::name).collect(Collectors.joining(", "));
            throw new BundleException(names, "", refused.getMessage());
        }
    }

    private Draft draft(Source file) throws IOException {
        try (BufferedInputStream in = new BufferedInputStream(file.open(), 1 << 16)) {
            in.mark(HEAD_BYTES + 1);
            String head = new String(in.readNBytes(HEAD_BYTES), StandardCharsets.UTF_8);
            in.reset();
            BoardFormat format = formats.stream()
                    .filter(f -> f.recognises(file.name(), head))
                    .findFirst()
                    .orElseThrow(() -> new BundleException(
                            file.name(),
                            "",
                            "is none of the formats that are read: "
                                    + formats.stream().map(BoardFormat::name).collect(Collectors.joining(", "))));
            try {
                return format.read(in, file.name());
            } catch (InvalidMember refused) {
                throw new BundleException(file.name(), "", refused.getMessage());
            }
        }
    }
}
