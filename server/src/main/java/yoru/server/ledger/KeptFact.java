package yoru.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.Immutable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A fact as it arrived. Written once, by {@link FactTable#insertAll}. */
@Entity
@Immutable
@Table(name = "fact")
class KeptFact {

    @Id
    Long seq;

    String source;
    String eventId;
    String type;
    String subject;

    @Nullable
    String thing;

    Instant happenedAt;
    Instant receivedAt;

    @Nullable
    String connectionId;

    @JdbcTypeCode(SqlTypes.JSON)
    String body;

    @SuppressWarnings("NullAway.Init")
    protected KeptFact() {}
}
