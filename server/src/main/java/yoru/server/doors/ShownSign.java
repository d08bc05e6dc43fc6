package yoru.server.doors;

import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import yoru.server.platform.Sha256;

/** What one system is to show at one place. It holds the state wanted now, which can be stated again. */
@Entity
@Table(name = "shown_sign")
class ShownSign {

    /** How far the system is. */
    enum State {
        WAITING,
        SHOWN,
        /** It does not take it; it is not told again before something changes. */
        REFUSED
    }

    @Embeddable
    record Id(String connectionId, String place) {}

    /** So much of a hash tells places apart; an id may have letters that no header takes. */
    private static final int KEPT = 24;

    @EmbeddedId
    Id id;

    /** As JSON; none = nothing of Yoru's. */
    @JdbcTypeCode(SqlTypes.JSON)
    @Nullable
    String wanted;

    int revision;

    @Enumerated(EnumType.STRING)
    State state = State.WAITING;

    int attempts;

    @Nullable
    Instant nextTryAt;

    @Nullable
    String answer;

    @Nullable
    Instant answeredAt;

    boolean differs;

    @SuppressWarnings("NullAway.Init")
    protected ShownSign() {}

    /** @param before revisions that it may have had of which nothing is known here */
    ShownSign(Id id, int before) {
        this.id = id;
        this.revision = before;
    }

    void want(@Nullable String content) {
        wanted = content;
        startOver();
    }

    void startOver() {
        revision++;
        state = State.WAITING;
        attempts = 0;
        nextTryAt = null;
        differs = false;
    }

    /** The same for every try of one revision. */
    String key() {
        return "yoru-sign-" + Sha256.of(id.place()).substring(0, KEPT) + "-" + revision;
    }
}
