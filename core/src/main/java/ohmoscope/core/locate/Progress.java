package ohmoscope.core.locate;

/** Told how far the work has come. An implementation cancels by throwing {@link java.util.concurrent.CancellationException}. */
@FunctionalInterface
public interface Progress {
    Progress SILENT = share -> {};

    /** @param share from 0 to 1, not falling */
    public void at(double share);
}
