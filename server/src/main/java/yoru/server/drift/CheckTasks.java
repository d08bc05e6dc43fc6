package yoru.server.drift;

import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;

@Configuration(proxyBeanMethods = false)
class CheckTasks {

    @Bean
    CustomTask<Void> checkSystem(Checks checks) {
        return Tasks.custom(Checks.CHECK)
                .onFailure(Queue.againAndAgain())
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
