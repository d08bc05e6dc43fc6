package yoru.server.restoring;

import java.time.Clock;
import java.util.UUID;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.server.erasure.ErasedList;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.ErasedPeople;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;

/**
 * Settles what a restored database cannot know: whoever was erased since the backup is erased again. That all systems are
 * switched off, and what waited to be sent is held back, the command has seen to before the start.
 */
@Service
public class AfterRestore {

    private static final String SOURCE = "/yoru/restore";
    private static final String WHO = "Restore";

    private final RestoredTable table;
    private final ErasedList list;
    private final ErasedPeople people;
    private final FactKeeper keeper;
    private final Journal journal;
    private final Clock clock;

    AfterRestore(
            RestoredTable table,
            ErasedList list,
            ErasedPeople people,
            FactKeeper keeper,
            Journal journal,
            Clock clock) {
        this.table = table;
        this.list = list;
        this.people = people;
        this.keeper = keeper;
        this.journal = journal;
        this.clock = clock;
    }

    @EventListener(ApplicationReadyEvent.class)
    @Transactional
    public void settle() {
        for (Restored restored : table.findBySettledAtIsNull()) {
            var again = list.of(people.keysOfOthers());
            again.forEach(this::eraseAgain);
            journal.write(new Journal.Line(
                    Kind.OPERATOR,
                    "Restored from a backup of " + restored.backupAt,
                    "All systems are switched off, and letters that waited are held back: what has happened since is not"
                            + " known here. Switch each on when you have looked"
                            + (again.isEmpty() ? "" : "; " + again.size() + " erased since are erased again"),
                    WHO,
                    null,
                    null));
            restored.settledAt = clock.instant();
        }
    }

    private void eraseAgain(String person) {
        keeper.keep(
                new Origin.OfOperator(WHO),
                new Fact(
                        new FactId(SOURCE, UUID.randomUUID().toString()),
                        person,
                        clock.instant(),
                        new Happening.PersonErased(),
                        false));
    }
}
