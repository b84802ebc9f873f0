package ohmoscope.web.analysis;

import java.io.IOException;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicReference;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.Locator;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Component;

/**
 * Where movies are looked into: one processor is left to pages, and to those who watch a current. What the engine does in
 * parallel stays in the pool that it was called from.
 */
@Component
public class Computing implements DisposableBean {
    private final ForkJoinPool pool =
            new ForkJoinPool(Math.max(1, Runtime.getRuntime().availableProcessors() - 1));

    /** What is looked into. */
    @FunctionalInterface
    public interface Work {
        LocateResult done() throws IOException;
    }

    /**
     * Waits for the answer. What the engine, or the one who is told of its progress, throws comes out as it is.
     *
     * @throws IOException when frames cannot be read
     */
    public LocateResult locate(LocateInput input, Progress progress) throws IOException {
        return done(() -> new Locator().locate(input, progress));
    }

    /** The same for work of another kind. @throws IOException when frames cannot be read */
    public LocateResult done(Work work) throws IOException {
        AtomicReference<LocateResult> found = new AtomicReference<>();
        AtomicReference<Throwable> failed = new AtomicReference<>();
        pool.submit(() -> {
                    try {
                        found.set(work.done());
                    } catch (IOException | RuntimeException | Error thrown) {
                        failed.set(thrown);
                    }
                })
                .join();
        Throwable thrown = failed.get();
        if (thrown instanceof IOException unreadable) {
            throw unreadable;
        }
        if (thrown instanceof RuntimeException odd) {
            throw odd;
        }
        if (thrown instanceof Error grave) {
            throw grave;
        }
        return found.get();
    }

    @Override
    public void destroy() {
        pool.shutdown();
    }
}
