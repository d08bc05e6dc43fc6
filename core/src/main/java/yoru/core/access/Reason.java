package yoru.core.access;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Order;
import yoru.core.ledger.OrderLine;
import yoru.core.rulebook.Link;

/**
 * Why a target is open: fact, holding, link.
 *
 * @param startedBy the fact that opened it
 * @param ending why it ends, if it does
 */
public record Reason(
        Order order,
        OrderLine line,
        Fact startedBy,
        Link link,
        @Nullable Ending ending) {

    public Optional<Ending> end() {
        return Optional.ofNullable(ending);
    }
}
