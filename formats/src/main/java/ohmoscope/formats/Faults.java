package ohmoscope.formats;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import ohmoscope.core.board.InvalidMember;

/** Gathers what is wrong in one file, so that all of it is shown at once. */
final class Faults {
    private static final int MOST = 50;
    private final String file;
    private final List<Fault> all = new ArrayList<>();

    Faults(String file) {
        this.file = file;
    }

    String file() {
        return file;
    }

    void add(String where, String what) {
        if (all.size() < MOST) {
            all.add(new Fault(file, where, what));
        }
    }

    /** What the supplier makes, or empty when it refuses; the reason is kept under {@code path}. */
    <T> Optional<T> attempt(String path, Supplier<T> supplier) {
        try {
            return Optional.of(supplier.get());
        } catch (MemberException refused) {
            add(refused.path(), refused.what());
        } catch (InvalidMember refused) {
            add(join(path, refused.member()), refused.what());
        }
        return Optional.empty();
    }

    static String join(String path, String member) {
        return path.isEmpty() ? member : path + "." + member;
    }

    void throwIfAny() throws BundleException {
        if (!all.isEmpty()) {
            throw new BundleException(all);
        }
    }
}
