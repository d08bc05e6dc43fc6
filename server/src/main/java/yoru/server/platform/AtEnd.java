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

    public void with(Collection<T> more) {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            work.accept(List.copyOf(more));
            return;
        }
        gathered().items.addAll(more);
    }

    private Gathered<T> gathered() {
        for (var synchronization : TransactionSynchronizationManager.getSynchronizations()) {
            if (synchronization instanceof Gathered<?> it && it.owner == this && !it.isDone) {
                @SuppressWarnings("unchecked") // it is this one's
                var mine = (Gathered<T>) it;
                return mine;
            }
        }
        var gathered = new Gathered<>(this);
        TransactionSynchronizationManager.registerSynchronization(gathered);
        return gathered;
    }

    private static final class Gathered<T> implements TransactionSynchronization {

        private final AtEnd<T> owner;
        private final List<T> items = new ArrayList<>();
        private boolean isDone;

        private Gathered(AtEnd<T> owner) {
            this.owner = owner;
        }

        @Override
        public void beforeCommit(boolean readOnly) {
            isDone = true;
            owner.work.accept(items);
        }
    }
}
