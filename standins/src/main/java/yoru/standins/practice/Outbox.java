package yoru.standins.practice;

import com.standardwebhooks.Webhook;
import com.standardwebhooks.exceptions.EmptyWebhookSecretException;
import com.standardwebhooks.exceptions.WebhookSigningException;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
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
    /** Nobody else knows it. */
    private static final String OTHER_SECRET = "whsec_"
            + Base64.getEncoder().encodeToString("a secret that nobody knows, 32 b".getBytes(StandardCharsets.UTF_8));

    private static final int BATCH = 64;
    private static final int AT_ONCE = 8;

    private final JdbcClient jdbc;
    private final Reports reports;
    private final Manners manners;
    private final Clock clock;
    private final HttpClient http = HttpClient.newBuilder()
            .version(HttpClient.Version.HTTP_1_1)
            .connectTimeout(Duration.ofSeconds(3))
            .build();
    private final Semaphore wake = new Semaphore(0);
    private volatile boolean closing;

    Outbox(JdbcClient jdbc, Reports reports, Manners manners, Clock clock) {
        this.jdbc = jdbc;
        this.reports = reports;
        this.manners = manners;
        this.clock = clock;
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
        String answer;
        boolean taken = false;
        try {
            long now = clock.instant().getEpochSecond();
            var request = HttpRequest.newBuilder(reports.reportTo())
                    .timeout(Duration.ofSeconds(10))
                    .header("content-type", "application/cloudevents+json; charset=UTF-8")
                    .header("webhook-id", waiting.eventId)
                    .header("webhook-timestamp", Long.toString(now))
                    .header(
                            "webhook-signature",
                            new Webhook(manners.now().otherSecret() ? OTHER_SECRET : reports.secret())
                                    .sign(waiting.eventId, now, waiting.body))
                    .POST(HttpRequest.BodyPublishers.ofString(waiting.body))
                    .build();
            var response = http.send(request, HttpResponse.BodyHandlers.ofString());
            taken = response.statusCode() / 100 == 2;
            answer = response.statusCode() + (taken ? "" : " " + response.body());
        } catch (IOException e) {
            answer = "no answer: " + e.getClass().getSimpleName();
        } catch (WebhookSigningException | EmptyWebhookSecretException e) {
            answer = "cannot be signed: " + e.getMessage();
        }
        jdbc.sql("""
                        update outbox set attempts = attempts + 1, last_answer = :answer,
                          sent_at = case when :taken then now() end,
                          next_at = now() + least(power(2, least(attempts, 10)), 60) * interval '1 second'
                        where id = :id""")
                .param("answer", answer.substring(0, Math.min(answer.length(), 500)))
                .param("taken", taken)
                .param("id", waiting.id)
                .update();
    }
}
