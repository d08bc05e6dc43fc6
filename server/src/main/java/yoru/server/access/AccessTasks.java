package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.server.followups.StepBegun;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.RulebookPublished;
import yoru.server.systems.SystemSwitchedOn;

/** When people are looked over: after a fact, after a publish, when something begins or ends. */
@Configuration(proxyBeanMethods = false)
class AccessTasks {

    private static final Duration AGAIN = Duration.ofSeconds(3);

    private static final TaskDescriptor<Void> AFTER_FACT = TaskDescriptor.of("person-after-fact");
    private static final TaskDescriptor<String> AFTER_STEP = TaskDescriptor.of("after-step", String.class);
    private static final TaskDescriptor<Void> FILL = TaskDescriptor.of("fill-system");

    /** Puts the work into the queue in the transaction that makes it necessary. */
    @Component
    static class Marker {

        private final Queue queue;

        Marker(Queue queue) {
            this.queue = queue;
        }

        @EventListener
        void on(RulebookPublished published) {
            queue.now(AfterPublish.TASK, String.valueOf(published.number()));
        }

        @EventListener
        void on(StepBegun begun) {
            queue.now(AFTER_STEP, String.valueOf(begun.step()), String.valueOf(begun.person()));
        }

        @EventListener
        void on(SystemSwitchedOn on) {
            queue.now(FILL, on.connection());
        }
    }

    @Bean
    OneTimeTask<String> peopleAfterFacts(Recompute recompute) {
        return Tasks.oneTime(AfterFacts.TASK).onFailure(Queue.againSoon()).execute((task, context) -> {
            var causes = AfterFacts.read(task.getData());
            again(lookOver(recompute, causes.keySet(), causes));
        });
    }

    /**
     * Those whom somebody else is at one by one, and all so where it fails: one of them must not hold up the others.
     *
     * @return what failed
     */
    static List<RuntimeException> lookOver(Recompute recompute, Collection<Long> ids, Map<Long, Long> causes) {
        var left = new ArrayList<Long>();
        try {
            left.addAll(recompute.people(ids, causes));
        } catch (RuntimeException e) {
            left.addAll(ids);
        }
        var failed = new ArrayList<RuntimeException>();
        for (long id : left) {
            try {
                recompute.person(id, causes.get(id));
            } catch (RuntimeException e) {
                failed.add(e);
            }
        }
        return failed;
    }

    /** What failed has the work done again. */
    static void again(List<RuntimeException> failed) {
        if (!failed.isEmpty()) {
            throw failed.getFirst();
        }
    }

    /** A step of a follow-up gives or takes something. */
    @Bean
    OneTimeTask<String> personAfterStep(Recompute recompute) {
        return Tasks.oneTime(AFTER_STEP)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> recompute.person(Long.parseLong(task.getData()), null));
    }

    /** What an earlier version left in the queue. */
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

    @Bean
    CustomTask<Void> lookedOverAfterPublish(AfterPublish publishes, Clock clock) {
        return Queue.untilDone(AfterPublish.TASK, AGAIN, clock, number -> publishes.lookOver(Integer.parseInt(number)));
    }

    /** A system that was switched on is told about everybody. */
    @Bean
    OneTimeTask<Void> fillSystem(Recompute recompute, Register register) {
        return Tasks.oneTime(FILL).onFailure(Queue.againSoon()).execute((task, context) -> {
            for (var ids = register.peopleAfter(0); !ids.isEmpty(); ids = register.peopleAfter(ids.getLast())) {
                recompute.tellAll(task.getId(), ids).forEach(id -> recompute.tellAll(task.getId(), id));
            }
        });
    }
}
