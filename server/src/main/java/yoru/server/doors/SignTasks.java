package yoru.server.doors;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import yoru.server.platform.Queue;
import yoru.server.platform.YoruSettings;
import yoru.server.rulebooks.RulebookPublished;
import yoru.server.systems.SystemSwitchedOn;

/** When systems are told what to show: after each publish, when one is switched on, and when what is sold has changed. */
@Configuration(proxyBeanMethods = false)
class SignTasks {

    static final TaskDescriptor<Void> REFRESH = TaskDescriptor.of("refresh-signs");

    /** Prices and courses change without a publish; catalogues are read every two minutes. */
    private static final Duration EVERY = Duration.ofMinutes(2);

    @Bean
    CustomTask<Void> showSigns(Signs signs) {
        return Tasks.custom(Signs.TELL)
                .onFailure(Queue.againAndAgain())
                .onDeadExecutionRevive()
                .execute((task, context) -> {
                    var next = signs.tell(task.getId());
                    return (complete, operations) ->
                            next.ifPresentOrElse(time -> operations.reschedule(complete, time), operations::remove);
                });
    }

    @Bean
    OneTimeTask<Void> refreshSigns(Signs signs) {
        return Tasks.oneTime(REFRESH)
                .onFailure(Queue.againSoon())
                .onDeadExecutionRevive()
                .execute((task, context) -> signs.refresh());
    }

    @Bean
    RecurringTask<Void> refreshSignsByTheCatalogue(Signs signs) {
        return Tasks.recurring("refresh-signs-by-the-catalogue", FixedDelay.of(EVERY))
                .execute((task, context) -> signs.refresh());
    }

    @Bean
    RecurringTask<Void> compareSigns(Signs signs, DoorAddressProbe probe, YoruSettings settings) {
        return Tasks.recurring("compare-signs", FixedDelay.of(settings.checkEvery()))
                .execute((task, context) -> {
                    signs.compareAll();
                    probe.askAll();
                });
    }

    /** Puts it into the queue with what made it necessary. */
    @Bean
    AfterNews refreshSignsAfterNews(Queue queue) {
        return new AfterNews(queue);
    }

    record AfterNews(Queue queue) {
        @EventListener
        void published(RulebookPublished published) {
            queue.now(REFRESH, String.valueOf(published.number()));
            queue.now(DoorAddressProbe.ASK, String.valueOf(published.number()));
        }

        @EventListener
        void switchedOn(SystemSwitchedOn on) {
            queue.now(REFRESH, on.connection());
        }
    }

    @Bean
    OneTimeTask<Void> askDoorAddresses(DoorAddressProbe probe) {
        return Tasks.oneTime(DoorAddressProbe.ASK)
                .onFailure(Queue.againSoon())
                .onDeadExecutionRevive()
                .execute((task, context) -> probe.askAll());
    }
}
