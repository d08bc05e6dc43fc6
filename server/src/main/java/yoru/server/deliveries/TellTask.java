package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

@Configuration(proxyBeanMethods = false)
class TellTask {

    @Bean
    CustomTask<Void> tell(Telling telling) {
        return Tasks.custom(Deliveries.TELL)
                .onFailure(Queue.againAndAgain())
                .onDeadExecutionRevive()
                .execute((task, context) -> {
                    var next = telling.tell(Lane.read(task.getId()));
                    return (complete, operations) ->
                            next.ifPresentOrElse(time -> operations.reschedule(complete, time), operations::remove);
                });
    }

    @Bean
    OneTimeTask<Void> sayAgain(Repeats repeats) {
        return Tasks.oneTime(Repeats.SAY_AGAIN)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> repeats.afterDoubt(task.getId()));
    }

    @Bean
    RecurringTask<Void> forgetSent(Deliveries deliveries) {
        return Tasks.recurring("forget-sent", FixedDelay.of(Duration.ofHours(6)))
                .execute((task, context) -> deliveries.forgetSent());
    }
}
