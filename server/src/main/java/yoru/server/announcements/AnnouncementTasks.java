package yoru.server.announcements;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.deliveries.Answered;
import yoru.server.deliveries.Deliveries;
import yoru.server.ledger.Register;

@Configuration(proxyBeanMethods = false)
class AnnouncementTasks {

    private static final Duration LOOKED_AT_AGAIN = Duration.ofMinutes(1);

    /**
     * Every answer has it looked whether what opened can be told. Should one have been missed, when a server or the database
     * died over it, it is found here: somebody of whom every system has answered, and to whom there is news still.
     */
    @Bean
    RecurringTask<Void> newsLookedAtAgain(
            AnnouncementTable table,
            Announcements announcements,
            Deliveries deliveries,
            Register register,
            TransactionTemplate transaction) {
        return Tasks.recurring("news-looked-at-again", FixedDelay.of(LOOKED_AT_AGAIN))
                .execute((task, context) -> table.peopleWithNews().stream()
                        .filter(deliveries::isAllAnswered)
                        .forEach(person -> transaction.executeWithoutResult(status ->
                                register.lock(person).ifPresent(it -> announcements.on(new Answered(it.id()))))));
    }
}
