package yoru.server.rehearsals;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import java.time.LocalTime;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import yoru.server.platform.Queue;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.RulebookPublished;

/** When the stories are run: each night, for what comes with prices and systems, and after each publish. */
@Configuration(proxyBeanMethods = false)
class RehearsalTasks {

    static final TaskDescriptor<Void> RUN = TaskDescriptor.of("run-rehearsals");

    private static final LocalTime AT_NIGHT = LocalTime.of(3, 30);

    @Bean
    RecurringTask<Void> runRehearsalsNightly(Rehearsals rehearsals, SchoolSettings settings) {
        return Tasks.recurring(
                        "run-rehearsals-nightly",
                        Schedules.daily(settings.school().zone(), AT_NIGHT))
                .execute((task, context) -> rehearsals.runAll());
    }

    @Bean
    OneTimeTask<Void> runRehearsals(Rehearsals rehearsals) {
        return Tasks.oneTime(RUN)
                .onFailure(Queue.againSoon())
                .onDeadExecutionRevive()
                .execute((task, context) -> rehearsals.runAll());
    }

    /** Puts it into the queue with the publish itself. */
    @Bean
    AfterPublish runRehearsalsAfterPublish(Queue queue) {
        return new AfterPublish(queue);
    }

    record AfterPublish(Queue queue) {
        @EventListener
        void published(RulebookPublished published) {
            queue.now(RUN, String.valueOf(published.number()));
        }
    }
}
