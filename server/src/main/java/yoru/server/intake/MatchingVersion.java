package yoru.server.intake;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A matching as it was kept once; the newest counts. */
@Entity
@Table(name = "matching_version")
@IdClass(MatchingVersion.Key.class)
class MatchingVersion {

    record Key(String connectionId, int number) implements Serializable {}

    @Id
    String connectionId;

    @Id
    int number;

    @JdbcTypeCode(SqlTypes.JSON)
    String document;

    String note;
    String madeBy;
    Instant madeAt;

    @SuppressWarnings("NullAway.Init")
    MatchingVersion() {}
}
