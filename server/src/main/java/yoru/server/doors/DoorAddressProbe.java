package yoru.server.doors;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import java.time.Clock;
import java.util.Set;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import yoru.server.systems.SystemClient;
import yoru.server.systems.TroubleException;

/** Asks whether there is a page at the addresses that doors lead to. */
@Component
class DoorAddressProbe {

    static final TaskDescriptor<Void> ASK = TaskDescriptor.of("ask-door-addresses");

    /** Instead of none, so that a list of them is never empty. */
    private static final String NO_ADDRESS = "";

    private final DoorAddresses table;
    private final SchoolDoors doors;
    private final SystemClient client;
    private final TransactionTemplate transaction;
    private final Clock clock;

    DoorAddressProbe(
            DoorAddresses table, SchoolDoors doors, SystemClient client, TransactionTemplate transaction, Clock clock) {
        this.table = table;
        this.doors = doors;
        this.client = client;
        this.transaction = transaction;
        this.clock = clock;
    }

    void askAll() {
        var addresses = doors.addressesInForce();
        addresses.forEach(address -> {
            int status = status(address);
            transaction.executeWithoutResult(it -> table.save(new DoorAddress(address, status, clock.instant())));
        });
        transaction.executeWithoutResult(
                it -> table.deleteByAddressNotIn(addresses.isEmpty() ? Set.of(NO_ADDRESS) : addresses));
    }

    private int status(String address) {
        try {
            return client.statusOf(address);
        } catch (TroubleException e) {
            return DoorAddress.NOTHING;
        }
    }
}
