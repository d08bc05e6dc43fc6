package yoru.server.charges;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

/** Asks again until a shop has answered, or the order no longer wants it. */
@Configuration(proxyBeanMethods = false)
class ChargeTasks {

    static final TaskDescriptor<Void> CHARGE = TaskDescriptor.of("charge");

    private static final Duration AGAIN = Duration.ofSeconds(10);

    @Bean
    CustomTask<Void> charge(Charges charges, Clock clock) {
        return Queue.untilDone(CHARGE, AGAIN, clock, charges::attempt);
    }
}
