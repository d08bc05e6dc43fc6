package yoru.server.gifts;

import java.time.Clock;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import yoru.core.letters.OpeningLetter;
import yoru.core.orders.OrderAccount;
import yoru.server.announcements.GivableSeats;
import yoru.server.ledger.LedgerReader;
import yoru.server.rulebooks.Rulebooks;

/** The places that a buyer is told of in the letter about what they bought. */
@Component
class OrderSeats implements GivableSeats {

    private static final String BY_ITSELF = "Yoru";

    private final SeatLinks links;
    private final BuyerSeats buyerSeats;
    private final LedgerReader ledger;
    private final Rulebooks rulebooks;
    private final Clock clock;

    OrderSeats(SeatLinks links, BuyerSeats buyerSeats, LedgerReader ledger, Rulebooks rulebooks, Clock clock) {
        this.links = links;
        this.buyerSeats = buyerSeats;
        this.ledger = ledger;
        this.rulebooks = rulebooks;
        this.clock = clock;
    }

    @Override
    @Transactional
    public Optional<OpeningLetter.Seats> of(String id, String buyer) {
        return ledger.order(id, clock.instant())
                .filter(order -> order.person().equals(buyer) && !areKnown(id))
                .map(order -> new OrderAccount(order, rulebooks.current().engine()).givable())
                .filter(free -> free > 0)
                .map(free -> new OpeningLetter.Seats(free, buyerSeats.link(id, BY_ITSELF)));
    }

    @Override
    public boolean areKnown(String order) {
        return links.existsById(order);
    }
}
