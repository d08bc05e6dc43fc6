package yoru.server.reception;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Objects;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.formats.FactReader;

/** A report that is no fact yet. */
@Entity
@Table(name = "held_report")
class HeldReport {

    /** Why it waits. */
    enum Why {
        GUEST,
        UNKNOWN_CONTACT,
        /** Its order has not been heard of. */
        EARLY
    }

    enum State {
        HELD,
        RELEASED,
        LEFT_OUT
    }

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;
    String source;
    String eventId;

    /** What it is about; all that is said about the same thing waits together. */
    String about;

    @Enumerated(EnumType.STRING)
    Why why;

    String subject;
    String name;
    Instant happenedAt;
    Instant receivedAt;
    String body;

    @Enumerated(EnumType.STRING)
    State state = State.HELD;

    @Nullable
    Instant decidedAt;

    @Nullable
    String decidedBy;

    @SuppressWarnings("NullAway.Init")
    protected HeldReport() {}

    @SuppressWarnings("NullAway.Init")
    HeldReport(String connectionId, String about, Why why) {
        this.connectionId = connectionId;
        this.about = about;
        this.why = why;
    }

    JsonNode event() {
        return FactReader.parse(body.getBytes(StandardCharsets.UTF_8));
    }

    /** @param by none = it came about by itself */
    void become(State decided, Instant at, @Nullable String by) {
        state = decided;
        decidedAt = at;
        decidedBy = by;
    }

    /** Whether what is said next about the same thing shares its fate; by then the person may have become known. */
    boolean waitsWith(BooleanSupplier known) {
        return state != State.RELEASED && !(why == Why.UNKNOWN_CONTACT && known.getAsBoolean());
    }

    long id() {
        return Objects.requireNonNull(id);
    }
}
