package ohmoscope.formats;

import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Enumeration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/** A bundle in a ZIP, with or without a folder round it. Checked against bombs and escapes before anything is read. */
final class ZipFiles implements BundleFiles {
    private final Path path;
    private final String prefix;
    private final Map<String, Long> sizes;

    private ZipFiles(Path path, String prefix, Map<String, Long> sizes) {
        this.path = path;
        this.prefix = prefix;
        this.sizes = sizes;
    }

    static ZipFiles open(Path path, BundleLimits limits) throws IOException {
        String name = path.getFileName().toString();
        if (Files.size(path) == 0) {
            throw new BundleException(name, "", "is empty (0 bytes); send the bundle again");
        }
        requireSignature(path, name);
        try (ZipFile zip = new ZipFile(path.toFile())) {
            Map<String, Long> sizes = new HashMap<>();
            long total = 0;
            int count = 0;
            Enumeration<? extends ZipEntry> entries = zip.entries();
            while (entries.hasMoreElements()) {
                ZipEntry entry = entries.nextElement();
                BundleFiles.requireInside(name, "entry " + (count + 1), entry.getName());
                if (++count > limits.entries()) {
                    throw new BundleException(
                            name, "", "holds more than " + limits.entries() + " files; a bundle has a few dozen");
                }
                if (entry.isDirectory()) {
                    continue;
                }
                total += Math.max(0, entry.getSize());
                requireSane(name, entry, total, limits);
                if (sizes.put(entry.getName(), entry.getSize()) != null) {
                    throw new BundleException(name, entry.getName(), "stands twice in the ZIP");
                }
            }
            return new ZipFiles(path, prefix(name, sizes), sizes);
        } catch (ZipException broken) {
            throw new BundleException(
                    name, "", "is cut off or damaged (" + broken.getMessage() + "); send the bundle again");
        }
    }

    private static void requireSignature(Path path, String name) throws IOException {
        try (InputStream in = Files.newInputStream(path)) {
            byte[] start = in.readNBytes(4);
            if (start.length < 4 || start[0] != 'P' || start[1] != 'K') {
                throw new BundleException(name, "", "is no ZIP file; a bundle is a folder or a ZIP of that folder");
            }
        }
    }

    private static void requireSane(String name, ZipEntry entry, long total, BundleLimits limits)
            throws BundleException {
        if (total > limits.bytes()) {
            throw new BundleException(name, "", "unpacks to more than " + (limits.bytes() >> 20) + " MB");
        }
        double ratio = entry.getSize() / (double) Math.max(1, entry.getCompressedSize());
        if (entry.getSize() > limits.ratioFromBytes() && ratio > limits.ratio()) {
            throw new BundleException(
                    name,
                    entry.getName(),
                    "unpacks to " + Math.round(ratio) + " times its size, which measured frames never do");
        }
    }

    private static String prefix(String name, Map<String, Long> sizes) throws BundleException {
        if (sizes.containsKey("bundle.json")) {
            return "";
        }
        List<String> found = sizes.keySet().stream()
                .filter(n -> n.endsWith("/bundle.json") && n.indexOf('/') == n.lastIndexOf('/'))
                .toList();
        if (found.size() == 1) {
            return found.get(0).substring(0, found.get(0).indexOf('/') + 1);
        }
        throw new BundleException(
                name, "", found.isEmpty() ? "holds no bundle.json" : "holds several bundles; send them one by one");
    }

    @Override
    public String name() {
        return path.getFileName().toString();
    }

    @Override
    public boolean has(String file) {
        return sizes.containsKey(prefix + file);
    }

    @Override
    public InputStream open(String file) throws IOException {
        if (!has(file)) {
            throw new BundleException(file, "", "is missing from the bundle");
        }
        ZipFile zip = new ZipFile(path.toFile());
        try {
            InputStream entry = zip.getInputStream(zip.getEntry(prefix + file));
            return new Counted(new BufferedInputStream(entry, 1 << 16), zip, file, sizes.get(prefix + file));
        } catch (IOException | RuntimeException failed) {
            zip.close();
            throw failed;
        }
    }

    @Override
    public List<String> in(String folder) {
        String start = prefix + folder + "/";
        return sizes.keySet().stream()
                .filter(n -> n.startsWith(start) && n.indexOf('/', start.length()) < 0)
                .map(n -> n.substring(start.length()))
                .sorted()
                .toList();
    }

    /** Ends the ZIP with the entry, and refuses an entry that unpacks to more than the directory says. */
    private static final class Counted extends FilterInputStream {
        private final ZipFile zip;
        private final String file;
        private long left;

        Counted(InputStream in, ZipFile zip, String file, long size) {
            super(in);
            this.zip = zip;
            this.file = file;
            this.left = size;
        }

        @Override
        public int read() throws IOException {
            try {
                int value = super.read();
                count(value < 0 ? 0 : 1);
                return value;
            } catch (ZipException | java.io.EOFException broken) {
                throw damaged(broken);
            }
        }

        @Override
        public int read(byte[] buffer, int offset, int length) throws IOException {
            try {
                int n = super.read(buffer, offset, length);
                count(Math.max(0, n));
                return n;
            } catch (ZipException | java.io.EOFException broken) {
                throw damaged(broken);
            }
        }

        private BundleException damaged(IOException broken) {
            return new BundleException(
                    file, "", "is damaged in the ZIP (" + broken.getMessage() + "); send the bundle again");
        }

        private void count(int n) throws IOException {
            left -= n;
            if (left < 0) {
                throw new BundleException(file, "", "unpacks to more than the ZIP's directory says");
            }
        }

        @Override
        public void close() throws IOException {
            try {
                super.close();
            } finally {
                zip.close();
            }
        }
    }
}
