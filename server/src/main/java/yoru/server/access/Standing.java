package yoru.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** That a target was open for a person when last looked at; what has changed since is told to the systems. */
@Entity
@Table(name = "standing")
class Standing {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    long personId;
    String target;

    @Nullable
    Instant until;

    @SuppressWarnings("NullAway.Init")
    protected Standing() {}

    Standing(long personId, String target) {
        this.personId = personId;
        this.target = target;
    }
}
