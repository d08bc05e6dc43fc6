package yoru.server.deliveries;

import java.time.Clock;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.rulebook.Target;
import yoru.core.systems.Matter;
import yoru.server.ledger.Echoes;
import yoru.server.ledger.FactKept;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Register;

/**
 * Compares what systems report of tags and lists with what Yoru believes them to have: what it told them last, or what they
 * reported last, by the time at which it became so there.
 */
@Component
class Reports implements Echoes {

    private final DeliveryTable table;
    private final Deliveries deliveries;
    private final Register register;
    private final Clock clock;

    Reports(DeliveryTable table, Deliveries deliveries, Register register, Clock clock) {
        this.table = table;
        this.deliveries = deliveries;
        this.register = register;
        this.clock = clock;
    }

    private record Change(Target target, boolean on) {}

    /** Only what Yoru told the system after the time of the report, or is about to, can be the same thing. */
    @Override
    @Transactional(readOnly = true)
    public boolean isEcho(String connection, Fact fact) {
        return change(fact)
                .flatMap(change -> table.about(connection, fact.subject(), change.target.path())
                        .filter(delivery -> delivery.open == change.on && delivery.reportedAt == null)
                        .filter(delivery -> delivery.status == DeliveryState.WAITING
                                || (delivery.status == DeliveryState.ANSWERED
                                        && !fact.time().isAfter(delivery.believedAt()))))
                .isPresent();
    }

    /** The belief follows the latest by its own time; what is older than what Yoru told has that told once more. */
    @EventListener
    void on(FactKept kept) {
        if (kept.origin() instanceof Origin.OfSystem it) { // of anything else no system has it yet
            change(kept.fact()).ifPresent(change -> believe(it.connection(), kept, change));
        }
    }

    private void believe(String connection, FactKept kept, Change change) {
        register.lock(kept.subject());
        var now = clock.instant();
        var time = kept.fact().time();
        var matter = new Matter.Access(change.target);
        var known = table.findByConnectionIdAndPersonIdAndMatter(connection, kept.subject(), matter.path());
        if (known.isPresent() && time.isBefore(known.get().believedAt())) {
            if (known.get().reportedAt == null) {
                deliveries.tellAgain(connection, kept.subject(), change.target);
            }
            return;
        }
        var delivery = known.orElseGet(() -> deliveries.made(connection, kept.subject(), matter));
        delivery.isReported(change.on, time, change.on ? "put on there" : "taken off there", kept.seq(), now);
        table.save(delivery);
    }

    private static Optional<Change> change(Fact fact) {
        return switch (fact.happening()) {
            case Happening.TagAdded it -> Optional.of(new Change(new Target.OfTag(it.tag()), true));
            case Happening.TagRemoved it -> Optional.of(new Change(new Target.OfTag(it.tag()), false));
            case Happening.ListJoined it -> Optional.of(new Change(new Target.OfList(it.list()), true));
            case Happening.ListLeft it -> Optional.of(new Change(new Target.OfList(it.list()), false));
            case Happening.OfOrder _,
                    Happening.OfSubscription _,
                    Happening.OfGrant _,
                    Happening.OfLevel _,
                    Happening.OfCourse _,
                    Happening.OfPerson _,
                    Happening.AccountMade _,
                    Happening.OfFollowup _,
                    Happening.Unknown _ -> Optional.empty();
        };
    }
}
