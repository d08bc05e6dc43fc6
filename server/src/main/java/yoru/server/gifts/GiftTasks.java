package yoru.server.gifts;

import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

/** Sends gifts when their day has come, and something carries letters. */
@Configuration(proxyBeanMethods = false)
class GiftTasks {

    private static final Duration AGAIN = Duration.ofMinutes(1);

    @Bean
    CustomTask<Void> sendGift(Gifts gifts, Clock clock) {
        return Queue.untilDone(Gifts.SEND, AGAIN, clock, id -> gifts.send(Gift.Place.read(id)));
    }
}
