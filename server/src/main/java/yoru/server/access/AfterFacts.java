package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.SequencedMap;
import java.util.stream.Collectors;
import java.util.stream.Gatherers;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.FactsKept;
import yoru.server.platform.AtEnd;
import yoru.server.platform.Queue;

/**
 * Puts whom facts concern into the queue, in the transaction that keeps them: up to a hundred have one place together. Each
 * transaction has its own, so a fact that arrives while its person is being looked over counts too.
 */
@Component
class AfterFacts {

    static final TaskDescriptor<String> TASK = TaskDescriptor.of("after-facts", String.class);

    private final Queue queue;
    private final AtEnd<Concerned> concerned = new AtEnd<>(this::enqueue);

    AfterFacts(Queue queue) {
        this.queue = queue;
    }

    /** Somebody whom a fact concerns. */
    private record Concerned(long person, long fact) {

        @Override
        public String toString() {
            return person + ":" + fact;
        }
    }

    @EventListener
    void on(FactKept kept) {
        add(kept.people(), kept.seq());
    }

    @EventListener
    void on(FactsKept kept) {
        add(kept.people(), kept.seq());
    }

    private void add(List<Long> people, long fact) {
        concerned.with(
                people.stream().map(person -> new Concerned(person, fact)).toList());
    }

    private void enqueue(List<Concerned> all) {
        var last = new LinkedHashMap<Long, Concerned>();
        all.forEach(one -> last.put(one.person, one));
        last.values().stream()
                .gather(Gatherers.windowFixed(Recompute.AT_A_TIME))
                .forEach(some -> queue.now(
                        TASK,
                        some.getFirst().toString(), // a person and a fact come together once
                        some.stream().map(Concerned::toString).collect(Collectors.joining(" "))));
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
