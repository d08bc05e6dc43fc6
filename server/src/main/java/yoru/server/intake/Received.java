package yoru.server.intake;

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

/** A report as it came. */
@Entity
@Table(name = "received")
class Received {

    /** What became of it. */
    enum Outcome {
        /** Its facts are kept. */
        TAKEN,
        /** No rule fits it; it may say nothing that matters. */
        SET_ASIDE,
        /** A rule fits it, and something is missing or wrong. */
        FAULTY,
        /** It came while the system was only tried. */
        TRIED
    }

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;
    String reportId;
    Instant at;
    String body;

    @Enumerated(EnumType.STRING)
    Outcome outcome;

    /** Why, in words. */
    String said;

    @SuppressWarnings("NullAway.Init")
    protected Received() {}

    Received(String connectionId, String reportId, Instant at, String body) {
        this.connectionId = connectionId;
        this.reportId = reportId;
        this.at = at;
        this.body = body;
        this.outcome = Outcome.TRIED;
        this.said = "";
    }

    long id() {
        return Objects.requireNonNull(id);
    }
}
