package yoru.server.followups;

import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;

@Configuration(proxyBeanMethods = false)
class FollowupTasks {

    private static final Duration LOOKED_AT_AGAIN = Duration.ofMinutes(1);

    /** Whoever has something under way, one after the other. */
    @Bean
    OneTimeTask<Void> followupsGoOn(
            FollowupSteps steps, CarryingOut carrying, Register register, TransactionTemplate transaction) {
        return Tasks.oneTime(CarryingOut.GO_ON)
                .onFailure(Queue.againSoon())
                .execute((task, context) -> steps.peopleWith(StepState.OPEN)
                        .forEach(person -> goOn(person, carrying, register, transaction)));
    }

    /**
     * Every answer has the next step begin. Should one have been missed, when a server or the database died over it, it is
     * found here: somebody of whom every system has answered, and whose step still waits.
     */
    @Bean
    RecurringTask<Void> followupsLookAgain(
            FollowupSteps steps,
            CarryingOut carrying,
            Deliveries deliveries,
            Register register,
            TransactionTemplate transaction) {
        return Tasks.recurring("follow-ups-look-again", FixedDelay.of(LOOKED_AT_AGAIN))
                .execute((task, context) -> steps.peopleWith(StepState.BEGUN_AND_OPEN).stream()
                        .filter(deliveries::isAllAnswered)
                        .forEach(person -> goOn(person, carrying, register, transaction)));
    }

    private static void goOn(Long person, CarryingOut carrying, Register register, TransactionTemplate transaction) {
        transaction.executeWithoutResult(status ->
                register.lock(person).ifPresent(it -> carrying.goOn(List.of(it.id()), false)));
    }
}
