package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.util.function.LongConsumer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.FactsKept;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Register;
import yoru.server.mapping.RulebookPublished;
import yoru.server.mapping.Rulebooks;
import yoru.server.platform.Queue;
import yoru.server.systems.SystemSwitchedOn;

/** When people are looked over: after a fact, after a publish, when something begins or ends. */
@Configuration(proxyBeanMethods = false)
class AccessTasks {

    private static final TaskDescriptor<Void> AFTER_FACT = TaskDescriptor.of("person-after-fact");
    private static final TaskDescriptor<Void> AFTER_PUBLISH = TaskDescriptor.of("after-publish");
    private static final TaskDescriptor<Void> FILL = TaskDescriptor.of("fill-system");

    /** Puts the work into the queue in the transaction that makes it necessary. */
    @Component
    static class Marker {

        private final Queue queue;

        Marker(Queue queue) {
            this.queue = queue;
        }

        /** Each fact has its own place in the queue: one that arrives while its person is being looked over counts too. */
        @EventListener
        void on(FactKept kept) {
            kept.people().forEach(person -> queue.now(AFTER_FACT, person + ":" + kept.seq()));
        }

        @EventListener
        void on(FactsKept kept) {
            kept.people().forEach(person -> queue.now(AFTER_FACT, person + ":" + kept.seq()));
        }

        @EventListener
        void on(RulebookPublished published) {
            queue.now(AFTER_PUBLISH, String.valueOf(published.number()));
        }

        @EventListener
        void on(SystemSwitchedOn on) {
            queue.now(FILL, on.connection());
        }
    }

    @Bean
    OneTimeTask<Void> personAfterFact(Recompute recompute) {
        return Tasks.oneTime(AFTER_FACT).onFailure(Queue.againSoon()).execute((task, context) -> {
            var id = task.getId().split(":", 2);
            recompute.person(Long.parseLong(id[0]), Long.parseLong(id[1]));
        });
    }

    @Bean
    OneTimeTask<Void> wakePerson(Recompute recompute) {
        return Tasks.oneTime(Recompute.WAKE)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> recompute.person(
                        Long.parseLong(task.getId().substring(0, task.getId().indexOf('@'))), null));
    }

    /**
     * Whom the rulebook can concern, one person at a time, so that nobody waits for all; begun again from the start if
     * the server dies.
     */
    @Bean
    OneTimeTask<Void> afterPublish(Recompute recompute, Rulebooks rulebooks, LedgerReader ledger, Register register) {
        return Tasks.oneTime(AFTER_PUBLISH).onFailure(Queue.againSoon()).execute((task, context) -> {
            var concern = rulebooks.concernOf(Integer.parseInt(task.getId()));
            ledger.concernedBy(concern)
                    .forEach(key -> register.person(key).ifPresent(it -> recompute.person(it.id(), null)));
        });
    }

    /** A system that was switched on is told about everybody. */
    @Bean
    OneTimeTask<Void> fillSystem(Recompute recompute, Register register) {
        return Tasks.oneTime(FILL)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> forEverybody(register, id -> recompute.tellAll(task.getId(), id)));
    }

    private static void forEverybody(Register register, LongConsumer act) {
        for (var ids = register.peopleAfter(0); !ids.isEmpty(); ids = register.peopleAfter(ids.getLast())) {
            ids.forEach(act::accept);
        }
    }
}
