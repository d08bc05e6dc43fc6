package yoru.server.platform;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.SchedulableInstance;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts work into the queue in the transaction at hand: a rollback leaves nothing behind. The queue is db-scheduler's,
 * on PostgreSQL, shared by all servers on the database.
 */
@Component
public class Queue {

    private static final Duration FIRST_PAUSE = Duration.ofSeconds(5);
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(10);

    /** After so many failures, an hour and a half of them, more of the same is of no use: somebody must look at it. */
    static final int MOST_FAILURES = 15;

    /** When work comes again that has stopped: it is in the queue, and never due by itself. */
    static final Instant STOPPED = Instant.parse("9999-01-01T00:00:00Z");

    private final Scheduler scheduler;
    private final JdbcClient jdbc;
    private final Clock clock;

    Queue(@Lazy Scheduler scheduler, JdbcClient jdbc, Clock clock) {
        this.scheduler = scheduler;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * For what must be done in the end: where it fails it is tried again, later and later. Where it only ever fails it
     * stops, is seen on Today, and begins again when somebody says so there or when there is the same to do anew.
     */
    public static <T> FailureHandler<T> againSoon() {
        return (complete, operations) -> {
            int failures = complete.getExecution().consecutiveFailures + 1;
            operations.reschedule(
                    complete,
                    failures >= MOST_FAILURES ? STOPPED : complete.getTimeDone().plus(pause(failures)));
        };
    }

    /** The same for what many things wait behind: it never stops, and is seen on Today once it has failed as often. */
    public static <T> FailureHandler<T> againAndAgain() {
        return (complete, operations) -> operations.reschedule(
                complete, complete.getTimeDone().plus(pause(complete.getExecution().consecutiveFailures + 1)));
    }

    private static Duration pause(int failures) {
        return RetryPauses.doubled(FIRST_PAUSE, LONGEST_PAUSE, failures - 1);
    }

    /**
     * Work that is looked at again, so long after it was looked at last, until it says that there is nothing left to do.
     *
     * @param done given the id of an instance
     */
    public static CustomTask<Void> untilDone(
            TaskDescriptor<Void> task, Duration again, Clock clock, Predicate<String> done) {
        return Tasks.custom(task)
                .onFailure(againAndAgain())
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
        boolean isNew = scheduler.scheduleIfNotExists(due);
        if (isNew || wake(due.getTaskName(), List.of(due.getId()))) {
            AfterCommit.run(scheduler::triggerCheckForDueExecutions);
        }
    }

    /** Has what had stopped tried once more. @return whether there was any */
    private boolean wake(String task, Collection<String> ids) {
        return jdbc.sql("""
                        update scheduled_tasks set execution_time = :now, version = version + 1
                        where task_name = :task and task_instance in (:ids) and execution_time >= :stopped and not picked""")
                        .param("now", Timestamp.from(clock.instant()))
                        .param("task", task)
                        .param("ids", ids)
                        .param("stopped", Timestamp.from(STOPPED))
                        .update()
                > 0;
    }

    /**
     * Work that fails and fails.
     *
     * @param task what it is, as the queue names it
     * @param stopped whether it waits for somebody to say that it is to be tried again
     */
    public record Failing(
            String task, String id, int failures, @Nullable Instant lastFailure, boolean stopped) {}

    /** What has failed too often to be weather, the latest first. */
    @Transactional(readOnly = true)
    public List<Failing> failing() {
        return jdbc.sql("""
                        select task_name, task_instance, consecutive_failures, last_failure, execution_time >= :stopped as stopped
                        from scheduled_tasks where consecutive_failures >= %d
                        order by last_failure desc nulls last limit 200""".formatted(MOST_FAILURES)) // as the index has it
                .param("stopped", Timestamp.from(STOPPED))
                .query((row, at) -> new Failing(
                        row.getString("task_name"),
                        row.getString("task_instance"),
                        row.getInt("consecutive_failures"),
                        Optional.ofNullable(row.getTimestamp("last_failure"))
                                .map(Timestamp::toInstant)
                                .orElse(null),
                        row.getBoolean("stopped")))
                .list();
    }

    /** Has work tried again that had stopped. @return whether there was any such */
    @Transactional
    public boolean tryAgain(String task, String id) {
        boolean woken = wake(task, List.of(id));
        if (woken) {
            AfterCommit.run(scheduler::triggerCheckForDueExecutions);
        }
        return woken;
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
        if (!queued.isEmpty()) {
            wake(task.getTaskName(), queued);
        }
        scheduler.scheduleBatch(times.entrySet().stream()
                .filter(it -> !queued.contains(it.getKey()))
                .map(it -> task.instance(it.getKey()).scheduledTo(it.getValue())));
    }

    /**
     * Work of a kind that is in the queue.
     *
     * @param begun whether a server is at it
     */
    public record Queued(String id, boolean begun) {}

    @Transactional(readOnly = true)
    public List<Queued> all(TaskDescriptor<?> task) {
        return jdbc.sql("select task_instance, picked from scheduled_tasks where task_name = :task")
                .param("task", task.getTaskName())
                .query((row, at) -> new Queued(row.getString("task_instance"), row.getBoolean("picked")))
                .list();
    }

    /** Takes out what need not be done any more, but for what was begun meanwhile. */
    @Transactional
    public void without(TaskDescriptor<?> task, Collection<String> ids) {
        jdbc.sql("delete from scheduled_tasks where task_name = :task and task_instance in (:ids) and not picked")
                .param("task", task.getTaskName())
                .param("ids", ids)
                .update();
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
