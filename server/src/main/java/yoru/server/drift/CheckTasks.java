package yoru.server.drift;

import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.YoruSettings;

@Configuration(proxyBeanMethods = false)
class CheckTasks {

    @Bean
    CustomTask<Void> checkSystem(Checks checks) {
        return Tasks.custom(Checks.CHECK)
                .onFailureReschedule(FixedDelay.of(Duration.ofSeconds(15)))
                .onDeadExecutionRevive()
                .execute((task, context) -> {
                    var next = checks.goOn(Long.parseLong(task.getId()));
                    return (complete, operations) ->
                            next.ifPresentOrElse(time -> operations.reschedule(complete, time), operations::remove);
                });
    }

    @Bean
    RecurringTask<Void> checkSystems(Checks checks, YoruSettings settings) {
        return Tasks.recurring("check-systems", FixedDelay.of(settings.checkEvery()))
                .execute((task, context) -> checks.beginAll());
    }
}
