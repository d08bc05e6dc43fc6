package yoru.server.doors;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** What answered last at an address that a door leads to. */
@Entity
@Table(name = "door_address")
class DoorAddress {

    /** Nothing answered. */
    static final int NOTHING = 0;

    @Id
    String address;

    int status;
    Instant askedAt;

    @SuppressWarnings("NullAway.Init")
    protected DoorAddress() {}

    DoorAddress(String address, int status, Instant askedAt) {
        this.address = address;
        this.status = status;
        this.askedAt = askedAt;
    }
}
