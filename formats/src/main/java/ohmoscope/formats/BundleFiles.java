package ohmoscope.formats;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;

/** The files of a bundle, whether it is a folder or a ZIP. Each {@link #open} reads anew. */
interface BundleFiles {
    /** Name for messages. */
    String name();

    boolean has(String file);

    /** @throws BundleException when the file is not there or cannot be unpacked */
    InputStream open(String file) throws IOException;

    /** Names of the files directly in a folder, without the folder. */
    List<String> in(String folder) throws IOException;

    static BundleFiles of(Path path, BundleLimits limits) throws IOException {
        if (Files.isDirectory(path)) {
            return new Folder(path);
        }
        if (!Files.isRegularFile(path)) {
            throw new BundleException(path.toString(), "", "does not exist; give a bundle's folder or ZIP");
        }
        return ZipFiles.open(path, limits);
    }

    /** A name must stay inside the bundle. */
    static void requireInside(String bundle, String member, String name) throws BundleException {
        String clean = name.replace('\\', '/');
        boolean climbs = List.of(clean.split("/", -1)).contains("..");
        if (name.isEmpty()
                || clean.startsWith("/")
                || climbs
                || clean.matches("^[A-Za-z]:.*")
                || name.indexOf('\0') >= 0) {
            throw new BundleException(
                    bundle,
                    member,
                    "names a file outside the bundle: " + name + ". Names must be relative, without ..");
        }
    }

    /** A folder on disk. Links that lead out of it are not followed. */
    record Folder(Path root) implements BundleFiles {
        @Override
        public String name() {
            return root.toString();
        }

        @Override
        public boolean has(String file) {
            return Files.isRegularFile(root.resolve(file));
        }

        @Override
        public InputStream open(String file) throws IOException {
            requireInside(name(), file, file);
            Path path = root.resolve(file);
            if (!Files.isRegularFile(path)) {
                throw new BundleException(file, "", "is missing from the bundle");
            }
            if (!path.toRealPath().startsWith(root.toRealPath())) {
                throw new BundleException(file, "", "is a link out of the bundle");
            }
            return new BufferedInputStream(Files.newInputStream(path), 1 << 16);
        }

        @Override
        public List<String> in(String folder) throws IOException {
            Path path = root.resolve(folder);
            if (!Files.isDirectory(path)) {
                return List.of();
            }
            try (Stream<Path> files = Files.list(path)) {
                return files.filter(Files::isRegularFile)
                        .map(p -> p.getFileName().toString())
                        .sorted()
                        .toList();
            }
        }
    }
}
