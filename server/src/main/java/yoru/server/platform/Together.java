package yoru.server.platform;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.Semaphore;
import java.util.function.Function;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does what many threads ask for at the same time in one transaction: whoever comes while others are under way waits for the
 * next and goes with all who wait. Alone, it is a transaction of one. Each is answered after the commit.
 *
 * <p>Where a transaction of several fails, each of them is done again in one of its own, so that nobody suffers for another.
 */
public final class Together<I, O> {

    /** As many at once as there are processors. */
    public static final int ON_EACH = Runtime.getRuntime().availableProcessors();
    /** One fewer, so that a processor is left to those who look at pages. */
    public static final int LEAVING_ONE = Math.max(1, ON_EACH - 1);

    private final TransactionTemplate transaction;
    private final int most;
    private final Function<List<I>, List<O>> work;
    private final ConcurrentLinkedQueue<Asked<I, O>> waiting = new ConcurrentLinkedQueue<>();
    private final Semaphore turns;

    /**
     * @param atOnce so many transactions are under way at once
     * @param most so many go into one
     * @param work answers all that it is given, in their order; must leave nothing behind but what the transaction undoes
     */
    public Together(TransactionTemplate transaction, int atOnce, int most, Function<List<I>, List<O>> work) {
        this.transaction = transaction;
        this.turns = new Semaphore(atOnce, true);
        this.most = most;
        this.work = work;
    }

    private static final class Asked<I, O> {
        private final I item;
        private final CompletableFuture<O> answer = new CompletableFuture<>();
        private volatile boolean isTaken;

        private Asked(I item) {
            this.item = item;
        }
    }

    /** @throws RuntimeException what the work threw, for this item alone */
    public O ask(I item) {
        var mine = new Asked<I, O>(item);
        waiting.add(mine);
        while (!mine.isTaken) {
            turns.acquireUninterruptibly();
            try {
                if (!mine.isTaken) {
                    doSome();
                }
            } finally {
                turns.release();
            }
        }
        try {
            return mine.answer.join();
        } catch (CompletionException e) {
            throw e.getCause() instanceof RuntimeException cause ? cause : e;
        }
    }

    /** How many wait to be served. */
    int waiting() {
        return waiting.size();
    }

    private void doSome() {
        var some = new ArrayList<Asked<I, O>>();
        while (some.size() < most) {
            var next = waiting.poll();
            if (next == null) {
                break;
            }
            next.isTaken = true;
            some.add(next);
        }
        try {
            commit(some);
        } catch (RuntimeException e) {
            if (some.size() == 1) {
                some.getFirst().answer.completeExceptionally(e);
            } else {
                some.forEach(this::alone);
            }
        } finally {
            // nobody waits for ever, whatever was thrown; those who have been answered stay so
            some.forEach(one -> one.answer.completeExceptionally(new IllegalStateException("It was broken off")));
        }
    }

    private void alone(Asked<I, O> one) {
        try {
            commit(List.of(one));
        } catch (RuntimeException e) {
            one.answer.completeExceptionally(e);
        }
    }

    private void commit(List<Asked<I, O>> some) {
        if (some.isEmpty()) {
            return; // somebody else has taken them
        }
        List<O> answers = transaction.execute(
                status -> work.apply(some.stream().map(it -> it.item).toList()));
        for (int i = 0; i < some.size(); i++) {
            some.get(i).answer.complete(answers.get(i));
        }
    }
}
