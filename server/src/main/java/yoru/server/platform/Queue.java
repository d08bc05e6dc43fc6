package yoru.server.platform;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.SchedulableInstance;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Lazy;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Puts work into the queue in the transaction at hand: a rollback leaves nothing behind. The queue is db-scheduler's,
 * on PostgreSQL, shared by all servers on the database.
 */
@Component
public class Queue {

    private static final Duration SOON = Duration.ofSeconds(5);

    private final Scheduler scheduler;
    private final JdbcClient jdbc;
    private final Clock clock;

    Queue(@Lazy Scheduler scheduler, JdbcClient jdbc, Clock clock) {
        this.scheduler = scheduler;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** For what must be done in the end: where it fails it is tried again soon, as often as it takes. */
    public static <T> FailureHandler<T> againSoon() {
        return new FailureHandler.OnFailureReschedule<>(FixedDelay.of(SOON));
    }

    /**
     * Work that is looked at again, so long after it was looked at last, until it says that there is nothing left to do.
     *
     * @param done given the id of an instance
     */
    public static CustomTask<Void> untilDone(
            TaskDescriptor<Void> task, Duration again, Clock clock, Predicate<String> done) {
        return Tasks.custom(task)
                .onFailureReschedule(FixedDelay.of(again))
                .onDeadExecutionRevive()
                .execute((instance, context) -> {
                    boolean isDone = done.test(instance.getId());
                    return (complete, operations) -> {
                        if (isDone) {
                            operations.remove();
                        } else {
                            operations.reschedule(complete, clock.instant().plus(again));
                        }
                    };
                });
    }

    /** Has it done as soon as the transaction has committed. The same id twice is done once. */
    public void now(TaskDescriptor<Void> task, String id) {
        now(task.instance(id).scheduledTo(clock.instant()));
    }

    /** The same with what it needs to know. */
    public void now(TaskDescriptor<String> task, String id, String data) {
        now(task.instance(id).data(data).scheduledTo(clock.instant()));
    }

    private void now(SchedulableInstance<?> due) {
        if (scheduler.scheduleIfNotExists(due)) {
            AfterCommit.run(scheduler::triggerCheckForDueExecutions);
        }
    }

    /** The same for many at once; nobody else may put the same there meanwhile. */
    public void now(TaskDescriptor<Void> task, Collection<String> ids) {
        var now = clock.instant();
        at(task, ids.stream().collect(Collectors.toMap(id -> id, id -> now)));
        AfterCommit.run(scheduler::triggerCheckForDueExecutions);
    }

    /**
     * Has each done at its time; nobody else may put the same there meanwhile.
     *
     * @param times by id; those that are in the queue already stay as they are
     */
    public void at(TaskDescriptor<Void> task, Map<String, Instant> times) {
        if (times.isEmpty()) {
            return;
        }
        var queued = queued(task, times.keySet());
        scheduler.scheduleBatch(times.entrySet().stream()
                .filter(it -> !queued.contains(it.getKey()))
                .map(it -> task.instance(it.getKey()).scheduledTo(it.getValue())));
    }

    /** The library asks for one at a time only. */
    private Set<String> queued(TaskDescriptor<Void> task, Collection<String> ids) {
        return Set.copyOf(jdbc.sql(
                        "select task_instance from scheduled_tasks where task_name = :task and task_instance in (:ids)")
                .param("task", task.getTaskName())
                .param("ids", ids)
                .query(String.class)
                .list());
    }

    /** Has it done at a time to come. */
    public void at(TaskDescriptor<Void> task, String id, Instant time) {
        scheduler.scheduleIfNotExists(task.instance(id).scheduledTo(time));
    }
}
