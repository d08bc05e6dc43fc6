package yoru.server.drift;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** One look at what a system has; it can be left in the middle and gone on with by another server. */
@Entity
@Table(name = "state_check")
class StateCheck {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;
    Instant begunAt;
    String begunBy;

    /** Where the next page begins; none = at the beginning. */
    @Nullable
    String place;

    /** How many entries were read so far. */
    int found;

    @Nullable
    Instant endedAt;

    /** Why it came to no end. */
    @Nullable
    String fault;

    @SuppressWarnings("NullAway.Init")
    protected StateCheck() {}

    StateCheck(String connectionId, Instant begunAt, String begunBy) {
        this.connectionId = connectionId;
        this.begunAt = begunAt;
        this.begunBy = begunBy;
    }

    long id() {
        return Objects.requireNonNull(id);
    }
}
