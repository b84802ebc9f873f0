package ohmoscope.web.store;

/** A queue of work of one kind, done one after another. */
public interface WorkQueue {
    /**
     * Adds work, with the transaction that is under way: both are kept or neither is. What waits already is not added
     * twice.
     *
     * @param id what the work is about
     */
    void add(String id);

    /** Does the work; what it throws makes it be tried again after a while. */
    @FunctionalInterface
    interface Work {
        void run(String id);
    }
}
