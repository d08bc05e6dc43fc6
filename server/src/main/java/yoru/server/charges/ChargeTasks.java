package yoru.server.charges;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;

/** Asks again until a shop has answered, or the order no longer wants it. */
@Configuration(proxyBeanMethods = false)
class ChargeTasks {

    static final TaskDescriptor<Void> CHARGE = TaskDescriptor.of("charge");

    private static final int FIRST_PAUSES = 10;

    @Bean
    CustomTask<Void> charge(Charges charges, YoruSettings settings, Clock clock) {
        return Queue.untilDone(
                CHARGE, settings.delivery().firstPause().multipliedBy(FIRST_PAUSES), clock, charges::attempt);
    }
}
