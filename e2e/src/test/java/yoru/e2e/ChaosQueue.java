package yoru.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import yoru.e2e.School.Part;

/** What servers and systems still have to do. */
final class ChaosQueue {

    /** How long anything may take that only a fault delays. */
    static final Duration PATIENCE = Duration.ofMinutes(5);

    private static final Duration LONG_PATIENCE = Duration.ofHours(1);

    private final School school;

    ChaosQueue(School school) {
        this.school = school;
    }

    /**
     * How it came to rest.
     *
     * @param done facts that were made, answers of systems and steps of follow-ups
     */
    record Drained(long done, Duration took) {

        /** How long so much more of it would take. */
        Duration timeFor(long more) {
            return took.multipliedBy(more).dividedBy(Math.max(done, 1));
        }
    }

    /** As long as it gets on with it: much waits after a long run. */
    Drained awaitCalm() {
        long doneBefore = done();
        long began = System.nanoTime();
        var lastDone = new AtomicLong(-1);
        var lastAt = new AtomicLong(System.nanoTime());
        await().atMost(LONG_PATIENCE).pollInterval(Duration.ofSeconds(1)).until(() -> {
            var waiting = waiting();
            long done = done();
            if (lastDone.getAndSet(done) != done) {
                lastAt.set(System.nanoTime());
            }
            assertThat(Duration.ofNanos(System.nanoTime() - lastAt.get()))
                    .as("nothing moves any more: %s", waiting)
                    .isLessThan(PATIENCE);
            return waiting.isEmpty();
        });
        return new Drained(done() - doneBefore, Duration.ofNanos(System.nanoTime() - began));
    }

    private long done() {
        return school.count(
                Part.SERVER,
                "select (select count(*) from fact) + (select coalesce(sum(revision), 0) from delivery where status = 'ANSWERED') + (select count(*) from followup_step where state not in ('DUE', 'BEGUN', 'GOING'))");
    }

    /** What is still to be done, some of it in words. */
    private List<String> waiting() {
        var waiting = new ArrayList<>(school.rows(Part.SERVER, """
                select concat_ws(' ', 'delivery', connection_id, matter, status, attempts, last_answer) from delivery where status <> 'ANSWERED' limit 5"""));
        waiting.addAll(school.rows(Part.SERVER, """
                select concat_ws(' ', 'step', subject, followup, step, state, due_at) from followup_step s join followup_run r on r.id = s.run_id
                where state in ('DUE', 'BEGUN', 'GOING') and due_at <= now() limit 5"""));
        waiting.addAll(school.rows(
                Part.SERVER,
                "select concat_ws(' ', 'news', person_id, target, batch, since) from announcement limit 5"));
        if (!school.quiet()) {
            waiting.addAll(
                    school.rows(
                            Part.SERVER,
                            "select concat_ws(' ', 'work', task_name, count(*), max(consecutive_failures)) from scheduled_tasks where execution_time <= now() and task_instance <> 'recurring' group by task_name"));
        }
        for (var part : List.of(Part.CONTACTS, Part.SHOP)) {
            waiting.addAll(school.rows(part, """
                    select concat_ws(' ', 'report', attempts, next_at, last_answer, left(body, 200)) from outbox where sent_at is null limit 3"""));
        }
        return waiting;
    }
}
