package yoru.standins.practice;

import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Profile;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Events on their way out: written in the transaction of what they report, sent signed as Standard Webhooks says, and
 * again with growing pauses until they are answered with 2xx.
 */
@Component
@Profile({"shop", "contacts"})
public class Outbox {

    private static final Logger LOG = LoggerFactory.getLogger(Outbox.class);
    private static final int BATCH = 64;
    private static final int AT_ONCE = 8;

    private final JdbcClient jdbc;
    private final Reporter reporter;
    private final Manners manners;
    private final Semaphore wake = new Semaphore(0);
    private volatile boolean closing;

    Outbox(JdbcClient jdbc, Reporter reporter, Manners manners) {
        this.jdbc = jdbc;
        this.reporter = reporter;
        this.manners = manners;
    }

    /** How far the sending has come. */
    public record Progress(long sent, long waiting, String lastAnswer) {}

    private record Waiting(long id, String eventId, String body) {}

    /** Adds an event in the transaction at hand; it is sent once that has committed. */
    public void add(String id, String body) {
        var now = manners.now();
        for (int times = now.twice() ? 2 : 1; times > 0; times--) {
            jdbc.sql(
                            "insert into outbox (event_id, body, next_at) values (:id, :body, now() + :late * interval '1 second')")
                    .param("id", id)
                    .param("body", body)
                    .param("late", now.lateSeconds())
                    .update();
        }
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                wake.release();
            }
        });
    }

    public Progress progress() {
        return jdbc.sql("""
                        select count(*) filter (where sent_at is not null) as sent,
                               count(*) filter (where sent_at is null) as waiting,
                               coalesce((select last_answer from outbox where attempts > 0 order by id desc limit 1), '') as last_answer
                        from outbox""").query(Progress.class).single();
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        Thread.ofVirtual().name("outbox").start(this::run);
    }

    @EventListener(ContextClosedEvent.class)
    void end() {
        closing = true;
        wake.release();
    }

    private void run() {
        try (var senders =
                Executors.newFixedThreadPool(AT_ONCE, Thread.ofVirtual().factory())) {
            while (!closing) {
                try {
                    if (!sendDue(senders)) {
                        wake.tryAcquire(500, TimeUnit.MILLISECONDS);
                        wake.drainPermits();
                    }
                } catch (InterruptedException e) {
                    return;
                } catch (RuntimeException e) {
                    LOG.warn("The outbox stumbled and goes on", e);
                    wake.tryAcquire();
                }
            }
        }
    }

    private boolean sendDue(ExecutorService senders) throws InterruptedException {
        var due = jdbc.sql("select id, event_id, body from outbox where sent_at is null and next_at <= now() order by "
                        + (manners.now().shuffled() ? "random()" : "id") + " limit " + BATCH)
                .query((row, at) -> new Waiting(row.getLong("id"), row.getString("event_id"), row.getString("body")))
                .list();
        List<Callable<Void>> work = due.stream()
                .map(waiting -> (Callable<Void>) () -> {
                    send(waiting);
                    return null;
                })
                .toList();
        senders.invokeAll(work);
        return !due.isEmpty();
    }

    private void send(Waiting waiting) throws InterruptedException {
        var answer = reporter.report(waiting.eventId, waiting.body);
        jdbc.sql("""
                        update outbox set attempts = attempts + 1, last_answer = :answer,
                          sent_at = case when :taken then now() end,
                          next_at = now() + least(power(2, least(attempts, 10)), 60) * interval '1 second'
                        where id = :id""")
                .param(
                        "answer",
                        answer.words().substring(0, Math.min(answer.words().length(), 500)))
                .param("taken", answer.taken())
                .param("id", waiting.id)
                .update();
    }
}
