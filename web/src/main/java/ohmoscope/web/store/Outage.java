package ohmoscope.web.store;

import org.springframework.dao.NonTransientDataAccessResourceException;
import org.springframework.dao.RecoverableDataAccessException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.transaction.TransactionException;

/** Tells a database that is away from a row that it will never take. */
public final class Outage {
    private Outage() {}

    /** Whether the same work may succeed later. */
    public static boolean is(RuntimeException failed) {
        return failed instanceof TransientDataAccessException
                || failed instanceof RecoverableDataAccessException
                || failed instanceof NonTransientDataAccessResourceException
                || failed instanceof TransactionException;
    }
}
