package yoru.server.reception;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.platform.Queue;

/** Joining holds all other facts back, so it has a transaction of its own. */
@Configuration(proxyBeanMethods = false)
class ReceptionTasks {

    static final TaskDescriptor<Void> JOIN = TaskDescriptor.of("join-verified");

    @Bean
    OneTimeTask<Void> joinVerified(SamePeople samePeople) {
        return Tasks.oneTime(JOIN)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> samePeople.joinByPolicy(task.getId()));
    }
}
