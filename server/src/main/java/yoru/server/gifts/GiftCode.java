package yoru.server.gifts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A code with which a gift can be taken up; only what is computed from it is kept. */
@Entity
@Table(name = "gift_code")
class GiftCode {

    @Id
    String hash;

    String orderId;
    String line;
    int seat;
    Instant madeAt;

    @SuppressWarnings("NullAway.Init")
    protected GiftCode() {}

    GiftCode(String hash, Gift.Place place, Instant madeAt) {
        this.hash = hash;
        this.orderId = place.orderId();
        this.line = place.line();
        this.seat = place.seat();
        this.madeAt = madeAt;
    }

    Gift.Place place() {
        return new Gift.Place(orderId, line, seat);
    }
}
