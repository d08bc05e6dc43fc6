package yoru.server.platform;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.function.Consumer;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Work that a transaction makes necessary, gathered until just before it commits and then done once for all of it. Without a
 * transaction it is done at once.
 */
public final class AtEnd<T> {

    private final Consumer<List<T>> work;

    /** @param work given all that was gathered, as it came */
    public AtEnd(Consumer<List<T>> work) {
        this.work = work;
    }

    /** What comes while the transaction is ending is done at once. */
    public void with(Collection<T> more) {
        boolean isEnding = false;
        for (var synchronization : synchronizations()) {
            if (synchronization instanceof Gathered<?> it) {
                if (it.owner == this && !it.isDone) {
                    @SuppressWarnings("unchecked") // it is this one's
                    var mine = (Gathered<T>) it;
                    mine.items.addAll(more);
                    return;
                }
                isEnding |= it.isDone;
            }
        }
        if (isEnding || !TransactionSynchronizationManager.isSynchronizationActive()) {
            work.accept(List.copyOf(more));
        } else {
            TransactionSynchronizationManager.registerSynchronization(new Gathered<>(this, more));
        }
    }

    private static List<TransactionSynchronization> synchronizations() {
        return TransactionSynchronizationManager.isSynchronizationActive()
                ? TransactionSynchronizationManager.getSynchronizations()
                : List.of();
    }

    private static final class Gathered<T> implements TransactionSynchronization {

        private final AtEnd<T> owner;
        private final List<T> items;
        private boolean isDone;

        private Gathered(AtEnd<T> owner, Collection<T> first) {
            this.owner = owner;
            this.items = new ArrayList<>(first);
        }

        @Override
        public void beforeCommit(boolean readOnly) {
            isDone = true;
            owner.work.accept(items);
        }
    }
}
