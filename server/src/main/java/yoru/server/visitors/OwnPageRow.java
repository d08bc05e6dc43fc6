package yoru.server.visitors;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What is kept about somebody's own page: the page itself is computed. */
@Entity
@Table(name = "own_page")
class OwnPageRow {

    @Id
    long personId;

    /** Links made up to then no longer lead there. */
    @Nullable
    Instant revokedAt;

    /** When they last asked for help to get in. */
    @Nullable
    Instant helpedAt;

    /** When they last asked for another address. */
    @Nullable
    Instant addressAskedAt;

    @SuppressWarnings("NullAway.Init")
    protected OwnPageRow() {}

    OwnPageRow(long personId) {
        this.personId = personId;
    }
}
