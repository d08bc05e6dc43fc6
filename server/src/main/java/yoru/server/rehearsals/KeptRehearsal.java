package yoru.server.rehearsals;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A story that is run again whenever something is published. */
@Entity
@Table(name = "rehearsal")
class KeptRehearsal {

    @Id
    String id;

    String title;

    /** The whole of it, {@code yoru: story/1}. */
    @JdbcTypeCode(SqlTypes.JSON)
    String document;

    /** Counts how often it was kept, so that nobody writes over what they have not seen. */
    int revision;

    String keptBy;
    Instant keptAt;

    @Nullable
    Instant ranAt;

    /** What was not as expected when it last ran under the rulebook in force; none = nothing. */
    @Nullable
    String fails;

    @SuppressWarnings("NullAway.Init")
    protected KeptRehearsal() {}

    KeptRehearsal(String id) {
        this();
        this.id = id;
    }
}
