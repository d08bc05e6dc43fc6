package yoru.server.charges;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Asks again until a shop has answered, or the order no longer wants it. */
@Configuration(proxyBeanMethods = false)
class ChargeTasks {

    static final TaskDescriptor<Void> CHARGE = TaskDescriptor.of("charge");

    private static final Duration AGAIN = Duration.ofSeconds(10);

    @Bean
    CustomTask<Void> charge(Charges charges, Clock clock) {
        return Tasks.custom(CHARGE)
                .onFailureReschedule(FixedDelay.of(AGAIN))
                .onDeadExecutionRevive()
                .execute((task, context) -> {
                    boolean done = charges.attempt(task.getId());
                    return (complete, operations) -> {
                        if (done) {
                            operations.remove();
                        } else {
                            operations.reschedule(complete, clock.instant().plus(AGAIN));
                        }
                    };
                });
    }
}
