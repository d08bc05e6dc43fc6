package yoru.server.access;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.util.ArrayList;
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
     * One who cannot be looked over holds up nobody else. Begun again from the start where it fails, or the server dies.
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
        var failed = new ArrayList<RuntimeException>();
        for (var some : ledger.concernedBy(concern).stream()
                .gather(Gatherers.windowFixed(Recompute.AT_A_TIME))
                .toList()) {
            var ids = register.people(some).values().stream().map(Person::id).toList();
            var ofThese = AccessTasks.lookOver(recompute, ids, Map.of());
            failed.addAll(ofThese);
            if (!ids.isEmpty() && ofThese.size() == ids.size()) {
                break; // that is no one's own trouble
            }
        }
        AccessTasks.again(failed);
        queue.without(TASK, all.stream().map(Queued::id).toList());
        return true;
    }

    private static int number(Queued queued) {
        return Integer.parseInt(queued.id());
    }
}
