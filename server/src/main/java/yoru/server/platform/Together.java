package yoru.server.platform;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does what many threads ask for at the same time in one transaction: whoever comes while one is under way waits for the next
 * and goes with all who wait. Alone, it is a transaction of one. Each is answered after the commit.
 *
 * <p>Where a transaction of several fails, each of them is done again in one of its own, so that nobody suffers for another.
 */
public final class Together<I, O> {

    private final TransactionTemplate transaction;
    private final int most;
    private final Function<List<I>, List<O>> work;
    private final ConcurrentLinkedQueue<Asked<I, O>> waiting = new ConcurrentLinkedQueue<>();
    private final ReentrantLock turn = new ReentrantLock(true);

    /**
     * @param most so many go into one transaction
     * @param work answers all that it is given, in their order; must leave nothing behind but what the transaction undoes
     */
    public Together(TransactionTemplate transaction, int most, Function<List<I>, List<O>> work) {
        this.transaction = transaction;
        this.most = most;
        this.work = work;
    }

    private static final class Asked<I, O> {
        private final I item;
        private @Nullable O answer;
        private @Nullable RuntimeException failure;

        private Asked(I item) {
            this.item = item;
        }

        private boolean isDone() {
            return answer != null || failure != null;
        }
    }

    /** @throws RuntimeException what the work threw, for this item alone */
    public O ask(I item) {
        var mine = new Asked<I, O>(item);
        waiting.add(mine);
        turn.lock();
        try {
            while (!mine.isDone()) {
                doSome();
            }
        } finally {
            turn.unlock();
        }
        if (mine.failure != null) {
            throw mine.failure;
        }
        return Objects.requireNonNull(mine.answer);
    }

    private void doSome() {
        var some = new ArrayList<Asked<I, O>>();
        for (var next = waiting.poll(); next != null; next = some.size() < most ? waiting.poll() : null) {
            some.add(next);
        }
        try {
            commit(some);
        } catch (RuntimeException e) {
            if (some.size() == 1) {
                some.getFirst().failure = e;
            } else {
                some.forEach(this::alone);
            }
        }
    }

    private void alone(Asked<I, O> one) {
        try {
            commit(List.of(one));
        } catch (RuntimeException e) {
            one.failure = e;
        }
    }

    private void commit(List<Asked<I, O>> some) {
        var items = some.stream().map(it -> it.item).toList();
        List<O> answers = transaction.execute(status -> work.apply(items));
        for (int i = 0; i < some.size(); i++) {
            some.get(i).answer = answers.get(i);
        }
    }
}
