package yoru.server.followups;

import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;

@Configuration(proxyBeanMethods = false)
class FollowupTasks {

    /** Whoever has something under way, one after the other. */
    @Bean
    OneTimeTask<Void> followupsGoOn(
            FollowupSteps steps, CarryingOut carrying, Register register, TransactionTemplate transaction) {
        return Tasks.oneTime(CarryingOut.GO_ON)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> steps.peopleWith(StepState.OPEN)
                        .forEach(person -> transaction.executeWithoutResult(status ->
                                register.lock(person).ifPresent(it -> carrying.goOn(List.of(it.id()), false)))));
    }
}
