package yoru.server.ledger;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.temporal.ChronoUnit;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import yoru.server.platform.Queue;

/** Facts with a time to come are told of once more when it has come: a shop's clock may be ahead of this one. */
@Configuration(proxyBeanMethods = false)
class DueFacts {

    private static final TaskDescriptor<Void> DUE = TaskDescriptor.of("fact-due");

    @Component
    static class Waker {

        private final Queue queue;
        private final Clock clock;

        Waker(Queue queue, Clock clock) {
            this.queue = queue;
            this.clock = clock;
        }

        @EventListener
        void on(FactKept kept) {
            var time = kept.fact().time();
            if (time.isAfter(clock.instant())) {
                queue.at(DUE, String.valueOf(kept.seq()), time.plus(1, ChronoUnit.MILLIS));
            }
        }
    }

    @Bean
    OneTimeTask<Void> factDue(FactKeeper keeper) {
        return Tasks.oneTime(DUE)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> keeper.isDue(Long.parseLong(task.getId())));
    }
}
