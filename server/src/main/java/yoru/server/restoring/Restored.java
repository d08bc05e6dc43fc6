package yoru.server.restoring;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** That this database was restored; written by the command that does it. */
@Entity
@Table(name = "restored")
class Restored {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    Instant at;
    Instant backupAt;

    @Nullable
    Instant settledAt;

    @SuppressWarnings("NullAway.Init")
    protected Restored() {}
}
