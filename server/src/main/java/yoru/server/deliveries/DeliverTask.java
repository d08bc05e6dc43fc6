package yoru.server.deliveries;

import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

@Configuration(proxyBeanMethods = false)
class DeliverTask {

    /** The id in the queue is {@code delivery:revision}. */
    @Bean
    CustomTask<Void> deliver(Deliveries deliveries) {
        return Tasks.custom(Deliveries.DELIVER)
                .onFailureReschedule(FixedDelay.of(Duration.ofSeconds(15)))
                .onDeadExecutionRevive()
                .execute((task, context) -> {
                    var id = task.getId().split(":", 2);
                    var next = deliveries.deliver(Long.parseLong(id[0]), Integer.parseInt(id[1]));
                    return (complete, operations) ->
                            next.ifPresentOrElse(time -> operations.reschedule(complete, time), operations::remove);
                });
    }
}
