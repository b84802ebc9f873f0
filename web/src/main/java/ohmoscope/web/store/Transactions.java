package ohmoscope.web.store;

import java.io.IOException;
import java.time.Instant;
import java.util.Objects;
import java.util.function.Supplier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** Work that is stored whole or not at all, also when it fails by reading. */
@Component
public class Transactions {
    private static final String AS_OF = "select set_config('ohmoscope.written_at', :hour, true)";

    private final TransactionTemplate template;
    private final TransactionTemplate apart;

    private final JdbcClient jdbc;

    Transactions(PlatformTransactionManager manager, JdbcClient jdbc) {
        this.jdbc = jdbc;
        template = new TransactionTemplate(manager);
        apart = new TransactionTemplate(manager);
        apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** Stored at once, whatever becomes of the transaction that is under way; takes a connection of its own. */
    public <T> T apart(Supplier<T> work) {
        return Objects.requireNonNull(apart.execute(status -> work.get()));
    }

    /** Work that reads and writes. */
    @FunctionalInterface
    public interface Work<T> {
        T run() throws IOException;
    }

    /** Rolls back on any exception, and lets it through. */
    public <T> T run(Work<T> work) throws IOException {
        try {
            return Objects.requireNonNull(template.execute(status -> {
                try {
                    return work.run();
                } catch (IOException failed) {
                    throw new Carried(failed);
                }
            }));
        } catch (Carried carried) {
            throw carried.cause;
        }
    }

    /** Likewise; jobs, entries and decisions that it adds are written down as of that hour. */
    public <T> T at(Instant hour, Work<T> work) throws IOException {
        return run(() -> {
            jdbc.sql(AS_OF).param("hour", hour.toString()).query(String.class).single();
            return work.run();
        });
    }

    /** Takes an IOException through the transaction, which rolls back on it. */
    private static final class Carried extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final transient IOException cause;

        Carried(IOException cause) {
            super(cause);
            this.cause = cause;
        }
    }
}
