package yoru.server.followups;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** The address under which somebody can stop letters that answer nothing they did, and whether it was used. */
@Entity
@Table(name = "letter_stop")
class LetterStop {

    @Id
    long personId;

    String code;

    @Nullable
    Instant stoppedAt;

    /** None = by themselves. */
    @Nullable
    String stoppedBy;

    @SuppressWarnings("NullAway.Init")
    protected LetterStop() {}

    LetterStop(long personId, String code) {
        this.personId = personId;
        this.code = code;
    }
}
