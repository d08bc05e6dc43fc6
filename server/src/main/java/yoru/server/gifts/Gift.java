package yoru.server.gifts;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** A gift or a seat that was offered to an address. */
@Entity
@IdClass(Gift.Place.class)
@Table(name = "gift")
class Gift {

    /** How far the offer has come; whether it was taken up the ledger knows. */
    enum State {
        WAITING,
        SENT,
        WITHDRAWN
    }

    /** Which seat of which order. */
    record Place(String orderId, String line, int seat) implements Serializable {

        /** For the queue. The ids may have anything in them, so the length of the first is said. */
        String inWords() {
            return seat + " " + orderId.length() + " " + orderId + line;
        }

        static Place read(String text) {
            var parts = text.split(" ", 3);
            int length = Integer.parseInt(parts[1]);
            return new Place(parts[2].substring(0, length), parts[2].substring(length), Integer.parseInt(parts[0]));
        }
    }

    @Id
    String orderId;

    @Id
    String line;

    @Id
    int seat;

    String address;

    @Enumerated(EnumType.STRING)
    State state;

    @Nullable
    LocalDate sendOn;

    @Nullable
    Instant sentAt;

    @SuppressWarnings("NullAway.Init")
    protected Gift() {}

    Gift(Place place, String address, @Nullable LocalDate sendOn) {
        this.orderId = place.orderId;
        this.line = place.line;
        this.seat = place.seat;
        this.address = address;
        this.sendOn = sendOn;
        this.state = State.WAITING;
    }

    Place place() {
        return new Place(orderId, line, seat);
    }
}
