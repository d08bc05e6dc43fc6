package yoru.server.deliveries;

import java.time.Clock;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.rulebook.Target;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Matter;
import yoru.server.systems.Landscapes;
import yoru.server.systems.Trouble;

/** How far the systems have confirmed what they were told. */
@Service
public class Confirmations {

    private final DeliveryTable table;
    private final Landscapes landscapes;
    private final Clock clock;

    Confirmations(DeliveryTable table, Landscapes landscapes, Clock clock) {
        this.table = table;
        this.landscapes = landscapes;
        this.clock = clock;
    }

    /** Whether the systems that somebody would be told of have confirmed that they let them in. */
    public enum Confirmation {
        /** All have; or none is to be told. */
        CONFIRMED,
        /** One has not answered yet, or is switched off. */
        WAITING,
        /** One has not taken it for ten minutes, or it was given up. */
        REFUSED
    }

    /** How far the systems have confirmed that a person has something. */
    @Transactional(readOnly = true)
    public Confirmation of(long person, Target target) {
        var landscape = landscapes.current();
        var told = landscape.toldOf(target);
        if (told.isEmpty()) {
            return landscape.isOnlyListedWhereOff(target) ? Confirmation.WAITING : Confirmation.CONFIRMED;
        }
        var worst = Confirmation.CONFIRMED;
        for (ConnectedSystem system : told) {
            var matter = new Matter.Access(target).path();
            var one = table.findByConnectionIdAndPersonIdAndMatter(system.id(), person, matter)
                    .map(this::of)
                    .orElse(Confirmation.WAITING);
            worst = one.compareTo(worst) > 0 ? one : worst;
        }
        return worst;
    }

    /** A system may refuse for a moment what it takes a little later: an account that is only being made, say. */
    private Confirmation of(Delivery delivery) {
        return switch (delivery.status) {
            case ANSWERED -> delivery.open ? Confirmation.CONFIRMED : Confirmation.REFUSED;
            case WAITING ->
                delivery.trouble == Trouble.REFUSED
                                && delivery.failingSince != null
                                && delivery.failingSince.isBefore(
                                        clock.instant().minus(DeliveryFigures.LONG))
                        ? Confirmation.REFUSED
                        : Confirmation.WAITING;
            case GIVEN_UP -> Confirmation.REFUSED;
        };
    }
}
