package yoru.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Objects;
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

    @Nullable
    Instant readAt;

    @SuppressWarnings("NullAway.Init")
    protected CalendarFeed() {}

    CalendarFeed(String name, String hash, Instant madeAt, String madeBy) {
        this.name = name;
        this.hash = hash;
        this.madeAt = madeAt;
        this.madeBy = madeBy;
    }

    long id() {
        return Objects.requireNonNull(id);
    }
}
