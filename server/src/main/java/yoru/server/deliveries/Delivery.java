package yoru.server.deliveries;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.server.deliveries.Deliveries.State;

/**
 * What one system is to be told about one person at one course. It holds the state wanted now, not the steps that led
 * there: of open, closed, open again while the system was away, only the last is sent.
 */
@Entity
@Table(name = "delivery")
class Delivery {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;
    long personId;
    String course;
    boolean open;

    @Nullable
    Instant until;

    /** Counts the states wanted; goes along as the revision, so that an older one arriving late changes nothing. */
    int revision;

    @Enumerated(EnumType.STRING)
    State status;

    int attempts;

    @Nullable
    Instant failingSince;

    @Nullable
    Instant nextTryAt;

    @Nullable
    String lastAnswer;

    @Nullable
    Instant lastAnswerAt;

    /** The fact from which the wanted state followed. */
    @Nullable
    Long factSeq;

    @SuppressWarnings("NullAway.Init")
    protected Delivery() {}

    Delivery(String connectionId, long personId, String course) {
        this.connectionId = connectionId;
        this.personId = personId;
        this.course = course;
        this.status = State.WAITING;
    }

    long id() {
        return Objects.requireNonNull(id);
    }

    boolean says(boolean isOpen, @Nullable Instant end) {
        return revision > 0 && open == isOpen && Objects.equals(until, end);
    }

    void want(boolean isOpen, @Nullable Instant end, @Nullable Long fact) {
        open = isOpen;
        until = end;
        factSeq = fact;
        revision++;
        startOver();
    }

    void startOver() {
        status = State.WAITING;
        attempts = 0;
        failingSince = null;
        nextTryAt = null;
    }
}
