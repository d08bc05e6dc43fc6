package yoru.server.gifts;

import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Sends gifts when their day has come. */
@Configuration(proxyBeanMethods = false)
class GiftTasks {

    private static final Duration AFTER_A_FAILURE = Duration.ofSeconds(5);

    @Bean
    OneTimeTask<Void> sendGift(Gifts gifts) {
        return Tasks.oneTime(Gifts.SEND)
                .onFailure(new FailureHandler.OnFailureReschedule<>(FixedDelay.of(AFTER_A_FAILURE)))
                .execute((task, context) -> gifts.send(Gift.Place.read(task.getId())));
    }
}
