package yoru.server.orders;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import yoru.server.ledger.LedgerReader;
import yoru.server.platform.Queue;
import yoru.server.rulebooks.Rulebooks;

/** Makes the list of orders anew where another rulebook looks at them otherwise. */
@Configuration(proxyBeanMethods = false)
class OrderTasks {

    static final TaskDescriptor<Void> ANEW = TaskDescriptor.of("orders-anew");

    /** The instance that looks at every order there is: the first time this version runs. */
    private static final String ALL = "all";

    private static final int AT_ONCE = 50;

    @Bean
    OneTimeTask<Void> ordersAnew(OrderBook book, Rulebooks rulebooks, LedgerReader ledger) {
        return Tasks.oneTime(ANEW).onFailure(Queue.againSoon()).execute((task, context) -> {
            List<String> ids = task.getId().equals(ALL)
                    ? ledger.allOrders()
                    : ledger.ordersConcernedBy(rulebooks.concernOf(Integer.parseInt(task.getId())));
            for (int from = 0; from < ids.size(); from += AT_ONCE) {
                book.lookAgain(ids.subList(from, Math.min(from + AT_ONCE, ids.size())));
            }
        });
    }
}
