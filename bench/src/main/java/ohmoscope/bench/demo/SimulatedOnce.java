package ohmoscope.bench.demo;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.URISyntaxException;
import java.nio.file.DirectoryStream;
import java.nio.file.FileSystemNotFoundException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleReader;
import ohmoscope.formats.BundleWriter;

/**
 * Keeps what was simulated for the next process, in the folder that the system property {@code ohmoscope.simulated} names; where
 * it names none, nothing is kept. What other code has simulated is not taken: its classes are part of the name.
 */
final class SimulatedOnce {
    private static final String FOLDER = "ohmoscope.simulated";
    private static final int NAME_BYTES = 8;

    private SimulatedOnce() {}

    /** The bundle of that name; simulated where nobody has. */
    static Bundle of(String name, Supplier<Bundle> simulate) {
        Optional<Path> folder = Optional.ofNullable(System.getProperty(FOLDER)).map(Path::of);
        if (folder.isEmpty() || Code.HASH.isEmpty()) {
            return simulate.get();
        }
        Path file = folder.get().resolve(name + "-" + Code.HASH.get() + ".zip");
        try {
            if (!Files.exists(file)) {
                Files.createDirectories(folder.get());
                Path fresh = Files.createTempFile(folder.get(), name, ".part");
                try (OutputStream out = Files.newOutputStream(fresh)) {
                    BundleWriter.zip(simulate.get(), out);
                }
                withoutOlder(folder.get(), name);
                Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE);
            }
            return new BundleReader().read(file);
        } catch (IOException failed) {
            throw new UncheckedIOException(file + " cannot be kept or read: delete it", failed);
        }
    }

    private static void withoutOlder(Path folder, String name) throws IOException {
        try (DirectoryStream<Path> older = Files.newDirectoryStream(folder, name + "-*.zip")) {
            for (Path file : older) {
                Files.deleteIfExists(file);
            }
        }
    }

    /** Of the simulator and the core; empty where they lie in a file within a file. */
    private static final class Code {
        private static final Optional<String> HASH = hash();

        private static Optional<String> hash() {
            try {
                MessageDigest digest = MessageDigest.getInstance("SHA-256");
                for (Class<?> one : List.of(SimulatedOnce.class, Board.class)) {
                    Path at = Path.of(one.getProtectionDomain()
                            .getCodeSource()
                            .getLocation()
                            .toURI());
                    try (Stream<Path> all = Files.walk(at)) {
                        for (Path file :
                                all.filter(Files::isRegularFile).sorted().toList()) {
                            digest.update(Files.readAllBytes(file));
                        }
                    }
                }
                return Optional.of(HexFormat.of().formatHex(digest.digest(), 0, NAME_BYTES));
            } catch (IOException | URISyntaxException | FileSystemNotFoundException | NoSuchAlgorithmException no) {
                return Optional.empty();
            }
        }
    }
}
