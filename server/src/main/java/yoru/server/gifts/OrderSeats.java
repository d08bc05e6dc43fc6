package yoru.server.gifts;

import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.announcements.GivableSeats;

/** The address that a buyer is told in the letter about what they bought. */
@Component
class OrderSeats implements GivableSeats {

    private static final String BY_ITSELF = "Yoru";

    private final SeatLinks links;
    private final BuyerSeats buyerSeats;

    OrderSeats(SeatLinks links, BuyerSeats buyerSeats) {
        this.links = links;
        this.buyerSeats = buyerSeats;
    }

    @Override
    public boolean areKnown(String order) {
        return links.existsById(order);
    }

    @Override
    @Transactional
    public String address(String order) {
        return buyerSeats.link(order, BY_ITSELF);
    }
}
