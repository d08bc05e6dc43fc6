package yoru.server.gifts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** The secret address under which whoever placed an order sees its seats; one for each order, the newest counts. */
@Entity
@Table(name = "seat_link")
class SeatLink {

    @Id
    String orderId;

    String hash;
    Instant madeAt;
    String madeBy;

    @SuppressWarnings("NullAway.Init")
    protected SeatLink() {}

    SeatLink(String orderId, String hash, Instant madeAt, String madeBy) {
        this.orderId = orderId;
        this.hash = hash;
        this.madeAt = madeAt;
        this.madeBy = madeBy;
    }
}
