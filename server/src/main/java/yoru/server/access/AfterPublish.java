package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.util.Map;
import java.util.stream.Gatherers;
import org.springframework.stereotype.Component;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.platform.Queue;
import yoru.server.platform.Queue.Queued;
import yoru.server.rulebooks.Rulebooks;

/**
 * Looks over whom it can concern that rulebooks were published: in one go for all that wait to be followed, and one go at a
 * time. Ten publishes within a minute are not ten times the work.
 */
@Component
class AfterPublish {

    static final TaskDescriptor<Void> TASK = TaskDescriptor.of("after-publish");

    static final int AT_A_TIME = 100;

    private final Queue queue;
    private final Rulebooks rulebooks;
    private final LedgerReader ledger;
    private final Register register;
    private final Recompute recompute;

    AfterPublish(Queue queue, Rulebooks rulebooks, LedgerReader ledger, Register register, Recompute recompute) {
        this.queue = queue;
        this.rulebooks = rulebooks;
        this.ledger = ledger;
        this.register = register;
        this.recompute = recompute;
    }

    /**
     * So many in one transaction that nobody waits for long; begun again from the start if the server dies.
     *
     * @param number of a rulebook that was published
     * @return whether they were looked over; not while another go is under way, which may have begun before this publish
     */
    boolean lookOver(int number) {
        var all = queue.all(TASK);
        if (all.stream().anyMatch(other -> other.begun() && number(other) < number)) {
            return false;
        }
        var numbers = all.stream().mapToInt(AfterPublish::number).summaryStatistics();
        var concern = rulebooks.concernOf(Math.min(number, numbers.getMin()), Math.max(number, numbers.getMax()));
        ledger.concernedBy(concern).stream()
                .gather(Gatherers.windowFixed(AT_A_TIME))
                .forEach(some -> {
                    var ids = register.people(some).values().stream()
                            .map(Person::id)
                            .toList();
                    recompute.people(ids, Map.of()).forEach(id -> recompute.person(id, null));
                });
        queue.without(TASK, all.stream().map(Queued::id).toList());
        return true;
    }

    private static int number(Queued queued) {
        return Integer.parseInt(queued.id());
    }
}
