package yoru.server.deliveries;

import java.time.Clock;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Target;
import yoru.server.deliveries.Deliveries.State;
import yoru.server.ledger.Echoes;
import yoru.server.ledger.FactKept;
import yoru.server.systems.Matter;

/**
 * Compares what systems report of tags with what Yoru believes them to have, which is what it told them last. A report
 * that agrees is an echo. One that does not is news, and the belief follows it; what should be so is told again then.
 */
@Component
class Reports implements Echoes {

    private final DeliveryTable table;
    private final Clock clock;

    Reports(DeliveryTable table, Clock clock) {
        this.table = table;
        this.clock = clock;
    }

    private record Change(Target target, boolean on) {}

    @Override
    @Transactional(readOnly = true)
    public boolean isEcho(String connection, Fact fact) {
        return change(fact)
                .flatMap(change -> table.about(connection, fact.subject(), change.target.path())
                        .filter(delivery -> delivery.open == change.on))
                .isPresent();
    }

    @EventListener
    void on(FactKept kept) {
        var connection = kept.connection();
        if (connection == null) {
            return; // no system has it yet
        }
        change(kept.fact()).ifPresent(change -> {
            var matter = new Matter.Access(change.target);
            var now = clock.instant();
            var delivery = table.findByConnectionIdAndPersonIdAndMatter(connection, kept.subject(), matter.path())
                    .orElseGet(() -> new Delivery(connection, kept.subject(), matter, now));
            delivery.want(change.on, null, null, kept.seq(), now);
            delivery.status = State.ANSWERED;
            delivery.lastAnswer = change.on ? "put on there" : "taken off there";
            delivery.lastAnswerAt = now;
            table.save(delivery);
        });
    }

    private static Optional<Change> change(Fact fact) {
        if (fact.happening() instanceof Happening.TagAdded it) {
            return Optional.of(new Change(new Target.OfTag(it.tag()), true));
        }
        return fact.happening() instanceof Happening.TagRemoved it
                ? Optional.of(new Change(new Target.OfTag(it.tag()), false))
                : Optional.empty();
    }
}
