package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SequencedMap;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.FactsKept;
import yoru.server.platform.Queue;

/**
 * Puts whom facts concern into the queue, in the transaction that keeps them: up to a hundred have one place together. Each
 * transaction has its own, so a fact that arrives while its person is being looked over counts too.
 */
@Component
class AfterFacts {

    static final TaskDescriptor<String> TASK = TaskDescriptor.of("after-facts", String.class);

    private final Queue queue;

    AfterFacts(Queue queue) {
        this.queue = queue;
    }

    @EventListener
    void on(FactKept kept) {
        inTransaction().add(kept.people(), kept.seq());
    }

    @EventListener
    void on(FactsKept kept) {
        inTransaction().add(kept.people(), kept.seq());
    }

    /** What the transaction at hand has gathered so far. */
    private Gathered inTransaction() {
        return TransactionSynchronizationManager.getSynchronizations().stream()
                .filter(Gathered.class::isInstance)
                .map(Gathered.class::cast)
                .findFirst()
                .orElseGet(() -> {
                    var gathered = new Gathered();
                    TransactionSynchronizationManager.registerSynchronization(gathered);
                    return gathered;
                });
    }

    private final class Gathered implements TransactionSynchronization {

        private final Map<Long, Long> lastFact = new LinkedHashMap<>();

        void add(List<Long> people, long seq) {
            people.forEach(person -> lastFact.put(person, seq));
        }

        @Override
        public void beforeCommit(boolean readOnly) {
            var all = List.copyOf(lastFact.entrySet());
            for (int from = 0; from < all.size(); from += AccessTasks.AT_A_TIME) {
                var some = all.subList(from, Math.min(all.size(), from + AccessTasks.AT_A_TIME));
                // a person and a fact come together once
                queue.now(
                        TASK,
                        said(some.getFirst()),
                        some.stream().map(AfterFacts::said).collect(Collectors.joining(" ")));
            }
        }
    }

    private static String said(Map.Entry<Long, Long> one) {
        return one.getKey() + ":" + one.getValue();
    }

    /** @return the last fact that concerns somebody, by person */
    static SequencedMap<Long, Long> read(String data) {
        return Arrays.stream(data.split(" "))
                .map(one -> one.split(":", 2))
                .collect(Collectors.toMap(
                        it -> Long.valueOf(it[0]),
                        it -> Long.valueOf(it[1]),
                        (one, other) -> other,
                        LinkedHashMap::new));
    }
}
