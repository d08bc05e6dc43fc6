package yoru.server.erasure;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.core.ledger.Happening;
import yoru.server.ledger.FactKept;
import yoru.server.platform.Queue;

/** Looks again and again whether somebody can be erased. */
@Configuration(proxyBeanMethods = false)
class ErasureTasks {

    private static final TaskDescriptor<Void> ERASE = TaskDescriptor.of("erase");

    private static final Duration AGAIN = Duration.ofSeconds(2);

    @Component
    static class Begin {

        private final Queue queue;

        Begin(Queue queue) {
            this.queue = queue;
        }

        @EventListener
        void on(FactKept kept) {
            if (kept.fact().happening() instanceof Happening.PersonErased) {
                queue.now(ERASE, String.valueOf(kept.subject()));
            }
        }
    }

    @Bean
    CustomTask<Void> erase(Erasures erasures, Clock clock) {
        return Queue.untilDone(ERASE, AGAIN, clock, person -> erasures.erase(Long.parseLong(person)));
    }
}
