package yoru.server.exchange;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** A calendar that can be read under a secret address. */
@Entity
@Table(name = "calendar_feed")
class CalendarFeed {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    /** For whom or what it is. */
    String name;

    String hash;
    Instant madeAt;
    String madeBy;

    /** The account of whoever made it; none where it was made by a version that did not note it. */
    @Column(name = "account_id")
    @Nullable
    UUID account;

    @Nullable
    Instant readAt;

    @SuppressWarnings("NullAway.Init")
    protected CalendarFeed() {}

    CalendarFeed(String name, String hash, Instant madeAt, String madeBy, @Nullable UUID account) {
        this.name = name;
        this.hash = hash;
        this.madeAt = madeAt;
        this.madeBy = madeBy;
        this.account = account;
    }

    long id() {
        return Objects.requireNonNull(id);
    }
}
