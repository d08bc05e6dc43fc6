package yoru.server.platform;

import java.time.Duration;
import java.util.function.Supplier;
import org.springframework.core.retry.RetryException;
import org.springframework.core.retry.RetryPolicy;
import org.springframework.core.retry.RetryTemplate;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Does work again that the database broke off for another's sake: a deadlock or two changes that cannot be put in a row. It
 * stands around the transaction, which left nothing behind.
 */
public final class Again {

    private static final RetryTemplate TEMPLATE = new RetryTemplate(RetryPolicy.builder()
            .includes(PessimisticLockingFailureException.class)
            .maxRetries(4)
            .delay(Duration.ofMillis(30))
            .jitter(Duration.ofMillis(25))
            .multiplier(2)
            .build());

    private Again() {}

    public static <T> T ifBeaten(Supplier<T> work) {
        if (TransactionSynchronizationManager.isActualTransactionActive()) {
            throw new IllegalStateException("there is a transaction already: it cannot be begun again from here");
        }
        try {
            return TEMPLATE.execute(work::get);
        } catch (RetryException e) {
            if (e.getCause() instanceof RuntimeException cause) {
                throw cause;
            }
            throw new IllegalStateException(e);
        }
    }
}
