package yoru.server.gifts;

import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

/** Sends gifts when their day has come. */
@Configuration(proxyBeanMethods = false)
class GiftTasks {

    @Bean
    OneTimeTask<Void> sendGift(Gifts gifts) {
        return Tasks.oneTime(Gifts.SEND)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> gifts.send(Gift.Place.read(task.getId())));
    }
}
