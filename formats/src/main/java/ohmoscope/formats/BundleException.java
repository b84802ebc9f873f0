package ohmoscope.formats;

import java.io.IOException;
import java.util.List;

/** A bundle that cannot be used. The message is one clear sentence; {@link #faults()} has them all. */
public final class BundleException extends IOException {
    private static final long serialVersionUID = 1L;

    private final transient List<Fault> faults;

    /** @param faults at least one */
    public BundleException(List<Fault> faults) {
        super(sentence(faults));
        this.faults = List.copyOf(faults);
    }

    public BundleException(String file, String where, String what) {
        this(List.of(new Fault(file, where, what)));
    }

    public List<Fault> faults() {
        return faults;
    }

    private static String sentence(List<Fault> faults) {
        String first = faults.get(0).sentence();
        return faults.size() == 1 ? first : first + " (and " + (faults.size() - 1) + " more)";
    }
}
